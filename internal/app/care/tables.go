package care

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// TakeRegion takes a table of temperatures and times as it ships.
func TakeRegion(ctx context.Context, id string) error {
	if !slices.ContainsFunc(safety.Regions, func(r safety.Region) bool { return r.ID == id }) {
		return problem.List{{Path: "region", Says: "Choose a table."}}
	}
	return saveTables(ctx, "took the table of temperatures that ships for "+safety.RegionOf(id).Name, func(s store.Settings) store.Settings { return s.WithRegion(safety.RegionOf(id)) })
}

func saveTables(ctx context.Context, says string, f func(store.Settings) store.Settings) error {
	a := school.In(ctx)
	return a.InTransaction(ctx, func(tx *store.School) error {
		s, err := tx.Settings(ctx)
		if err != nil {
			return err
		}
		if err := tx.SaveSettings(ctx, f(s)); err != nil {
			return err
		}
		return school.Note(ctx, tx, store.Note{Did: "changed", About: "safety", Says: says})
	})
}

// SavePictures sets after how many days the pictures that benches take are thrown away.
func SavePictures(ctx context.Context, days string) error {
	var f typed.Form
	n := f.Between("days", "Pictures are kept for", days, 1, mostPictureDays)
	if err := f.Problems.Err(); err != nil {
		return err
	}
	return saveTables(ctx, fmt.Sprintf("keeps the pictures that benches take for %s", words.Plural(n, "day", "days")), func(s store.Settings) store.Settings {
		s.Pictures = n
		return s
	})
}

// mostPictureDays is the longest for which a school keeps pictures of benches.
const mostPictureDays = 400

// A RegionForm is the school's table of temperatures and times as a form has
// it. Core has a rule a line: food; °C; seconds.
type RegionForm struct {
	Name, Core, Hot, Cold, HotOut, ColdOut, CoolTo, CoolIn, Source, Looked string
}

// RegionFormOf returns a table in the words of the form.
func RegionFormOf(r safety.Region) RegionForm {
	g := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	f := RegionForm{
		Name: r.Name, Hot: g(r.Hot), Cold: g(r.Cold), HotOut: strconv.Itoa(r.HotOut), ColdOut: strconv.Itoa(r.ColdOut),
		CoolTo: g(r.CoolTo), CoolIn: strconv.Itoa(r.CoolIn), Source: r.Source, Looked: r.Looked,
	}
	for _, c := range r.Core {
		f.Core += fmt.Sprintf("%s; %s; %d\n", c.Food, g(c.Celsius), c.Seconds)
	}
	return f
}

// SaveRegion writes the school's own table.
func SaveRegion(ctx context.Context, in RegionForm) error {
	var f typed.Form
	celsius := func(field, what, text string) float64 {
		v, err := strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(text), ",", "."), 64)
		if err != nil || !(v >= -30 && v <= 120) {
			f.Add(field, "%s: “%s” is no temperature from −30 to 120 °C.", what, words.Short(text))
			return math.NaN() // of which nothing more is said
		}
		return v
	}
	const longest = 24 * 60
	r := safety.Region{
		ID: "own", Name: strings.TrimSpace(in.Name), Hot: celsius("hot", "Hot", in.Hot), Cold: celsius("cold", "Cold", in.Cold), CoolTo: celsius("cool_to", "Cooled to", in.CoolTo),
		HotOut: f.Between("hot_out", "Hot food may stand", in.HotOut, 0, longest), ColdOut: f.Between("cold_out", "Cold food may stand", in.ColdOut, 0, longest),
		CoolIn: f.Between("cool_in", "Cooled within", in.CoolIn, 1, longest), Source: strings.TrimSpace(in.Source), Looked: strings.TrimSpace(in.Looked),
	}
	if r.Name == "" || utf8.RuneCountInString(r.Name) > typed.LongestName {
		f.Add("name", "Give the table a name.")
	}
	if r.Source == "" {
		f.Add("source", "Say where the figures come from: a table without a source is worth nothing.")
	}
	const day = 24 * 60 * 60
	for _, row := range f.Rows("core", "Core temperatures", in.Core, 3) {
		r.Core = append(r.Core, safety.CoreRule{Food: row[0], Celsius: celsius("core", row[0], row[1]), Seconds: f.Between("core", row[0]+", seconds", row[2], 0, day)})
	}
	if r.Core == nil {
		f.Add("core", "Give at least one core temperature.")
	}
	if r.Cold >= r.Hot {
		f.Add("cold", "Cold food can’t be kept at %g °C and hot food at %g °C.", r.Cold, r.Hot)
	}
	if f.Problems != nil {
		return f.Problems
	}
	return saveTables(ctx, "changed the table of temperatures and times", func(s store.Settings) store.Settings { return s.WithRegion(r) })
}

