// Package stocklist reads what somebody has counted in a store, as people write it
// down: a table under headings, lines under the names of places, a note. It says of
// every line what it can't know.
package stocklist

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/table"
)

// A Row is something that was counted.
type Row struct {
	Line   int // of the file
	What   string
	Item   string // id in the pantry; empty where it is none of it
	Name   string
	Amount measure.Quantity
	Guess  string // how much a pack of it is taken to hold, where nobody said
	Place  string
	UseBy  time.Time // zero where none is written, or what is written is none
	Until  string    // what is written for a date
	Price  string    // for all of it, as it was written
	None   bool      // it was looked for, and there is none
	Wrong  string    // why it can't be taken, in a sentence; empty where it can
}

// MostRows is how many rows a count may have.
const MostRows = 2000

// Read reads a count. A date without a year is the next from today on. The error says
// in a sentence why nothing can be read.
func Read(data []byte, p *pantry.Pantry, sys measure.System, today time.Time) ([]Row, error) {
	lines, err := table.Lines(data)
	if err != nil {
		return nil, err
	}
	r := reader{pantry: p, system: sys, today: today}
	if at, columns := headed(lines); at >= 0 {
		r.columns(lines[at+1:], columns)
	} else if text, ok := table.Text(data); ok {
		for n, line := range strings.Split(text, "\n") {
			r.line(n+1, line)
		}
	} else {
		for _, l := range lines {
			r.line(l.At, strings.Join(slices.DeleteFunc(slices.Clone(l.Cells), func(c string) bool { return strings.TrimSpace(c) == "" }), " "))
		}
	}
	switch {
	case len(r.rows) == 0:
		return nil, fmt.Errorf("no line says what was counted: write a line such as “2 kg plain flour” for each, or name the columns in the first row: Item, Amount, Unit, Place, Use by")
	case r.full():
		return nil, fmt.Errorf("the count has more than %d lines: take it in parts", MostRows)
	}
	return r.rows, nil
}

// One reads one line, such as “1.5 kg plain flour”, “3 tins tomatoes” or “no eggs”.
func One(line string, p *pantry.Pantry, sys measure.System, today time.Time) Row {
	r := reader{pantry: p, system: sys, today: today}
	r.line(1, line)
	if len(r.rows) != 1 {
		return Row{Line: 1, What: line, Wrong: fmt.Sprintf("“%s” is not one thing that was counted", words.Short(line))}
	}
	return r.rows[0]
}

// Date reads a date as counts write it: 3 Dec, 3/12/26, or 12/26 for the last day of that month.
func Date(text string, today time.Time) (time.Time, bool) {
	r := reader{today: today}
	return r.date(text)
}

type reader struct {
	pantry *pantry.Pantry
	system measure.System
	today  time.Time
	place  string // under whose name the lines stand
	rows   []Row
}

// A column of a count.
type column string

const (
	item   column = "item"
	amount column = "amount"
	unit   column = "unit"
	place  column = "place"
	useBy  column = "use by"
	price  column = "price"
)

var headings = map[column][]string{
	item:   {"item", "product", "name", "ingredient", "ingredients", "what", "food", "foods", "stock item", "description", "goods", "stock"},
	amount: {"amount", "qty", "quantity", "how much", "how many", "in stock", "count", "counted", "number", "no", "left", "have", "on hand", "stock level", "units", "there"},
	unit:   {"unit", "uom", "size", "pack", "pack size", "packsize", "weight", "measure", "of", "contents", "each"},
	place:  {"place", "where", "where kept", "location", "shelf", "cupboard", "stored", "storage", "store", "kept", "area"},
	useBy:  {"use by", "use_by", "use-by", "useby", "best before", "bb", "bbe", "ub", "expiry", "expiry date", "exp", "expires", "date", "best before date", "use by date", "dates"},
	price:  {"worth", "price", "cost", "value", "paid"},
}

func headingOf(cell string) column {
	word := strings.ToLower(strings.Trim(strings.Join(strings.Fields(cell), " "), " .:*#?"))
	for c, list := range headings {
		if slices.Contains(list, word) {
			return c
		}
	}
	return ""
}

