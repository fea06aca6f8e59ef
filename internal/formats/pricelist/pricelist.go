// Package pricelist reads what suppliers sell from tables as they send them: it
// recognises the columns, reads sizes and prices in the ways in which people write
// them, and says of each row what is wrong with it.
package pricelist

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/term"
)

// A Row is a line of a list as it was read. Where there are problems, the product
// is not complete.
type Row struct {
	Line     int // from 1, with the headings
	Product  supply.Product
	Maybe    []string // what it may be in the pantry, where that is not certain; of the first few hundred only
	Problems []string
}

// The columns of a list.
type column string

const (
	code   column = "code"
	name   column = "name"
	size   column = "size"
	count  column = "count" // packs in a case
	price  column = "price"
	cents  column = "pence"
	item   column = "item"
	keeps  column = "keeps"
	opened column = "opened"
	days   column = "days"
	most   column = "most"
	second column = "second" // another column of sizes: the unit of an amount, or its amount
)

var headings = map[column][]string{
	code:   {"code", "product code", "item code", "sku", "art", "art no", "article", "article no", "article number", "order code", "ref", "reference", "no", "number", "cat no", "catalogue no", "stock code", "plu", "id"},
	name:   {"name", "product", "product name", "description", "item description", "goods", "article name", "title", "product description", "what", "line"},
	size:   {"size", "pack", "pack size", "packsize", "unit", "unit size", "weight", "contents", "content", "quantity", "qty", "uom", "case size", "net", "net weight", "sold as", "per"},
	count:  {"case", "in case", "units per case", "packs per case", "case qty", "inner", "per case", "units"},
	price:  {"price", "unit price", "pack price", "cost", "net price", "price gbp", "price £", "£", "gbp", "price (£)", "price each", "list price", "price per pack", "your price", "case price", "ex vat", "price ex vat", "pounds", "now", "now £", "offer", "offer price", "sale price", "our price", "special", "gross", "gross price", "inc vat", "price inc vat", "each", "1+", "from 1", "unit £", "unit cost", "unit price £", "cost £", "cost each", "£ each", "cost price", "trade", "trade price", "nett", "nett price", "rrp", "price/unit"},
	cents:  {"pence", "price p", "price (p)", "price in pence", "p"},
	item:   {"item", "pantry", "ingredient", "we call it"},
	keeps:  {"keeps", "keeps days", "keeping time", "shelf life", "shelf life (days)", "shelf life days", "life", "days life", "keeps (days)", "min life", "use within"},
	opened: {"opened", "once opened", "opened days", "after opening", "use within once opened", "opened (days)"},
	days:   {"days", "delivery days", "comes on", "available", "delivered", "availability"},
	most:   {"most", "max", "maximum", "limit", "max qty", "max per order"},
}

func heading(cell string) (column, bool) {
	word := strings.ToLower(strings.Trim(strings.Join(strings.Fields(strings.ReplaceAll(cell, "_", " ")), " "), " .:*#"))
	for c, words := range headings {
		if slices.Contains(words, word) {
			return c, true
		}
	}
	return "", false
}

// searchHead is in how many rows the headings are looked for: lists begin with
// the supplier's address.
const searchHead = 15

// Read reads a list. The error says in a sentence what is missing to read anything.
func Read(rows [][]string, p *pantry.Pantry) ([]Row, error) {
	columns, head := recognise(rows)
	if head < 0 && otherMoney(rows) {
		return nil, fmt.Errorf("the prices are in another money: change them into pounds and pence first")
	}
	if head < 0 {
		columns, rows = []column{name, price, size}, unheaded(apart(rows))
	}
	if rows == nil {
		return nil, fmt.Errorf("no row has headings for the product and its price: name the columns in the first row, for instance Code, Product, Pack, Price, or write a line for each with the price at its end")
	}
	var out []Row
	seen := map[string]int{}
	asked := 0
	for i := head + 1; i < len(rows); i++ {
		cells := map[column]string{}
		for k, c := range columns {
			if c != "" && k < len(rows[i]) && cells[c] == "" {
				cells[c] = strings.TrimSpace(rows[i][k])
			}
		}
		if cells[name] == "" && cells[price] == "" && cells[cents] == "" || cells[code] == "" && cells[price] == "" && cells[cents] == "" {
			continue // an empty row, or a heading in the midst of the list
		}
		if total.MatchString(cells[name]) && cells[code] == "" {
			continue
		}
		if cells[size] == "" && head >= 0 {
			cells[size] = perUnit(rows[head])
		}
		if amount, unit := cells[size], cells[second]; plainNumber.MatchString(amount) && unit != "" {
			cells[size] = amount + " " + unit
		} else if plainNumber.MatchString(unit) && amount != "" {
			cells[size] = unit + " " + amount
		}
		r := one(cells, p, asked < mostAsked)
		if r.Line = i + 1; r.Product.Item == "" {
			asked++
		}
		if r.Product.Code == "" {
			r.Product.Code = strings.ToLower(strings.Join(strings.Fields(cells[name]+" "+cells[size]), " "))
		}
		if first, ok := seen[r.Product.Code]; ok {
			r.Problems = append(r.Problems, fmt.Sprintf("the code %s is in row %d already: leave one out", r.Product.Code, first))
		} else {
			seen[r.Product.Code] = r.Line
		}
		out = append(out, r)
	}
	return out, nil
}

