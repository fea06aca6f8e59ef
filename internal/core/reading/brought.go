package reading

import (
	"fmt"
	"slices"

	"freshapron/internal/core/pattern"
)

// toBring heads what learners bring from home.
var toBring = pattern.Must(`(?i)\bbring\b`)

// broughtTwice takes what is to be brought and stands in the list of ingredients too for one thing, which is in the
// recipe once, and asks; where the two amounts differ, of each.
func (r *reader) broughtTwice() {
	brought := slices.IndexFunc(r.Headings, func(at int) bool { return toBring.MatchString(r.lineAt(at).plain()) })
	if brought < 0 {
		return
	}
	from, to := r.Headings[brought], maxLines+1
	for _, at := range r.Headings {
		if at > from {
			to = min(to, at)
		}
	}
	isBrought := func(i Ingredient) bool { return from < i.Line && i.Line < to }
	all, same := slices.Clone(r.Ingredients), false
	r.Ingredients = slices.DeleteFunc(r.Ingredients, func(i Ingredient) bool {
		if !isBrought(i) || i.Taking.Ingredient.Pantry == "" {
			return false
		}
		k := slices.IndexFunc(all, func(o Ingredient) bool {
			return !isBrought(o) && o.Taking.Ingredient.Pantry == i.Taking.Ingredient.Pantry
		})
		if k < 0 {
			return false
		}
		l := r.lineAt(i.Line)
		r.Facts = append(r.Facts, Fact{Line: i.Line, Says: l.item, About: "needed"})
		if other := all[k].Taking; other.Ingredient.Amount.Cmp(i.Taking.Ingredient.Amount) != 0 || other.Ingredient.Unit != i.Taking.Ingredient.Unit {
			r.asked = append(r.asked, Unread{i.Line, l.text, fmt.Sprintf("the list has “%s”: which of the two is needed?", other.Reading.Line)})
		} else {
			same = true
		}
		return true
	})
	if same {
		r.asked = append(r.asked, Unread{from, r.lineAt(from).text, "what is to be brought stands in the list too, and is taken once: is that right?"})
	}
}

// lineAt returns the line of a number of the source; an empty one where it is no more.
func (r *reader) lineAt(at int) line {
	if n := slices.IndexFunc(r.lines, func(l line) bool { return l.at == at }); n >= 0 {
		return r.lines[n]
	}
	return line{}
}