// headed returns the place of the line that names the columns, and which they are; −1 where none does.
func headed(lines []table.Line) (int, map[column]int) {
	const among = 8
	for i, l := range lines[:min(among, len(lines))] {
		columns := map[column]int{}
		for k, cell := range l.Cells {
			if c := headingOf(cell); c != "" {
				if _, ok := columns[c]; !ok {
					columns[c] = k
				}
			}
		}
		if _, ok := columns[item]; ok && len(columns) > 1 {
			return i, columns
		}
	}
	return -1, nil
}

// full reports whether there are more rows already than are taken.
func (r *reader) full() bool { return len(r.rows) > MostRows }

// columns reads the rows below headings.
func (r *reader) columns(lines []table.Line, at map[column]int) {
	for _, l := range lines {
		if r.full() {
			return
		}
		cell := func(c column) string {
			if k, ok := at[c]; ok && k < len(l.Cells) {
				return strings.TrimSpace(l.Cells[k])
			}
			return ""
		}
		name, much, of := cell(item), cell(amount), cell(unit)
		if total.MatchString(name) || name == "" && much == "" && of == "" {
			continue
		}
		if name == "" {
			what := strings.TrimSpace(much + " " + of)
			r.rows = append(r.rows, Row{Line: l.At, What: what, Place: cell(place), Wrong: fmt.Sprintf("“%s” does not say of what", words.Short(what))})
			continue
		}
		if len(name)+len(much)+len(of) > longest {
			r.rows = append(r.rows, Row{Line: l.At, What: words.Short(name), Wrong: "the row is too long: write one for each thing"})
			continue
		}
		if much == "" && of == "" && cell(useBy) == "" && placeName(name) {
			r.place = called(name)
			continue
		}
		x := Row{Line: l.At, Place: cell(place), Price: cell(price)}
		if x.Place == "" {
			x.Place = r.place
		}
		if x.None = none.MatchString(much); x.None {
			much, of = "", ""
		}
		x.What = strings.Join(strings.Fields(counted(strings.Trim(much, " ?"), of)+" "+name), " ")
		r.dated(&x, cell(useBy))
		r.take(x)
	}
}

var (
	number   = pattern.Must(`^\d+(?:[.,]\d+)?$`)
	sized    = pattern.Must(`(?i)^(?:x\s*)?(\d+(?:[.,]\d+)?\s*\pL+)\b`)
	none     = pattern.Must(`(?i)^(?:0+(?:[.,]0+)?|none|nil|no|out|empty|gone|-+|zero)$`)
	total    = pattern.Must(`(?i)^(?:grand |sub-?)?total\b`)
	aside    = pattern.Must(`(?i)^(?:stock|store)?[ -]?(?:take|check|list|count|counted|checked)\b|^(?:date|signed|name|page|week)\b\s*(?:[:\d]|by\b|$)|^(?:hi|hello|thanks)\b`)
	bullet   = pattern.Must(`^\s*(?:[-–—•*·▪☐□✓]+|\d{1,2}[.)])\s+`)
	dateIn   = pattern.Must(`(?i)[\s,(–—-]*\b(?:use[ -]?by|best before|expir(?:y|es)|exp|bbe?|ub)\b[ .:]*([^()]+?)\)?\s*$`)
	timesEnd = pattern.Must(`(?i)^(.*\pL(?:.*\D)?)[\s(]*[x×]\s*(\d+)\)?(?:\s*\(\s*(\d[^()]*)\)|\s+(\d[^()]*))?$`)
	sizeEnd  = pattern.Must(`(?i)^(.*\pL\S*)\s+(\d+(?:[.,]\d+)?\s*(?:g|kg|ml|l|lb|oz))\s*[x×]\s*(\d+)$`)
	noneOf   = pattern.Must(`(?i)^(?:no|zero|0)\s+(\pL.*?)[\s!.]*$|^(\pL.*?)[\s:–-]+(?:none|nil|gone|0|all gone|out)[\s!.]*$`)
	dashed   = pattern.Must(`^(.*\pL.*?)\s*(?:\s[-–—]+|:|\t)\s*(.*\d.*)$`)
	opened   = pattern.Must(`(?i)[\s,]*\(?\b(?:opened|open|full|unopened|sealed)\b\)?|\s+frozen$`)
	places   = pattern.Must(`(?i)^(?:the )?(?:\pL+ )?(?:fridge|freezer|cupboard|shelf|shelves|store|larder|rack|drawer|pantry|trolley|cellar)(?: (?:[a-z]|\d{1,2}|one|two|three|top|bottom|left|right|door|shelf|drawer|cupboard))*$`)
)