// total is what stands below a list, or a till's receipt.
var total = pattern.Must(`(?i)^(?:sub|grand|order|net|gross)?[ -]?total\b|^(?:vat|carriage|balance|amount) ?(?:due|charge)?$`)

// perKilo is a heading of prices for so much of everything.
var perKilo = pattern.Must(`(?i)^(?:price|cost|£|p)?\s*(?:£|\(£\))?\s*(?:per|/|a)\s*` + unit + `\s*(?:£|\(£\))?$`)

// perUnit is the size that the heading of the prices names; empty where it names none.
func perUnit(head []string) string {
	for _, cell := range head {
		if m := perKilo.FindStringSubmatch(strings.TrimSpace(cell)); m != nil {
			return "1 " + m[1]
		}
	}
	return ""
}

// ended is a line with a price at its end, which is no size: with a sign, in pence, or with
// two places; and for how much it is.
var ended = pattern.Must(`(?i)^(.*\pL.*?)[\s\-–—:=.…]+(£\s?\d+(?:\.\d{2})?|\d+[.,]\d{2}|\d+\s?p)\s*(?:(?:per|a|/|for)\s*([\w.]+ ?\w*)|(each|ea)|\((.+)\))?$`)

// soMany is the end of what is sold by so many: "Leeks 3 for" £1.
var soMany = pattern.Must(`(?i)^(.+?)[\s,]+(\d+)(?:\s+\pL+)?\s+for$`)

func otherMoney(rows [][]string) bool {
	return slices.ContainsFunc(rows, func(r []string) bool {
		return inOtherMoney(strings.Join(r, " "))
	})
}

func inOtherMoney(text string) bool {
	return strings.ContainsAny(text, "€$") || strings.Contains(text, "EUR") || strings.Contains(text, "USD")
}

// apart makes a row of each thing of a message that parts them by commas: "passata 500g 65p,
// penne 3kg £4.20".
func apart(rows [][]string) [][]string {
	var things [][]string
	cells, lines := 0, 0
	for _, r := range rows {
		if ended.MatchString(strings.TrimSpace(strings.Join(r, " "))) {
			lines++
		}
		for _, c := range r {
			c = strings.TrimSpace(beforeList.ReplaceAllString(c, ""))
			if ended.MatchString(c) {
				cells++
			}
			if c != "" && !greeting.MatchString(c) {
				things = append(things, []string{c})
			}
		}
	}
	if cells < 2 || cells <= lines {
		return rows
	}
	return things
}

var greeting = pattern.Must(`(?i)^(?:hi|hello|hey|dear|good morning|good afternoon|morning|thanks|thank you|cheers|regards|best wishes)\b[^\d]*$`)

// beforeList stands before the first thing of a message.
var beforeList = pattern.Must(`(?i)^[^\d:]*\b(?:prices?|list|offers?|deals?|quotes?|today|tomorrow|this week|next week)\s*:\s+`)

// unheaded parts rows without headings into the product, its price, which stands at the
// end, and for how much that is, where it is said; nil where most have none. What has none
// and is no heading is asked about.
func unheaded(rows [][]string) [][]string {
	out := make([][]string, len(rows))
	found := 0
	for i, r := range rows {
		line := strings.TrimSpace(strings.Join(r, " "))
		m := ended.FindStringSubmatch(line)
		switch {
		case m != nil:
			found++
			out[i] = []string{m[1], m[2], m[3] + m[4] + m[5]}
			if many := soMany.FindStringSubmatch(m[1]); many != nil {
				out[i] = []string{many[1], m[2], many[2]}
			}
		case strings.HasSuffix(line, ":"), found == 0 && strings.HasSuffix(line, "!") && !strings.ContainsAny(line, "0123456789"):
			out[i] = []string{line, "", ""}
		default:
			out[i] = []string{line, line, ""}
		}
	}
	if 2*found < len(rows) {
		return nil
	}
	return out
}

