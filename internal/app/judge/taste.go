package judge

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/google/uuid"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/taste"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A Tasting is how the food of a lesson is tasted.
type Tasting struct {
	Version int            `json:"-"`
	Samples []string       `json:"samples,omitempty"` // what is tasted: dishes, or versions of one
	Words   []string       `json:"words,omitempty"`   // that each is marked by, from 1 to 5
	Meant   map[string]int `json:"meant,omitempty"`   // what its maker meant, by word
	Tests   []TastingTest  `json:"tests,omitempty"`
}

// A TastingTest is what came of a test for a difference or a preference.
type TastingTest struct {
	Test    taste.Test `json:"test"`
	Right   int        `json:"right,omitempty"` // of so many tasters
	Tasters int        `json:"tasters,omitempty"`
	A       int        `json:"a,omitempty"`
	B       int        `json:"b,omitempty"`
}

// A Taste is what one taster marked for a sample.
type Taste struct {
	Sample string         `json:"sample"`
	Marks  map[string]int `json:"marks"`
}

// TastingOf returns how a lesson is tasted; before anybody has said so, its dishes by the
// usual words for the age of the class.
func TastingOf(ctx context.Context, v *lessons.View) (Tasting, error) {
	t := Tasting{}
	version, err := school.In(ctx).ReviewOf(ctx, v.ID, store.Tasting, &t)
	t.Version = version
	if version == 0 && err == nil {
		for _, c := range v.Menu {
			t.Samples = append(t.Samples, c.Dish.Title)
		}
		for _, w := range taste.Vocabulary {
			if w.Usual && (v.Class.Age == 0 || v.Class.Age >= w.From) {
				t.Words = append(t.Words, w.Word)
			}
		}
	}
	return t, err
}

// Mosts of a tasting.
const (
	mostSamples, mostWords = 8, 12
	mostTests              = 20
	mostTastes             = 2000
)

// A TastingForm is how a lesson is tasted, as it was typed.
type TastingForm struct{ Samples, Words, Meant string }

// FormOf returns a tasting in the words of the form.
func (t Tasting) FormOf() TastingForm {
	f := TastingForm{Samples: strings.Join(t.Samples, "\n"), Words: strings.Join(t.Words, ", ")}
	var meant []string
	for _, w := range t.Words {
		if n := t.Meant[w]; n > 0 {
			meant = append(meant, fmt.Sprintf("%s %d", w, n))
		}
	}
	f.Meant = strings.Join(meant, ", ")
	return f
}

// SaveTasting writes how a lesson is tasted, over a version.
func SaveTasting(ctx context.Context, lesson int64, version string, in TastingForm) error {
	t, err := ownTasting(ctx, lesson)
	if err != nil {
		return err
	}
	var f typed.Form
	list := func(field, what, text, sep string, most int) []string {
		var out []string
		for _, x := range strings.Split(text, sep) {
			if x = strings.TrimSpace(x); x == "" {
				continue
			}
			if slices.Contains(out, x) {
				f.Add(field, "“%s” is there twice", words.Short(x))
			}
			if utf8.RuneCountInString(x) > typed.LongestName {
				f.Add(field, "“%s” is longer than %d letters", words.Short(x), typed.LongestName)
			}
			out = append(out, x)
		}
		if len(out) == 0 || len(out) > most {
			f.Add(field, "%s: from 1 to %d, and there are %d", what, most, len(out))
		}
		return out
	}
	t.Samples = list("samples", "What is tasted", in.Samples, "\n", mostSamples)
	t.Words = list("words", "Words", strings.ToLower(in.Words), ",", mostWords)
	t.Meant = map[string]int{}
	for _, x := range strings.Split(strings.ToLower(in.Meant), ",") {
		if x = strings.TrimSpace(x); x == "" {
			continue
		}
		at := strings.LastIndex(x, " ")
		n, err := strconv.Atoi(x[at+1:])
		word := strings.TrimSpace(x[:max(0, at)])
		if err != nil || n < 1 || n > taste.Most || !slices.Contains(t.Words, word) {
			f.Add("meant", "“%s” is none of the words with a number from 1 to %d, such as “%s 4”", words.Short(x), taste.Most, first(t.Words))
			continue
		}
		t.Meant[word] = n
	}
	if err := f.Err(); err != nil {
		return err
	}
	return keepTasting(ctx, lesson, version, t)
}

func first(list []string) string {
	if len(list) == 0 {
		return "salty"
	}
	return list[0]
}

func keepTasting(ctx context.Context, lesson int64, version string, t Tasting) error {
	n, err := strconv.Atoi(version)
	if err != nil {
		return school.ErrChanged
	}
	return school.In(ctx).SaveReview(ctx, lesson, store.Tasting, n, t)
}

// mine returns a lesson of one's own class.
func mine(ctx context.Context, lesson int64) (*lessons.View, error) {
	v, err := lessons.One(ctx, lesson)
	if err != nil {
		return nil, err
	}
	_, err = school.Own(ctx, v.Class.ID)
	return v, err
}