// placeName reports whether a line only names a place of the store.
func placeName(line string) bool { return places.MatchString(strings.Trim(line, " :.")) }

// called is the name of a place as it is shown, capitals taken down.
func called(line string) string {
	line = strings.Trim(line, " :.")
	if strings.ToUpper(line) == line {
		line = words.Capital(strings.ToLower(line))
	}
	return line
}

// counted puts an amount and the size or unit behind it together: 3 and "1.5 kg bag" are
// 3 × 1.5 kg.
func counted(much, of string) string {
	switch m := sized.FindStringSubmatch(of); {
	case of == "":
		return much
	case much == "":
		return of
	case m != nil && number.MatchString(much):
		return much + " x " + m[1]
	case number.MatchString(much) || strings.ContainsAny(much, "½¼¾/"):
		return much + " " + of
	default:
		return much
	}
}

// longest is how long a line may be, in bytes.
const longest = 400

// line reads a line without columns.
func (r *reader) line(at int, text string) {
	if r.full() {
		return
	}
	if len(text) > longest {
		r.rows = append(r.rows, Row{Line: at, What: words.Short(text), Wrong: "the line is too long: write one for each thing"})
		return
	}
	text = strings.TrimSpace(bullet.ReplaceAllString(strings.TrimSpace(text), ""))
	if text == "" || total.MatchString(text) || aside.MatchString(text) && !strings.ContainsAny(text, "0123456789") || aside.MatchString(text) && len(r.rows) == 0 {
		return
	}
	if placeName(text) {
		r.place = called(text)
		return
	}
	if where, rest, ok := strings.Cut(text, ":"); ok && placeName(where) {
		r.place = called(where)
		text = strings.TrimSpace(rest)
	}
	for _, part := range apart(text) {
		x := Row{Line: at, Place: r.place}
		if m := dateIn.FindStringSubmatch(part); m != nil {
			if d, ok := r.date(m[1]); ok {
				x.UseBy, part = d, strings.TrimRight(part[:len(part)-len(m[0])], " ,–—-(")
			}
		}
		if m := noneOf.FindStringSubmatch(part); m != nil {
			x.None, part = true, m[1]+m[2]
		}
		x.What = inFront(part)
		r.take(x)
	}
}

// apart are the things of a line that counts several, with commas between.
func apart(text string) []string {
	parts := strings.Split(text, ",")
	for i := range parts {
		parts[i] = strings.TrimSpace(parts[i])
		if parts[i] == "" || !strings.ContainsAny(parts[i][:1], "0123456789½¼¾") {
			return []string{text}
		}
	}
	return parts
}

// inFront writes how many there are before what it is.
func inFront(text string) string {
	if m := sizeEnd.FindStringSubmatch(text); m != nil {
		return m[3] + " x " + m[2] + " " + m[1]
	}
	if m := timesEnd.FindStringSubmatch(text); m != nil {
		if size := m[3] + m[4]; size != "" {
			return m[2] + " x " + size + " " + m[1]
		}
		if size := lastSize.FindStringSubmatch(m[1]); size != nil {
			return m[2] + " x " + size[2] + " " + size[1]
		}
		return m[2] + " " + m[1]
	}
	if m := dashed.FindStringSubmatch(text); m != nil {
		return m[2] + " " + m[1]
	}
	return text
}

var lastSize = pattern.Must(`(?i)^(.*\pL\S*)\s+(\d+(?:[.,]\d+)?\s*(?:g|kg|ml|l|lb|oz))$`)

