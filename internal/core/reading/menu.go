package reading

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
)

// A Dish is one of those that a text is about. Its Text has empty lines for those of the others, so
// that its lines keep their numbers.
type Dish struct {
	Text  string
	Title string // empty where the text is about one dish
	First int    // line, counted from 1
	Last  int
}

// Split parts a text of several dishes, such as a menu or a booklet, and returns the lines above
// the first of them that belong to none. A text of one dish is returned as it is. A dish of its own has
// its title, its list and its method; the topping of another has them too, and stays with it.
func Split(text string, p *pantry.Pantry) (dishes []Dish, above string) {
	lines := strings.Split(ends.Replace(text), "\n")
	if len(lines) < fewestLines {
		return []Dish{{Text: text, First: 1, Last: len(lines)}}, ""
	}
	units := unitsOf(lines, p)
	starts := make([]opening, 0, len(units))
	for k := 1; k < len(units); k++ {
		if o := openingIn(lines, units[k-1].end, units[k].list, false); o.certain(lines, units, k) {
			starts = append(starts, o)
		}
	}
	if len(starts) == 0 {
		return []Dish{{Text: text, First: 1, Last: len(lines)}}, ""
	}
	first := openingIn(lines, 0, units[0].list, true)
	if first.at < 0 {
		first.from = 0
	}
	starts = append([]opening{first}, starts...)
	for k, o := range starts {
		if versionOf.MatchString(o.title) && k > 0 {
			o.title = starts[0].title + ", " + strings.ToLower(o.title)
		}
		to := len(lines)
		if k+1 < len(starts) {
			to = starts[k+1].from
		}
		own := make([]string, len(lines))
		copy(own[o.from:to], lines[o.from:to])
		if o.at >= 0 {
			own[o.at] = o.title
		}
		dishes = append(dishes, Dish{strings.TrimRight(strings.Join(own, "\n"), "\n"), o.title, o.from + 1, to})
	}
	return dishes, strings.TrimSpace(strings.Join(lines[:starts[0].from], "\n"))
}

// ReadFirst reads the first dish of a text as Read does, and leaves the lines of the others unread.
func ReadFirst(text string, sys *measure.System, p *pantry.Pantry) Reading {
	dishes, _ := Split(text, p)
	out := Read(dishes[0].Text, sys, p)
	if len(dishes) == 1 {
		return out
	}
	why := func(line int) string {
		for _, d := range dishes[1:] {
			if d.First <= line && line <= d.Last {
				return fmt.Sprintf("it belongs to another dish, “%s”: bring that in by itself", d.Title)
			}
		}
		return "it stands above the first of several dishes"
	}
	for n, text := range strings.Split(ends.Replace(text), "\n") {
		if line := n + 1; strings.TrimSpace(text) != "" && (line < dishes[0].First || dishes[0].Last < line) {
			out.Unread = append(out.Unread, Unread{line, strings.TrimSpace(text), why(line)})
		}
	}
	slices.SortStableFunc(out.Unread, func(a, b Unread) int { return cmp.Compare(a.Line, b.Line) })
	return out
}

// A unit is a list and the method behind it, by places among the lines.
type unit struct {
	foods         []string // ingredients of the list, by name
	list, end     int      // where it begins, and the place behind its last line of work; 0 while there is none
	counted, last int      // the numbers of the first and of the last step that has one; 0 for none
}

const (
	leastFoods  = 2 // of the list of a dish
	fewestLines = 6 // of two dishes: a title, a list and a method for each
)

// unitsOf returns lists with methods behind them, in order.
func unitsOf(lines []string, p *pantry.Pantry) (units []unit) {
	r := sorted(strings.Join(lines, "\n"), nil, p)
	foods, work := map[int][]string{}, map[int]bool{}
	for _, i := range r.Ingredients {
		foods[i.Line-1] = append(foods[i.Line-1], cmp.Or(i.Taking.Ingredient.Pantry, i.Taking.Ingredient.Name))
	}
	for _, said := range r.prose {
		for _, at := range said.lines {
			work[at-1] = true
		}
	}
	for n := range lines {
		inWork := work[n] && saysWhat(lines[n]) && foods[n] == nil
		switch {
		case foods[n] != nil && (len(units) == 0 || units[len(units)-1].end > 0):
			units = append(units, unit{foods: foods[n], list: n})
		case len(units) == 0:
		case foods[n] != nil:
			u := &units[len(units)-1]
			u.foods = append(u.foods, foods[n]...)
		case inWork:
			u := &units[len(units)-1]
			u.end = n + 1
			if number := numberOf(lines[n]); number > 0 {
				u.counted, u.last = cmp.Or(u.counted, number), number
			}
		}
	}
	// What the method says of amounts is no list.
	return slices.DeleteFunc(units, func(u unit) bool { return len(u.foods) < leastFoods || u.end == 0 })
}

// within reports whether all that one list names stands in another: what is to be brought, and the whole list.
func (u unit) within(other unit) bool {
	return !slices.ContainsFunc(u.foods, func(f string) bool { return !slices.Contains(other.foods, f) })
}

// numberOf returns the number of a step; 0 where it has none.
func numberOf(s string) int {
	m := stepNumber.FindStringSubmatch(s)
	if m == nil {
		return 0
	}
	return small(m[1])
}