var plainNumber = pattern.Must(`^\d+(?:[.,]\d+)?$`)

// recognise finds the row of the headings; -1 where there is none.
func recognise(rows [][]string) ([]column, int) {
	for i, row := range rows[:min(len(rows), searchHead)] {
		columns := make([]column, len(row))
		found := map[column]bool{}
		packed := slices.ContainsFunc(row, func(c string) bool { return sizeOfPack.MatchString(strings.TrimSpace(c)) })
		taxed := slices.ContainsFunc(row, func(c string) bool { return strings.Contains(strings.ToLower(c), "vat") })
		for k, cell := range row {
			c, ok := heading(cell)
			if taxed && strings.EqualFold(strings.TrimSpace(cell), "net") {
				c = price
			}
			if perKilo.MatchString(strings.TrimSpace(cell)) {
				c, ok = price, true
			}
			if c == size && packed && ordered.MatchString(strings.TrimSpace(cell)) {
				continue // how many were bought
			}
			if c == size && found[size] {
				c = second
			}
			if ok && !found[c] {
				columns[k], found[c] = c, true
			}
		}
		if !found[name] && found[item] { // who has one word for both means the product
			columns[slices.Index(columns, item)], found[name] = name, true
		}
		if found[name] && (found[price] || found[cents]) {
			return columns, i
		}
	}
	return nil, -1
}

var (
	sizeOfPack = pattern.Must(`(?i)^(?:pack(?: ?size)?|size|unit size|weight|contents?|net weight|case size)$`)
	ordered    = pattern.Must(`(?i)^(?:qty|quantity)\.?$`)
)

// mostAsked is of how many rows it is worked out what they may be: that takes time,
// and nobody reads more.
const mostAsked = 300

const longestName = 120

func one(cells map[column]string, p *pantry.Pantry, asks bool) Row {
	var r Row
	k := &r.Product
	bad := func(format string, args ...any) { r.Problems = append(r.Problems, fmt.Sprintf(format, args...)) }
	k.Code, k.Name = cells[code], strings.Join(strings.Fields(cells[name]), " ")
	switch n := len([]rune(k.Name)); {
	case n == 0:
		bad("there is no name")
	case n > longestName:
		bad("the name has %d letters; %d are the most", n, longestName)
	}
	var sized bool
	if k.Size, sized = Size(cells[size]); !sized {
		if k.Size, sized = sizeIn(k.Name); !sized && cells[size] != "" {
			bad("“%s” is no size such as 1.5 kg, 6 x 400 g or 12", cells[size])
		} else if !sized {
			bad("there is no size: write it as 1.5 kg, 6 x 400 g or 12")
		}
	}
	if inName, ok := sizeIn(k.Name); ok && sized && k.Size.Unit.ID == measure.Each.ID && inName.Unit.ID != measure.Each.ID {
		if k.Size.Amount.Cmp(inName.Amount) == 0 { // “Butter 250 g” of 250
			k.Size = inName
		} else { // so many of what the name says
			k.Size = inName.Times(k.Size.Amount)
		}
	}
	if n, err := strconv.Atoi(cells[count]); err == nil && n > 1 && sized {
		k.Size = k.Size.Times(exact.Int(int64(n)))
	}
	if sized && (k.Size.Amount.Sign() <= 0 || k.Size.Base().Cmp(exact.Int(mostSize)) > 0) {
		bad("a pack of %s can't be", k.Size)
	}
	text, scale := cells[price], int64(100)
	if pounds, p := cells[price], cells[cents]; text == "" || alone.MatchString(pounds) && alone.MatchString(p) && len(p) < 3 {
		text, scale = strings.TrimLeft(pounds, "0")+fmt.Sprintf("%02s", p), 1 // pounds and pence in two columns
	}
	pence, err := Price(text, scale)
	if err != nil {
		bad("%s", err)
	}
	k.Pence = pence
	k.Keeps, k.Opened = r.life(cells[keeps], "keeping time"), r.life(cells[opened], "keeping time once opened")
	if k.Days, err = Days(cells[days]); err != nil {
		bad("%s", err)
	}
	if text := cells[most]; text != "" {
		n, err := strconv.Atoi(text)
		if err != nil || n < 0 || n > mostPacks {
			bad("“%s” is no number of packs", text)
		} else {
			k.Most = &n
		}
	}
	r.match(cells[item], p, asks)
	if i, known := p.Find(k.Item); known && sized && k.Size.Unit.ID == measure.Each.ID && plainNumber.MatchString(cells[size]) && !i.Counted() {
		bad("%s what? Write the size as 1.5 kg, 6 x 400 g or 12 pieces", cells[size])
	}
	return r
}

