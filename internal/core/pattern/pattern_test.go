package pattern_test

import (
	"regexp"
	"strings"
	"sync"
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
			assert.Equal(t, r.FindString(text), p.FindString(text), "%q in %q", e, text)
			assert.Equal(t, r.FindStringIndex(text), p.FindStringIndex(text), "%q in %q", e, text)
			assert.Equal(t, r.FindStringSubmatch(text), p.FindStringSubmatch(text), "%q in %q", e, text)
			assert.Equal(t, r.FindStringSubmatchIndex(text), p.FindStringSubmatchIndex(text), "%q in %q", e, text)
			assert.Equal(t, r.FindAllString(text, 2), p.FindAllString(text, 2), "%q in %q", e, text)
			assert.Equal(t, r.FindAllStringIndex(text, -1), p.FindAllStringIndex(text, -1), "%q in %q", e, text)
			assert.Equal(t, r.FindAllStringSubmatchIndex(text, -1), p.FindAllStringSubmatchIndex(text, -1), "%q in %q", e, text)
			assert.Equal(t, r.FindAllStringSubmatch(text, -1), p.FindAllStringSubmatch(text, -1), "%q in %q", e, text)
			assert.Equal(t, r.ReplaceAllString(text, "<$0>"), p.ReplaceAllString(text, "<$0>"), "%q in %q", e, text)
			assert.Equal(t, r.ReplaceAllStringFunc(text, strings.ToUpper), p.ReplaceAllStringFunc(text, strings.ToUpper), "%q in %q", e, text)
			assert.Equal(t, r.Split(text, -1), p.Split(text, -1), "%q in %q", e, text)
		}
	})
}

// What each match holds is found in the expression, up to where it is too much to be worth a look.
func TestNeeded(t *testing.T) {
	for expr, want := range map[string][][]string{
		`(?i)Bake`:               {{"bake"}},
		`b[ae]ke?s`:              {{"bakes", "baks", "bekes", "beks"}},
		`.*(oven|gas)\b`:         {{"oven", "gas"}},
		`x+y`:                    {{"x"}, {"y"}},
		`(?:half|third) \d+.cup`: {{"half ", "third "}, {"cup"}, {"0", "1", "2", "3", "4", "5", "6", "7", "8", "9"}},
		`a{2}b*c`:                {{"aa"}, {"c"}},
		`a.b.c.d`:                {{"a"}, {"b"}, {"c"}},
		`(?:a.|bc)`:              {{"a", "bc"}},
		`[a-l]`:                  {{"a", "b", "c", "d", "e", "f", "g", "h", "i", "j", "k", "l"}},
		`[a-m]`:                  {{"a", "b", "c", "d", "e", "f", "g", "h", "i", "j", "k", "l", "m"}},
		`[a-n]`:                  nil,
		`[^x]`:                   nil,
		`a|.`:                    nil,
		`(?:ab)?`:                nil,
		`(?i)é`:                  nil,
		`(?i)°c`:                 {{"°c"}},
		`é`:                      {{"é"}},
		"\uFFFD":                 nil,
		`^$`:                     nil,
		`[a-d][a-d][a-c]`:        {{"aaa", "aab", "aac", "aba", "abb", "abc", "aca", "acb", "acc", "ada", "adb", "adc", "baa", "bab", "bac", "bba", "bbb", "bbc", "bca", "bcb", "bcc", "bda", "bdb", "bdc", "caa", "cab", "cac", "cba", "cbb", "cbc", "cca", "ccb", "ccc", "cda", "cdb", "cdc", "daa", "dab", "dac", "dba", "dbb", "dbc", "dca", "dcb", "dcc", "dda", "ddb", "ddc"}},
		`[a-g][a-g]`:             {{"a", "b", "c", "d", "e", "f", "g"}, {"a", "b", "c", "d", "e", "f", "g"}},
		`(?:[a-l][a-d])?x`:       {{"x"}},
		`(?:[a-g][a-f])?x`:       {{"agx", "x"}},
	} {
		got := pattern.Needed(expr)
		if expr == `(?:[a-g][a-f])?x` { // 42 texts and none: too many to list
			assert.Len(t, got[0], 43)
			continue
		}
		assert.Equal(t, want, got, expr)
	}
}

// A text in which nothing can be found is not searched; one in which something may be is.
func TestMay(t *testing.T) {
	for _, c := range []struct {
		expr, text string
		may        bool
	}{
		{`bake`, "BAKE it", true}, {`bake`, "break it", false}, {`bake`, "", false}, {`a|e`, "break", true}, {`z|q`, "break", false}, {`a`, "b", false}, {`A`, "a", true}, {`Z`, "z", true}, {`@|\[`, "az", false},
		{`(?i)kelvin`, "\u212Aelvin", true}, {`(?i)salt`, "\u017Falt", true}, {`(?i)salt`, "Ä€¿", false}, {`(?i)salt`, "a\u012A", false}, {`.*`, "", true}, {`cup.*oven`, "a cup", false}, {`cup.*oven`, "oven, then cup", true}, {`°`, "180 °C", true}, {`°`, "180 C", false}, {`@`, "a@b", true}, {`{`, "[", false},
	} {
		assert.Equal(t, c.may, pattern.Must(c.expr).May(c.text), "%q in %q", c.expr, c.text)
	}
}

// Whoever is first compiles it, and the others wait.
func TestByManyAtOnce(t *testing.T) {
	p := pattern.Must(`oven|gas`)
	var wait sync.WaitGroup
	for range 8 {
		wait.Go(func() { assert.True(t, p.MatchString("an oven")) })
	}
	wait.Go(pattern.Ready)
	wait.Wait()
}

// What is wrong is found where it is used, and before that by who makes all ready.
func TestReady(t *testing.T) {
	pattern.Ready()
	wrong := pattern.Must(`a(`)
	assert.Equal(t, `a(`, wrong.String())
	assert.Panics(t, func() { wrong.MatchString("a(") })
	pattern.Must(`b(`)
	assert.Panics(t, pattern.Ready)
}