// SaveWho writes who may do what: a rule a line, as danger; under so many
// years; level, or nothing; watches or does; source.
func SaveWho(ctx context.Context, text string) error {
	var f typed.Form
	var rules []safety.WhoRule
	for _, row := range f.Rows("who", "Who may do what", text, 5) {
		r := safety.WhoRule{Danger: recipe.Danger(row[0]), Under: f.Between("who", row[0]+", years", row[1], 1, class.Oldest), Adult: fit.Adult(row[3]), Source: row[4]}
		level, ok := class.LevelOf(row[2])
		r.Level = level
		switch {
		case !slices.Contains(recipe.Dangers, r.Danger):
			f.Add("who", "“%s” is none of: %s.", words.Short(row[0]), dangerList())
		case !ok:
			f.Add("who", "“%s” is no level: starting, practised, sure, or nothing.", words.Short(row[2]))
		case r.Adult != fit.Watches && r.Adult != fit.Does:
			f.Add("who", "“%s” is neither watches nor does.", words.Short(row[3]))
		}
		rules = append(rules, r)
	}
	if f.Problems != nil {
		return f.Problems
	}
	return saveTables(ctx, "changed who may do what", func(s store.Settings) store.Settings { return s.WithWho(rules) })
}

func dangerList() string {
	var out []string
	for _, d := range recipe.Dangers {
		out = append(out, string(d))
	}
	return strings.Join(out, ", ")
}

// WhoText returns who may do what in the words of the form.
func WhoText(rules []safety.WhoRule) string {
	var b strings.Builder
	for _, r := range rules {
		fmt.Fprintf(&b, "%s; %d; %s; %s; %s\n", r.Danger, r.Under, r.Level.Name(), r.Adult, r.Source)
	}
	return b.String()
}

// A WayForm is another way to do something, as a form has it.
type WayForm struct {
	Name, Says, Times, Adult string
	Dangers                  []string `form:"danger"`
	Helps                    []string
	Instead                  bool
}

// AddWay adds another way of the school's own.
func AddWay(ctx context.Context, in WayForm) error {
	var f typed.Form
	w := safety.Way{Name: strings.TrimSpace(in.Name), Says: strings.TrimSpace(in.Says), Instead: in.Instead, Adult: fit.Adult(in.Adult), Times: 1}
	if w.Name == "" || utf8.RuneCountInString(w.Name) > typed.LongestName {
		f.Add("name", "Give it a name of at most %d letters.", typed.LongestName)
	}
	if utf8.RuneCountInString(w.Says) > 300 {
		f.Add("says", "What stands on the sheet is longer than 300 letters.")
	}
	if strings.TrimSpace(in.Times) != "" {
		v, err := strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(in.Times), ",", "."), 64)
		if err != nil || !(v >= 0.05 && v <= 10) {
			f.Add("times", "“%s” is not how many times as long it takes, from 0.05 to 10.", words.Short(in.Times))
		}
		w.Times = v
	}
	if w.Adult != "" && w.Adult != fit.Watches && w.Adult != fit.Does {
		f.Add("adult", "Choose what the adult does.")
	}
	for _, d := range recipe.Dangers {
		if slices.Contains(in.Dangers, string(d)) {
			w.Dangers = append(w.Dangers, d)
		}
	}
	for _, h := range safety.AccessNeeds {
		if slices.Contains(in.Helps, h) {
			w.Helps = append(w.Helps, h)
		}
	}
	if w.Dangers == nil {
		f.Add("dangers", "Choose what it is for.")
	}
	if w.Helps == nil {
		w.Level = class.Starting // then it is for those who begin
	}
	if f.Problems != nil {
		return f.Problems
	}
	return saveTables(ctx, "added another way: "+w.Name, func(s store.Settings) store.Settings {
		w.ID = fmt.Sprintf("own-%d", len(s.Book().Ways)+1)
		return s.WithWay(w)
	})
}
