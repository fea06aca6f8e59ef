package pantry

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"strconv"
	"strings"
	"sync"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

//go:embed stock.csv
var stockCSV string

// sources of figures that are not from household tables.
var sources = map[string]string{
	"water":              "physics: 1 g/ml at 4 °C, 0.998 at 20 °C",
	"self-raising-flour": "typical: spooned in and levelled 0.53, scooped 0.63",
	"plain-flour":        "typical: spooned in and levelled 0.53, scooped 0.63",
	"soft-brown-sugar":   "typical: packed 0.93, loose 0.72",
	"dark-brown-sugar":   "typical: packed 0.93, loose 0.72",
	"egg-medium":         "typical: UK size M weighs 53 to 63 g in its shell, the shell is about a ninth",
	"egg-large":          "typical: UK size L weighs 63 to 73 g in its shell, the shell is about a ninth",
	"egg-small":          "typical: UK size S weighs under 53 g in its shell, the shell is about a ninth",
}

// Stock returns the pantry that ships with the application.
var Stock = sync.OnceValue(func() *Pantry {
	rows, err := csv.NewReader(strings.NewReader(stockCSV)).ReadAll()
	if err != nil {
		panic("stock.csv: " + err.Error())
	}
	var list []Ingredient
	for n, row := range rows[1:] {
		i, err := stocked(row)
		if err != nil {
			panic(fmt.Sprintf("stock.csv, line %d: %s", n+2, err))
		}
		list = append(list, i)
	}
	return New(list)
})

func stocked(row []string) (Ingredient, error) {
	i := Ingredient{ID: row[0], Name: row[1], Plural: row[2], Also: split(row[3]), Pours: row[5] != "", Role: Role(row[6]), Source: Typical}
	if s, ok := sources[i.ID]; ok {
		i.Source = s
	}
	for _, a := range split(row[7]) {
		i.Allergens = append(i.Allergens, Allergen(a))
	}
	for _, a := range split(row[14]) {
		i.May = append(i.May, Allergen(a))
	}
	for _, t := range split(row[8]) {
		i.From = append(i.From, Trait(t))
	}
	var err error
	if i.Fillings, err = ParseFillings(row[4]); err != nil {
		return i, err
	}
	if row[9] != "" {
		if i.One, err = exact.Parse(row[9]); err != nil {
			return i, err
		}
	}
	if row[10] != "" {
		if i.Bought, err = exact.Parse(row[10]); err != nil {
			return i, err
		}
	}
	if i.Packs, err = ParsePacks(row[11]); err != nil {
		return i, err
	}
	if place, days, ok := strings.Cut(row[12], " "); ok {
		i.Place = place
		if i.Keeps, err = strconv.Atoi(days); err != nil {
			return i, err
		}
	}
	if row[15] != "" {
		percent, err := strconv.Atoi(row[15])
		if err != nil {
			return i, err
		}
		i.Waste = exact.Frac(int64(percent), 100)
	}
	if row[16] != "" {
		if i.Freezes, err = strconv.Atoi(row[16]); err != nil {
			return i, err
		}
	}
	i.Season, err = ParseSeason(row[13])
	return i, err
}

func split(s string) []string {
	if s == "" {
		return nil
	}
	return strings.Split(s, "|")
}

// ParseFillings reads "spooned 0.53|scooped 0.63": g/ml over 0 and up to 3.
func ParseFillings(s string) ([]Filling, error) {
	var out []Filling
	for _, part := range split(s) {
		name, density, ok := strings.Cut(strings.TrimSpace(part), " ")
		d, err := exact.Parse(strings.TrimSpace(density))
		if !ok || err != nil || d.Sign() <= 0 || d.Cmp(exact.Int(3)) > 0 {
			return nil, fmt.Errorf("“%s” is no filling such as “spooned 0.53” (g/ml, up to 3)", part)
		}
		out = append(out, Filling{name, measure.Density{Number: d}})
	}
	return out, nil
}

// FillingsText writes fillings as ParseFillings reads them.
func FillingsText(list []Filling) string {
	var parts []string
	for _, f := range list {
		parts = append(parts, f.Name+" "+f.Density.Decimal(3))
	}
	return strings.Join(parts, "|")
}

// ParsePacks reads "1.5 kg bag 110|6 box 150": a size, what it comes in, and
// its price in pence or cents.
func ParsePacks(s string) ([]Pack, error) {
	var out []Pack
	for _, part := range split(s) {
		f := strings.Fields(part)
		bad := fmt.Errorf("“%s” is no pack such as “1.5 kg bag 110”: size, what it comes in, price in pence", strings.TrimSpace(part))
		if len(f) < 3 {
			return nil, bad
		}
		amount, err := exact.Parse(f[0])
		pence, err2 := strconv.Atoi(f[len(f)-1])
		if err != nil || err2 != nil || amount.Sign() <= 0 || pence < 0 || pence > 1e6 {
			return nil, bad
		}
		p := Pack{Size: measure.Quantity{Amount: amount, Unit: measure.Each}, Word: f[len(f)-2], Pence: pence}
		if len(f) == 4 {
			u, ok := measure.UnitOf(f[1])
			if !ok {
				return nil, bad
			}
			p.Size.Unit = u
		}
		out = append(out, p)
	}
	return out, nil
}

// PacksText writes packs as ParsePacks reads them.
func PacksText(list []Pack) string {
	var parts []string
	for _, p := range list {
		unit := p.Size.Unit.ID
		if unit != "" {
			unit += " "
		}
		parts = append(parts, fmt.Sprintf("%s %s%s %d", p.Size.Amount.Decimal(3), unit, p.Word, p.Pence))
	}
	return strings.Join(parts, "|")
}

// ParseSeason reads "9-4", the first and the last month; empty is all the
// year.
func ParseSeason(s string) (Season, error) {
	if s = strings.TrimSpace(s); s == "" {
		return Season{}, nil
	}
	from, to, _ := strings.Cut(s, "-")
	a, err := strconv.Atoi(strings.TrimSpace(from))
	b, err2 := strconv.Atoi(strings.TrimSpace(to))
	if err != nil || err2 != nil || a < 1 || a > 12 || b < 1 || b > 12 {
		return Season{}, fmt.Errorf("“%s” is no season such as 9-4: the first and the last month", s)
	}
	return Season{a, b}, nil
}

// String writes the season as ParseSeason reads it.
func (s Season) String() string {
	if (s == Season{}) {
		return ""
	}
	return fmt.Sprintf("%d-%d", s.From, s.To)
}