const (
	mostSize  = 1_000_000 // g or ml
	mostPence = 1_000_000
	mostPacks = 10_000
	mostDays  = 3_660
)

// match finds what a product is in the pantry: by the column that says so, else by
// its name without size and number.
func (r *Row) match(said string, p *pantry.Pantry, asks bool) {
	text := said
	if text == "" {
		text = bare(r.Product.Name)
	}
	if _, ok := p.Find(text); ok {
		r.Product.Item = text
		return
	}
	m := p.MatchAs(text, r.Product.Size.Unit)
	if m.Certain {
		r.Product.Item = m.Ingredient.ID
		return
	}
	if !asks {
		return
	}
	for n, maybe := range m.Maybe() {
		const few = 3
		if n < few {
			r.Maybe = append(r.Maybe, maybe.ID)
		}
	}
}

var (
	unitWords = map[string]measure.Unit{
		"kg": measure.Kilogram, "kgs": measure.Kilogram, "kilo": measure.Kilogram, "kilos": measure.Kilogram, "kilogram": measure.Kilogram, "kilograms": measure.Kilogram,
		"g": measure.Gram, "gr": measure.Gram, "gm": measure.Gram, "gms": measure.Gram, "gram": measure.Gram, "grams": measure.Gram, "gramme": measure.Gram, "grammes": measure.Gram,
		"l": measure.Litre, "lt": measure.Litre, "ltr": measure.Litre, "ltrs": measure.Litre, "litre": measure.Litre, "litres": measure.Litre, "liter": measure.Litre, "liters": measure.Litre,
		"ml": measure.Millilitre, "mls": measure.Millilitre, "cl": measure.Centilitre, "dl": measure.Decilitre,
		"oz": measure.Ounce, "lb": measure.Pound, "lbs": measure.Pound, "pt": measure.Pint, "pint": measure.Pint, "pints": measure.Pint,
	}
	numberWords = map[string]int64{"each": 1, "ea": 1, "single": 1, "loose": 1, "one": 1, "piece": 1, "dozen": 12, "doz": 12, "half dozen": 6, "half-dozen": 6, "pair": 2, "head": 1, "bunch": 1}

	figure  = `(\d+(?:[.,]\d+)?|\d*[½¼¾])`
	unit    = `(kgs?|kilos?|kilograms?|gr|gms?|grams?|grammes?|g|ltrs?|lt|lit(?:re|er)s?|l|mls?|cl|dl|oz|lbs?|pints?|pt)`
	several = pattern.Must(`(?i)(?:^|[\s(,-])(\d+)\s*(?:x|×|\*|@|of)\s*` + figure + `\s*` + unit + `\b`)
	counted = pattern.Must(`(?i)^(\d+)\s*[x×]\s+\pL.*?\s` + figure + `\s*` + unit + `\b`)
	turned  = pattern.Must(`(?i)(?:^|[\s(,-])` + figure + `\s*` + unit + `\s*(?:x|×|\*)\s*(\d+)\b`)
	single  = pattern.Must(`(?i)(?:^|[\s(,/-])` + figure + `\s*` + unit + `\b`)
	per     = pattern.Must(`(?i)(?:\bper\s+|/\s*)` + unit + `\b`)
	pieces  = pattern.Must(`(?i)(?:\b(?:pack|pk|pkt|packet|box|case|tray|bag|bunch|set|net)s?\s*(?:of\s*)?|(?:^|\s)[x×]\s*)(\d+)\b|(?:^|\s)(\d+)\s*(?:x\s*)?(?:pieces?|pcs?|pack|pk|ea|each|per\s+\w+|count|ct|eggs?|heads?|s)\b|(?:^|\s)(\d+)\s*[x×]\s*(?:1|each)?\s*$|(?:^|\s)(\d+)['’]s\b|\((\d{1,3})\)$`)
	alone   = pattern.Must(`^\d+$`)
)

