package pattern

import (
	"cmp"
	"regexp/syntax"
	"slices"
)

const (
	mostTexts = 48 // that a part of an expression can be, to be told one by one
	mostNeeds = 3  // sets of pieces that are looked for
	mostRunes = 12 // of a class, to be told one by one
)

// A form is what is known of the texts that a part of an expression matches: all of them, where they
// are few; else sets of texts of which each match holds one.
type form struct {
	all   []string // nil where they are too many or not known
	needs [][]string
}

var (
	unknown = form{}
	nothing = form{all: []string{""}}
)

// needed returns sets of pieces of which each match of an expression holds one; none where none is
// known.
func needed(expr string) [][]string {
	tree, err := syntax.Parse(expr, syntax.Perl)
	if err != nil {
		return nil
	}
	f := formOf(tree.Simplify()).settled()
	slices.SortStableFunc(f.needs, func(a, b []string) int { return cmp.Compare(worth(b), worth(a)) })
	return f.needs[:min(len(f.needs), mostNeeds)]
}

// worth says how seldom a text holds one of some pieces by chance: long ones, and few.
func worth(need []string) float64 {
	shortest := len(need[0])
	for _, text := range need {
		shortest = min(shortest, len(text))
	}
	return float64(min(shortest, 4)) - float64(len(need))/mostTexts
}

// settled returns what is needed alone: one of all texts, where they are known.
func (f form) settled() form { return form{needs: f.needs}.with(f.all) }

// with returns the form with one of some texts as needed.
func (f form) with(texts []string) form {
	if need := asNeed(texts); need != nil {
		f.needs = append(slices.Clip(f.needs), need)
	}
	return f
}

// asNeed returns texts as a set that is needed; none where one of them is empty.
func asNeed(texts []string) []string {
	if len(texts) == 0 || slices.Contains(texts, "") {
		return nil
	}
	return texts
}

func formOf(e *syntax.Regexp) form {
	switch e.Op {
	case syntax.OpEmptyMatch, syntax.OpBeginLine, syntax.OpEndLine, syntax.OpBeginText, syntax.OpEndText, syntax.OpWordBoundary, syntax.OpNoWordBoundary:
		return nothing
	case syntax.OpLiteral:
		var letters []form
		for _, r := range e.Rune {
			letters = append(letters, oneOf([]rune{r, r}, e.Flags&syntax.FoldCase != 0))
		}
		return inTurn(letters)
	case syntax.OpCharClass:
		return oneOf(e.Rune, false)
	case syntax.OpCapture:
		return formOf(e.Sub[0])
	case syntax.OpPlus:
		return formOf(e.Sub[0]).settled()
	case syntax.OpQuest:
		if f := formOf(e.Sub[0]); f.all != nil && len(f.all) < mostTexts {
			return form{all: append(slices.Clone(f.all), "")}
		}
	case syntax.OpConcat:
		var parts []form
		for _, sub := range e.Sub {
			parts = append(parts, formOf(sub))
		}
		return inTurn(parts)
	case syntax.OpAlternate:
		f := formOf(e.Sub[0])
		for _, sub := range e.Sub[1:] {
			f = f.or(formOf(sub))
		}
		return f
	}
	return unknown
}

// oneOf returns the form of a class of letters, given as ranges.
func oneOf(ranges []rune, fold bool) form {
	var f form
	for i := 0; i < len(ranges); i += 2 {
		for r := ranges[i]; r <= ranges[i+1]; r++ {
			text, ok := small(r, fold)
			if !ok || len(f.all) > mostRunes {
				return unknown
			}
			if !slices.Contains(f.all, text) {
				f.all = append(f.all, text)
			}
		}
	}
	return f
}

// inTurn returns the form of parts one behind another.
func inTurn(parts []form) form {
	var needs [][]string
	run, whole := []string{""}, true // all texts that the parts since the last that is not known can be
	for _, f := range parts {
		needs = append(needs, f.needs...)
		if f.all != nil && len(run)*len(f.all) <= mostTexts {
			run = crossed(run, f.all)
			continue
		}
		needs = form{needs: needs}.with(run).needs
		run, whole = []string{""}, false
		if f.all != nil {
			run = f.all
		}
	}
	if whole {
		return form{all: run}
	}
	return form{needs: needs}.with(run)
}

// crossed returns each of some texts with each of others behind it.
func crossed(texts, others []string) []string {
	var out []string
	for _, a := range texts {
		for _, b := range others {
			out = append(out, a+b)
		}
	}
	return out
}

// or returns the form of one part or another.
func (f form) or(g form) form {
	if f.all != nil && g.all != nil {
		return form{all: slices.Concat(f.all, g.all)}
	}
	a, b := f.best(), g.best()
	if a == nil || b == nil {
		return unknown
	}
	return form{needs: [][]string{slices.Concat(a, b)}}
}

// best returns what says most of what is needed.
func (f form) best() []string {
	needs := f.settled().needs
	if len(needs) == 0 {
		return nil
	}
	return slices.MaxFunc(needs, func(a, b []string) int { return cmp.Compare(worth(a), worth(b)) })
}