// take reads what a row says, and how much of it there is.
func (r *reader) take(x Row) {
	x.What = strings.TrimRight(x.What, "! ")
	in := recipe.TakeLine(strings.TrimSpace(opened.ReplaceAllString(x.What, "")), "", r.system, r.pantry).Ingredient
	x.Item, x.Name, x.Amount = in.Pantry, in.Name, in.Quantity
	known, ok := r.pantry.Find(x.Item)
	if ok {
		x.Name = known.Name
	}
	if x.None {
		x.Amount = measure.Quantity{}
		r.rows = append(r.rows, x)
		return
	}
	switch {
	case x.Name == "" || !in.Given():
		x.Wrong = fmt.Sprintf("“%s” does not say how much there is", words.Short(x.What))
	case x.Amount.Amount.Sign() <= 0 || x.Amount.Amount.Cmp(exact.Int(mostAmount)) > 0:
		x.Wrong = fmt.Sprintf("“%s” is no amount of something", words.Short(x.What))
	case ok:
		r.packs(&x, known)
	}
	r.rows = append(r.rows, x)
}

// mostAmount is the most of anything, in whatever unit.
const mostAmount = 1_000_000

// packs takes packs for what they usually hold. How much a number of something is that is
// weighed can't be known.
func (r *reader) packs(x *Row, i pantry.Ingredient) {
	for _, p := range i.Packs {
		same := strings.EqualFold(x.Amount.Unit.ID, p.Word) || x.Amount.Unit.ID == "packet" && len(i.Packs) == 1
		if x.Amount.Unit.ID != "" && same && p.Size.Unit.Dimension != measure.Count {
			x.Guess = fmt.Sprintf("a usual %s of %s", p.Word, p.Size)
			x.Amount = measure.Quantity{Amount: x.Amount.Amount.Mul(p.Size.Amount), Unit: p.Size.Unit}
			return
		}
	}
	if _, ok := i.Grams(x.Amount); !ok && x.Amount.Unit.ID == "" {
		x.Wrong = fmt.Sprintf("“%s” does not say of what: kg, bags, tins?", words.Short(x.What))
	}
}

// dated notes a date that a cell says.
func (r *reader) dated(x *Row, cell string) {
	if cell == "" || none.MatchString(cell) {
		return
	}
	x.Until = cell
	d, ok := r.date(cell)
	if !ok {
		x.Wrong = fmt.Sprintf("“%s” is no date such as 3 Dec 2026", words.Short(cell))
	}
	x.UseBy = d
}

// date reads a date, or a month, whose last day it then is.
func (r *reader) date(text string) (time.Time, bool) {
	text = strings.Join(strings.Fields(strings.ReplaceAll(strings.Trim(text, " .,;"), ",", " ")), " ")
	text = ordinal.ReplaceAllString(text, "$1")
	for _, layout := range []string{time.DateOnly, "2/1/2006", "2/1/06", "2.1.2006", "2.1.06", "2-1-2006", "2-1-06", "2 January 2006", "2 Jan 2006", "2 Jan 06", "2-Jan-06", "2-Jan-2006", "2006-01-02T15:04:05Z", "Mon 2 Jan 2006"} {
		if d, err := time.Parse(layout, text); err == nil {
			return d, near(d, r.today)
		}
	}
	for _, layout := range []string{"2/1", "2.1", "2 January", "2 Jan", "Mon 2 Jan"} {
		if d, err := time.Parse(layout, text); err == nil {
			d = time.Date(r.today.Year(), d.Month(), d.Day(), 0, 0, 0, 0, time.UTC)
			if d.Before(r.today.AddDate(0, -monthsBack, 0)) {
				d = d.AddDate(1, 0, 0)
			}
			return d, true
		}
	}
	for _, layout := range []string{"1/2006", "1/06", "1.2006", "1-2006", "January 2006", "Jan 2006", "Jan 06", "Jan-06", "2006-01"} {
		if d, err := time.Parse(layout, text); err == nil {
			d = d.AddDate(0, 1, -1)
			return d, near(d, r.today)
		}
	}
	return time.Time{}, false
}

// monthsBack is how old a date without a year may be: what is found in a store can be past it.
const monthsBack = 4

var ordinal = pattern.Must(`\b(\d{1,2})(?:st|nd|rd|th)\b`)

func near(d, today time.Time) bool {
	const years = 20
	return d.After(today.AddDate(-years, 0, 0)) && d.Before(today.AddDate(years, 0, 0))
}