func number(s string) exact.Number {
	s = strings.ReplaceAll(s, ",", ".")
	for glyph, part := range map[string]string{"½": "1/2", "¼": "1/4", "¾": "3/4"} {
		if before, ok := strings.CutSuffix(s, glyph); ok {
			n := exact.MustParse(part)
			if before != "" {
				n = n.Add(exact.MustParse(before))
			}
			return n
		}
	}
	n, err := exact.Parse(s)
	if err != nil {
		return exact.Number{}
	}
	return n
}

func quantity(amount exact.Number, word string) measure.Quantity {
	return measure.Quantity{Amount: amount, Unit: unitWords[strings.ToLower(word)]}
}

// Size reads the size of a pack in any of the ways in which lists have it: "1.5kg",
// "6 x 400 g", "per kg", "12", "each", "box of 6", "dozen".
func Size(text string) (measure.Quantity, bool) {
	text = strings.TrimSpace(text)
	if q, ok := sizeIn(text); ok {
		return q, true
	}
	if n, ok := numberWords[strings.ToLower(text)]; ok {
		return measure.Quantity{Amount: exact.Int(n), Unit: measure.Each}, true
	}
	if u, ok := unitWords[strings.ToLower(text)]; ok {
		return measure.Quantity{Amount: exact.Int(1), Unit: u}, true
	}
	if alone.MatchString(text) {
		return measure.Quantity{Amount: number(text), Unit: measure.Each}, true
	}
	return measure.Quantity{}, false
}

// sizeIn finds a size within a name: "Plain flour 1.5kg", "Eggs, medium, tray of 30".
func sizeIn(text string) (measure.Quantity, bool) {
	if m := several.FindStringSubmatch(text); m != nil {
		return quantity(number(m[1]).Mul(number(m[2])), m[3]), true
	}
	if m := counted.FindStringSubmatch(text); m != nil { // “2 x Butter 250 g”
		return quantity(number(m[1]).Mul(number(m[2])), m[3]), true
	}
	if m := turned.FindStringSubmatch(text); m != nil {
		return quantity(number(m[1]).Mul(number(m[3])), m[2]), true
	}
	if m := single.FindStringSubmatch(text); m != nil {
		return quantity(number(m[1]), m[2]), true
	}
	if m := per.FindStringSubmatch(text); m != nil {
		return quantity(exact.Int(1), m[1]), true
	}
	if m := pieces.FindStringSubmatch(text); m != nil {
		for _, n := range m[1:] {
			if n != "" {
				return measure.Quantity{Amount: number(n), Unit: measure.Each}, true
			}
		}
	}
	low := strings.ToLower(text)
	for _, w := range []string{"half dozen", "half-dozen", "dozen"} {
		if strings.Contains(low, w) {
			return measure.Quantity{Amount: exact.Int(numberWords[w]), Unit: measure.Each}, true
		}
	}
	return measure.Quantity{}, false
}

// bare is a name without its size: what is looked for in the pantry.
func bare(text string) string {
	whole := text
	for _, re := range []*pattern.Pattern{several, turned, single, per, pieces} {
		text = re.ReplaceAllString(text, " ")
	}
	text = strings.Trim(strings.Join(strings.Fields(packWords.ReplaceAllString(text, " ")), " "), " ,.-–()/")
	if text == "" { // “6 eggs”, which is all size
		return strings.TrimLeft(whole, "0123456789 x×")
	}
	return text
}

var packWords = pattern.Must(`(?i)\b(?:pack|packet|pkt|pk|box|bag|bags|tin|tins|can|cans|jar|bottle|btl|tub|carton|case|tray|punnet|net|bunch|sachets?|loose|each|ea|class (?:i|1|ii|2)|grade a|uk|catering|value|fresh|dozen|half.dozen|block|drum|tubs?)\b`)

var priced = pattern.Must(`(?i)^(?:£|gbp)?\s*(\d{1,3}(?:[ ,]\d{3})+(?:\.\d+)?|\d+(?:[.,]\d+)?|[.,]\d+)\s*(p|pence|£|gbp)?\s*(?:each|ea|(?:/|per)\s*\w+)?$`)