var stepNumber = pattern.Must(`(?i)^\s*(?:step\s+)?(\d{1,2})\s*[.):–-]`)

// An opening is where a dish begins.
type opening struct {
	from, at int    // places of its first line and of its title, −1 where that has none
	title    string // without what marks it
	marked   bool   // it says itself that a dish begins: "Recipe 2: …"
	yields   bool   // it says how many it is for
}

// openingIn looks for a title in the lines between two places: the first behind a method, or the last
// before the first list.
func openingIn(lines []string, from, to int, last bool) opening {
	o := opening{from: to, at: -1}
	for n := from; n < to; n++ {
		text := strings.TrimSpace(lines[n])
		l := line{text: text, item: text}
		l.unmark()
		_, _, heading := headingOf(l.plain())
		_, yields := yieldOf(l.plain())
		switch {
		case text == "" || strings.Trim(text, "-–—=*_~# ") == "":
		case yields:
			o.yields = true
		case heading || sentence(text) && len(strings.Fields(text)) > 5:
		case dishMark.FindString(text) == text: // "WEEK 4" alone
			if o.at < 0 || last {
				o = opening{from: n, at: -1, marked: true}
			}
		case o.at < 0 || last:
			mark := dishMark.FindString(text)
			title := l.plain()
			if mark != "" {
				title = text[len(mark):]
			}
			title = strings.Trim(title, "-–—=*_~#: ")
			start := n
			if o.marked && o.at < 0 {
				start = o.from
			}
			o = opening{from: start, at: n, title: title, marked: o.marked && o.at < 0 || mark != "" || l.hashed() || framed.MatchString(text), yields: titledYield.MatchString(title) || inBrackets.MatchString(title)}
		}
	}
	return o
}

var (
	// dishMark says that another dish begins.
	dishMark = pattern.Must(`(?i)^\W*(?:(?:recipe|dish|group|lesson|week|menu|practical|option|table|team|course|task|day)\s*(?:\d{1,2}|[a-h]|one|two|three|four|five)\b|\d{1,2}[.)]\s|(?:starter|main(?: course)?|side(?: dish)?|dessert|pudding)\s*[:–—-])\s*[:.)–—-]*\s*`)
	// framed is a title between lines: "--- Overnight oats ---".
	framed = pattern.Must(`^[-–—=*_~]{2,}\s*\pL.*[-–—=*_~]{2,}$`)
	// someOther begins what belongs to the dish above it.
	someOther = pattern.Must(`(?i)^\W*(?:for (?:the|each|your)\b|ingredients for\b|to (?:serve|finish|decorate|accompany|assemble|make|fill|top|go with)\b|(?:stage|part|step)\b|lesson\b|(?:extension|variations?|alternatives?|optional|extra|option|swap|instead|also|notes?|tips?|equipment|kit|challenge)\b|(?:(?:gluten|dairy|egg|nut|wheat|milk)[ -]free|vegan|vegetarian|halal)\W*$)`)
	// versionOf names a dish by how it differs from the first.
	versionOf = pattern.Must(`(?i)^(?:an? |the )?[\pL -]{3,30} (?:version|variation|option|alternative)$`)
	// partOfDish are parts of a dish by their names; besideDish are such as may be dishes too.
	partOfDish = pattern.Must(`(?i)\b(?:toppings?|fillings?|icing|frosting|base|glaze|marinade|pastry|dough|batter|garnish|crust|crumble topping|syrup|coating|decorat(?:ions?|ing)|assembl(?:y|ing)|finishing|choux|sponge|butter ?cream|rub|seasoning|layers?|mixture)$`)
	besideDish = pattern.Must(`(?i)\b(?:sauce|dressing|dip|salsa|relish|stuffing|custard|mash|gravy|drizzle|cream|meringue|compote|croutons|mix|paste|pesto|crumbs?)$`)
)

// certain reports whether a dish of its own begins there, and no part of the one before.
func (o opening) certain(lines []string, units []unit, k int) bool {
	if o.at < 0 || o.title == "" || len(strings.Fields(o.title)) > 8 || someOther.MatchString(o.title) {
		return false
	}
	if next := units[k-1].last + 1; next > 1 && (units[k].counted == next || numberOf(lines[o.at]) == next) { // the steps count on
		return false
	}
	title := strings.ToLower(strings.TrimSpace(bracket.ReplaceAllString(o.title, "")))
	switch {
	case o.marked:
		return true
	case partOfDish.MatchString(title), units[k-1].within(units[k]):
		return false
	case o.yields:
		return true
	}
	head := strings.ToLower(strings.Join(lines[:units[0].list], "\n"))
	return !besideDish.MatchString(title) && !strings.Contains(head, strings.TrimPrefix(title, "the "))
}

// saysWhat reports whether a line is one of a method.
func saysWhat(s string) bool {
	l := line{text: strings.TrimSpace(s), item: strings.TrimSpace(s)}
	if l.text == "" {
		return false
	}
	l.unmark()
	word, _, _ := headVerb(l.item)
	return word != "" && len(strings.Fields(l.item)) > 1 || sentence(l.item)
}