// ownTasting is TastingOf for a lesson of one's own class.
func ownTasting(ctx context.Context, lesson int64) (Tasting, error) {
	v, err := mine(ctx, lesson)
	if err != nil {
		return Tasting{}, err
	}
	return TastingOf(ctx, v)
}

// AddTest keeps what came of a test.
func AddTest(ctx context.Context, lesson int64, version, test, first, second string) error {
	t, err := ownTasting(ctx, lesson)
	if err != nil {
		return err
	}
	var f typed.Form
	x := TastingTest{Test: taste.Test(test)}
	const most = taste.MostTasters
	switch x.Test {
	case taste.Paired:
		x.A, x.B = f.Between("first", "Who liked the first better", first, 0, most), f.Between("second", "Who liked the second better", second, 0, most)
		if f.Problems == nil && x.A+x.B == 0 {
			f.Add("first", "Nobody has said which is better")
		}
	case taste.Triangle, taste.DuoTrio:
		x.Right, x.Tasters = f.Between("first", "Who were right", first, 0, most), f.Between("second", "Tasters", second, 1, most)
		if f.Problems == nil && x.Right > x.Tasters {
			f.Add("first", "%d were right, and there were only %d", x.Right, x.Tasters)
		}
	default:
		f.Add("test", "Choose a test")
	}
	if t.Tests = append(slices.Clone(t.Tests), x); len(t.Tests) > mostTests {
		f.Add("test", "There are %d tests of this lesson already", mostTests)
	}
	if err := f.Err(); err != nil {
		return err
	}
	return keepTasting(ctx, lesson, version, t)
}

// AddTaste keeps what one taster marked for a sample: a number from 1 to 5 for each word,
// of which some may be left out. What arrives twice counts once.
func AddTaste(ctx context.Context, v *lessons.View, press, sample string, marks map[string]string) error {
	t, err := TastingOf(ctx, v)
	if err != nil {
		return err
	}
	var problems problem.List
	x := Taste{Sample: sample, Marks: map[string]int{}}
	if !slices.Contains(t.Samples, sample) {
		problems.Add("sample", "Choose what you have tasted")
	}
	for _, w := range t.Words {
		text := strings.TrimSpace(marks[w])
		if text == "" {
			continue
		}
		n, err := strconv.Atoi(text)
		if err != nil || n < 1 || n > taste.Most {
			problems.Add("marks", "%s: “%s” is no number from 1 to %d", w, words.Short(text), taste.Most)
			continue
		}
		x.Marks[w] = n
	}
	if problems == nil && len(x.Marks) == 0 {
		problems.Add("marks", "Mark at least one word")
	}
	if uuid.Validate(press) != nil {
		problems.Add("press", "The form has no number of its own. Load the page again")
	}
	if err := problems.Err(); err != nil {
		return err
	}
	in := school.In(ctx)
	had, err := in.Records(ctx, store.AboutTasting(v.ID))
	if err != nil {
		return err
	}
	if len(had) >= mostTastes {
		return problem.New("sample", "%d slips were handed in for this lesson already", mostTastes)
	}
	text, err := json.Marshal(x)
	if err != nil {
		return err
	}
	return in.AddRecords(ctx, store.AboutTasting(v.ID), store.Record{Press: press, At: in.Now(), Who: school.Acting(ctx).Name, Doc: text})
}

// A Profile is how a sample was marked by a word.
type Profile struct {
	Word string
	taste.Spread
	Meant int // 0 is not said
}

// Profiles returns how each sample was marked, by the words, and by how many tasters.
func Profiles(ctx context.Context, lesson int64, t Tasting) (map[string][]Profile, map[string]int, error) {
	list, err := school.In(ctx).Records(ctx, store.AboutTasting(lesson))
	if err != nil {
		return nil, nil, err
	}
	marks, tasters := map[string]map[string][]int{}, map[string]int{}
	for _, r := range list {
		var x Taste
		if json.Unmarshal(r.Doc, &x) != nil {
			continue // of another release
		}
		tasters[x.Sample]++
		if marks[x.Sample] == nil {
			marks[x.Sample] = map[string][]int{}
		}
		for w, n := range x.Marks {
			marks[x.Sample][w] = append(marks[x.Sample][w], n)
		}
	}
	out := map[string][]Profile{}
	for _, s := range t.Samples {
		for _, w := range t.Words {
			out[s] = append(out[s], Profile{w, taste.SpreadOf(marks[s][w]), t.Meant[w]})
		}
	}
	return out, tasters, nil
}

// A Balance is what could bring a sample nearer to what was meant.
type Balance struct{ Sample, Says string }

// Balances says for each sample where it is further from what was meant than tasters
// differ, what practised cooks reach for, for a batch of so many grams.
func Balances(t Tasting, profiles map[string][]Profile, grams float64) []Balance {
	var out []Balance
	for _, s := range t.Samples {
		for _, p := range profiles[s] {
			off, much := p.Off(p.Meant)
			if says := taste.Balance(p.Word, much, grams); off && says != "" {
				out = append(out, Balance{s, says})
			}
		}
	}
	return out
}