// Price reads a price in pence; scale is 100 where it stands in pounds.
func Price(text string, scale int64) (int, error) {
	m := priced.FindStringSubmatch(strings.TrimSpace(text))
	if m == nil && inOtherMoney(text) {
		return 0, fmt.Errorf("“%s” is in another money: change it into pounds and pence", text)
	}
	if m == nil {
		return 0, fmt.Errorf("“%s” is no price such as 2.05", text)
	}
	digits := m[1]
	if strings.ContainsAny(digits, " ") || strings.Count(digits, ",") > 1 || strings.Contains(digits, ",") && strings.Contains(digits, ".") {
		digits = strings.NewReplacer(",", "", " ", "").Replace(digits)
	}
	digits = strings.ReplaceAll(digits, ",", ".")
	if strings.HasPrefix(digits, ".") {
		digits = "0" + digits
	}
	if word := strings.ToLower(m[2]); word == "p" || word == "pence" {
		scale = 1
	}
	n, err := exact.Parse(digits)
	if err != nil {
		return 0, fmt.Errorf("“%s” is no price such as 2.05", text)
	}
	n = n.Mul(exact.Int(scale))
	switch pence := n.Round(); {
	case n.Sign() == 0:
		return 0, fmt.Errorf("the price is 0: leave the row out, or say what it costs")
	case pence < 1 || pence > mostPence:
		return 0, fmt.Errorf("“%s” is no price between 1p and £%d", text, mostPence/100)
	default:
		return int(pence), nil
	}
}

var lived = pattern.Must(`(?i)^(\d+)\s*\+?\s*(d|days?|w|wks?|weeks?|m|mths?|months?|y|yrs?|years?)?$`)

// life reads how long something keeps, in days; nil where it does not go off or
// nobody says.
func (r *Row) life(text, what string) *int {
	text = strings.ToLower(strings.TrimSpace(text))
	if slices.Contains([]string{"", "-", "–", "long life", "ambient", "n/a", "none", "unlimited", "does not go off"}, text) {
		return nil
	}
	m := lived.FindStringSubmatch(text)
	if m == nil {
		r.Problems = append(r.Problems, fmt.Sprintf("“%s” is no %s in days", text, what))
		return nil
	}
	n, err := strconv.Atoi(m[1])
	switch {
	case m[2] == "" || m[2][0] == 'd':
	case m[2][0] == 'w':
		n *= 7
	case m[2][0] == 'm':
		n *= 30
	case m[2][0] == 'y':
		n *= 365
	}
	if err != nil || n > mostDays {
		r.Problems = append(r.Problems, fmt.Sprintf("“%s” is no %s of up to %d days", text, what, mostDays))
		return nil
	}
	return &n
}

var dayNames = []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}

var dayWord = pattern.Must(`(?i)\b(mon|tue|wed|thu|fri|sat|sun)[a-z]*\b\s*(-|–|to)?`)

// Days reads the days of the week on which something can come; none said are all.
func Days(text string) (term.Days, error) {
	text = strings.TrimSpace(text)
	if slices.Contains([]string{"", "daily", "every day", "all", "any", "any day"}, strings.ToLower(text)) {
		return 1<<7 - 1, nil
	}
	if low := strings.ToLower(text); low == "weekdays" || low == "school days" {
		return term.SchoolDays, nil
	}
	var d term.Days
	from := -1
	for _, m := range dayWord.FindAllStringSubmatch(text, -1) {
		at := slices.Index(dayNames, strings.ToLower(m[1]))
		d |= 1 << at
		for n := from; from >= 0 && n <= at; n++ {
			d |= 1 << n
		}
		if from = -1; m[2] != "" {
			from = at
		}
	}
	if d == 0 {
		return 0, fmt.Errorf("“%s” names no days such as Mon, Thu", text)
	}
	return d, nil
}

// Rows writes products as a list that Read reads.
func Rows(list []supply.Product) [][]string {
	rows := [][]string{{"Code", "Product", "Pack size", "Price", "Item", "Keeps (days)", "Opened (days)", "Delivery days", "Most"}}
	maybe := func(n *int) string {
		if n == nil {
			return ""
		}
		return strconv.Itoa(*n)
	}
	for _, p := range list {
		size := strings.TrimSpace(p.Size.Amount.Decimal(3) + " " + p.Size.Unit.Symbol)
		on := p.Days.Says()
		if p.Days == term.SchoolDays {
			on = "weekdays"
		}
		rows = append(rows, []string{p.Code, p.Name, size, exact.Frac(int64(p.Pence), 100).Fixed(2), p.Item, maybe(p.Keeps), maybe(p.Opened), on, maybe(p.Most)})
	}
	return rows
}
