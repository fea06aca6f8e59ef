package pattern_test

import (
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"freshapron/internal/core/pattern"
)

// What is found is what the regular expression finds, in texts made of pieces
// that nearly match: of each expression some, cut and put together at random.
func TestFindsWhatTheExpressionFinds(t *testing.T) {
	expressions := []string{
		`(?i)\b(?:bake|baste|bring) (?:for|to)?`, `^\s*(?:step|stage)\s*\d+`, `(?i)(\d+)\s*(?:kg|g|ml|l)\b`, `half|third|(?:one|two) quarters?`, `(?i)k(?:elvin)?s`,
		`x(?:.*foo)?y`, `(?:ab)+c?`, `(?i)purée|é+`, `[a-c]{2,3}x`, `(?i)[ks]t`, `.`, ``, `a|`, `(?:gas|oven|[a-z]+) mark`, `[^a]b$`, `(?s)^.+?end`, `°|º|deg`, "\uFFFD",
	}
	bits := []string{"bake", "BASTE ", "for", "step 4", "Stage", "12 KG", " g", "ml", "half", "one quarter", "quarters", "K", "\u212A", "\u017Ft", "kelvins", "x", "foo", "y", "ab", "c", "purÉe", "É", "abx", "gas", " mark", "b", "end", "°", "\n", "\xff", "\xbf", " "}
	rapid.Check(t, func(t *rapid.T) {
		text := ""
		for _, bit := range rapid.SliceOfN(rapid.SampledFrom(bits), 0, 6).Draw(t, "bits") {
			text += bit
		}
		for _, e := range expressions {
			p, r := pattern.Must(e), regexp.MustCompile(e)
			assert.Equal(t, r.MatchString(text), p.MatchString(text), "%q in %q", e, text)
			assert.Equal(t, r.FindStringSubmatchIndex(text), p.FindStringSubmatchIndex(text), "%q in %q", e, text)
			assert.Equal(t, r.FindAllStringSubmatch(text, -1), p.FindAllStringSubmatch(text, -1), "%q in %q", e, text)
			assert.Equal(t, r.ReplaceAllString(text, "<$0>"), p.ReplaceAllString(text, "<$0>"), "%q in %q", e, text)
			assert.Equal(t, r.Split(text, -1), p.Split(text, -1), "%q in %q", e, text)
		}
	})
}
