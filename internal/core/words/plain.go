package words

import (
	"html"
	"strings"
	"unicode"

	"freshapron/internal/core/pattern"
)

// Plain writes the signs of web pages, prints and other keyboards as ours, and takes the
// marks of a quoted letter from its lines. It adds no line and takes none away.
func Plain(text string) string {
	if strings.Contains(text, "&") {
		text = entity.ReplaceAllStringFunc(text, func(e string) string {
			return strings.Map(func(r rune) rune {
				if unicode.IsControl(r) || r == '\u2028' || r == '\u2029' {
					return ' '
				}
				return r
			}, html.UnescapeString(e))
		})
	}
	text = signs.Replace(text)
	if isQuoted(text) {
		text = quotedRow.ReplaceAllString(text, "")
	}
	return text
}

// isQuoted reports whether nearly every line that is not empty has the mark of a quoted letter.
func isQuoted(text string) bool {
	rows, quoted := 0, 0
	for line := range strings.Lines(text) {
		switch line = strings.TrimSpace(line); {
		case strings.HasPrefix(line, ">"):
			quoted++
			rows++
		case line != "":
			rows++
		}
	}
	return rows > 0 && quoted*10 >= rows*9
}

var (
	entity = pattern.Must(`&(?:[a-zA-Z]{2,8}\d{0,2}|#\d{2,6}|#x[0-9a-fA-F]{2,5});`)

	// signs are letters that a print joins, breaks that may be made in a word, spaces and
	// figures of other widths, and signs that are several in one.
	signs = strings.NewReplacer("ﬁ", "fi", "ﬂ", "fl", "ﬀ", "ff", "ﬃ", "ffi", "ﬄ", "ffl", "\u00ad", "", "\u200b", "", "\ufeff", "",
		"\u00a0", " ", "\u2002", " ", "\u2003", " ", "\u2007", " ", "\u2009", " ", "\u202f", " ", "℃", "°C", "℉", "°F", "⁄", "/", "−", "-", "‐", "-", "‑", "-",
		"０", "0", "１", "1", "２", "2", "３", "3", "４", "4", "５", "5", "６", "6", "７", "7", "８", "8", "９", "9")

	quotedRow = pattern.Must(`(?m)^[ \t]*>(?:[ \t]?>)*[ \t]?`)
)
