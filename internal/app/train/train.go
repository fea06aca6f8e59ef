// Package train lets learners practise what their next lesson asks of them, without
// an account, and says to who teaches them how far they are.
package train

import (
	"cmp"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"math/big"
	"slices"
	"strings"
	"time"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/even"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/knife"
	"freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/skills"
	core "freshapron/internal/core/train"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/eventfile"
	"freshapron/internal/formats/photo"
	"freshapron/internal/formats/taskfile"
	"freshapron/internal/store"
)

// Drawn is put before a kind of task that is done on a drawn instrument.
const Drawn = "do-"

// Templates are all exercises: what is done on drawn instruments, what is done with the
// knife, and what is answered.
var Templates = func() []string {
	var out []string
	for _, k := range core.Exercises {
		out = append(out, Drawn+string(k))
	}
	out = append(out, knife.ExerciseKinds...)
	for _, k := range core.Kinds {
		out = append(out, string(k))
	}
	return out
}()

// forYoung are the exercises for learners under youngest years.
var forYoung = []string{Drawn + string(core.OnScale), Drawn + string(core.InJug), Drawn + string(core.BySpoons), knife.HoldExercise, knife.OrderExercise, knife.CareExercise, knife.ToolsExercise, string(core.OnScale), string(core.OnDial), string(core.BySpoons), string(core.Time)}

const youngest = 11

// Set sets a practice for a class from one of its lessons: on its amounts, instruments,
// ovens, times and foods, until a week after it.
func Set(ctx context.Context, class, lesson int64) (store.Practice, error) {
	s := school.In(ctx)
	v, err := lessons.One(ctx, lesson)
	if err != nil {
		return store.Practice{}, err
	}
	if v.Class.ID != class {
		return store.Practice{}, problem.New("lesson", "This lesson is of another class")
	}
	source, foods := material(v)
	data, err := taskfile.EncodeSource(source, foods)
	if err != nil {
		return store.Practice{}, err
	}
	now := s.Now()
	until := v.Date.AddDate(0, 0, 8)
	if least := now.AddDate(0, 0, 8); until.Before(least) {
		until = least
	}
	p := store.Practice{Class: class, Lesson: lesson, Title: v.Core.Titles(), Source: data, By: school.Acting(ctx).Name, At: now, Until: until}
	const attempts = 5
	for range attempts {
		if p.Code, err = newCode(codeLength); err != nil {
			return p, err
		}
		if p.ID, err = s.SetPractice(ctx, p); !errors.Is(err, store.ErrTaken) {
			break
		}
	}
	return p, err
}

// material is what a lesson has to practise on.
func material(v *lessons.View) (core.Source, []string) {
	in := v.Room.Instruments
	s := core.Source{Start: v.Period.Start, Bell: v.Period.End}
	for _, x := range in.Scales {
		s.Scales = append(s.Scales, x.Division)
	}
	for _, x := range in.Jugs {
		s.Jugs = append(s.Jugs, x.Marks)
	}
	for _, size := range v.Sizes {
		s.From, s.To = size.Recipe.Yield, size.Pieces
		for _, a := range size.Amounts {
			if a.Exact.Amount.Sign() <= 0 {
				continue
			}
			q := a.Exact
			if i := a.First(); i != nil && i.Measured.Unit.Dimension == a.Exact.Unit.Dimension {
				q = i.Measured
			}
			s.Amounts = append(s.Amounts, core.Amount{Name: a.Name(), Quantity: q, Density: a.Stock.Density(), Pours: a.Stock.Pours, Tolerance: a.Tolerance, Role: string(a.Line.Role)})
		}
	}
	var foods []string
	add := func(text string) {
		if f, ok := knife.FoodNamed(text); ok && !slices.Contains(foods, f.Name) {
			foods = append(foods, f.Name)
		}
	}
	for _, c := range v.Core.Menu {
		for _, i := range c.Recipe.Ingredients {
			add(i.Name)
		}
	}
	for _, d := range v.Fit.Dishes {
		for _, step := range d.Steps {
			if w := int(step.Wait.Floor()); w > 0 {
				s.Waits = append(s.Waits, w)
			}
			for _, u := range step.Uses {
				if u.Temperature != nil && u.Temperature.Cmp(exact.Int(100)) > 0 {
					s.Ovens = append(s.Ovens, *u.Temperature)
				}
			}
		}
	}
	return s, foods
}

// codeLength is of the code that a class comes in by: of 40 bits, and it ends. A token is
// longer: it stands for somebody.
const codeLength, tokenLength = 8, 16

// letters are those that nobody takes for another, and no vowels, so that they make no
// words.
const letters = "bcdfghjkmnpqrstvwxz2345678"

func newCode(n int) (string, error) {
	var b strings.Builder
	for range n {
		i, err := rand.Int(rand.Reader, big.NewInt(int64(len(letters))))
		if err != nil {
			return "", err
		}
		b.WriteByte(letters[i.Int64()])
	}
	return b.String(), nil
}

// ErrShut says that a code or a token lets nobody in any more.
var ErrShut = errors.New("nobody is let in by this")

// A Name is one of those who can come in.
type Name struct {
	ID   int64
	Says string // the given name, with a number where there are several
}

// Come returns a context of whoever comes in by the code of a class, which may do
// nothing else, the practice, and who is in the class.
func Come(ctx context.Context, site *school.Site, code string) (context.Context, store.Practice, []Name, error) {
	p, err := site.Store.PracticeOf(ctx, strings.ToLower(strings.NewReplacer(" ", "", "-", "").Replace(code)), site.Now())
	if errors.Is(err, store.ErrNotFound) {
		return ctx, p, nil, ErrShut
	}
	if err != nil {
		return ctx, p, nil, err
	}
	s, err := site.Of(ctx, p.School)
	if err != nil {
		return ctx, p, nil, err
	}
	ctx = school.As(ctx, s, store.Account{Name: "somebody who practises"})
	names, err := namesOf(ctx, p.Class)
	return ctx, p, names, err
}

func namesOf(ctx context.Context, class int64) ([]Name, error) {
	c, err := school.In(ctx).Class(ctx, class)
	if err != nil {
		return nil, err
	}
	count, all := map[string]int{}, map[string]int{}
	for _, l := range c.Roster {
		all[l.Given]++
	}
	var out []Name
	for _, l := range c.Roster {
		says := cmp.Or(l.Given, "Number "+l.Code)
		if all[l.Given] > 1 {
			count[l.Given]++
			says = fmt.Sprintf("%s %d", says, count[l.Given])
		}
		out = append(out, Name{l.ID, says})
	}
	slices.SortStableFunc(out, func(a, b Name) int { return cmp.Compare(a.Says, b.Says) })
	return out, nil
}

// inUse is for how long after their last try somebody is taken to be still there.
const inUse = 3 * time.Minute

// Pictures are those of which a learner chooses one.
var Pictures = []string{"pear", "leek", "whisk", "pan", "cup", "bread", "fish", "star", "moon", "leaf", "drop", "house"}

// Choose lets somebody in as one of the class, or as nobody of it (0), by their picture,
// and returns the token that stands for them. The first picture is theirs from then on.
// Again says that it is they who are in already, at another device.
func Choose(ctx context.Context, p store.Practice, learner int64, picture string, again bool) (string, error) {
	s := school.In(ctx)
	if learner != 0 {
		names, err := namesOf(ctx, p.Class)
		if err != nil {
			return "", err
		}
		if !slices.ContainsFunc(names, func(n Name) bool { return n.ID == learner }) {
			return "", problem.New("learner", "Choose your name")
		}
		if !slices.Contains(Pictures, picture) {
			return "", problem.New("picture", "Choose your picture")
		}
		if err := s.SetMark(ctx, learner, picture); err != nil {
			return "", err
		}
		own, err := s.Mark(ctx, learner)
		if err != nil {
			return "", err
		}
		if own != picture {
			return "", problem.New("picture", "That is not the picture that was chosen for this name. Try again, or ask your teacher, who can let you choose anew")
		}
		seen, err := s.LastSeen(ctx, learner)
		if err != nil {
			return "", err
		}
		if !again && s.Now().Sub(seen) < inUse {
			return "", problem.New("again", "Somebody is using this name now")
		}
	}
	token, err := newCode(tokenLength)
	if err != nil {
		return "", err
	}
	return token, s.AddPractiser(ctx, store.Practiser{Token: token, Practice: p.ID, Learner: learner, Seen: s.Now()})
}

// A Session is somebody who practises.
type Session struct {
	store.Practiser
	Of        store.Practice
	Source    core.Source
	Foods     []knife.Food
	Tries     []core.Try
	Rating    core.Rating
	templates []string
}

// Enter returns the session of a token, and a context in which it acts.
func Enter(ctx context.Context, site *school.Site, token string) (context.Context, *Session, error) {
	who, of, err := site.Store.PractiserOf(ctx, token, site.Now())
	if errors.Is(err, store.ErrNotFound) {
		return ctx, nil, ErrShut
	}
	if err != nil {
		return ctx, nil, err
	}
	in, err := site.Of(ctx, who.School)
	if err != nil {
		return ctx, nil, err
	}
	ctx = school.As(ctx, in, store.Account{Name: "somebody who practises"})
	s := &Session{Practiser: who, Of: of, templates: Templates}
	if err := s.load(); err != nil {
		return ctx, nil, err
	}
	c, err := in.Class(ctx, of.Class)
	if err != nil {
		return ctx, nil, err
	}
	if c.Age > 0 && c.Age < youngest {
		s.templates = forYoung
	}
	if s.Tries, err = in.TriesOf(ctx, who); err != nil {
		return ctx, nil, err
	}
	s.Rating = core.Rate(s.Tries)
	return ctx, s, nil
}

// An Item is what is to be done: a task to answer, an instrument to use, or something
// with the knife.
type Item struct {
	Template string
	Number   int
	Task     *core.Task
	Do       *core.Exercise
	Knife    *knife.Exercise
}

// Next returns what is to be done next.
func (s *Session) Next(now time.Time) Item {
	return s.Item(s.Rating.Next(s.templates, now, uint64(s.Of.ID)), len(s.Tries))
}

// Item returns the exercise of a template and a number.
func (s *Session) Item(template string, number int) Item {
	seed := uint64(s.Of.ID)
	it := Item{Template: template, Number: number}
	switch kind, drawn := strings.CutPrefix(template, Drawn); {
	case drawn:
		e := core.Do(core.Kind(kind), seed, number, s.Source)
		it.Do = &e
	case slices.Contains(knife.ExerciseKinds, template):
		e := knife.NewExercise(template, seed, number, s.Foods)
		it.Knife = &e
	default:
		t := core.Make(core.Kind(template), seed, number, s.Source)
		it.Task = &t
	}
	return it
}

// Together are the exercises that a whole class can answer by raised hands, in turn.
var Together = []string{string(core.OnScale), knife.HoldExercise, string(core.Time), knife.CareExercise, string(core.Instrument), string(core.BySpoons), knife.ToolsExercise, string(core.InJug), string(core.Scaling), string(core.OvenDial)}

// ForClass returns a session of the whole class in the practice that is set for it; nil
// where none is.
func ForClass(ctx context.Context, class int64) (*Session, error) {
	in := school.In(ctx)
	list, err := in.Practices(ctx, class)
	if err != nil || len(list) == 0 || !list[0].Until.After(in.Now()) {
		return nil, err
	}
	s := &Session{Of: list[0]}
	return s, s.load()
}

// load reads what is practised.
func (s *Session) load() error {
	source, foods, err := taskfile.DecodeSource(s.Of.Source)
	if err != nil {
		return err
	}
	s.Source = source
	for _, name := range foods {
		if f, ok := knife.FoodNamed(name); ok {
			s.Foods = append(s.Foods, f)
		}
	}
	return nil
}

// Known reports whether there is such an exercise.
func Known(template string) bool { return slices.Contains(Templates, template) }

// Try keeps how somebody did, with the evidence for the skills that the exercise
// practises where they are sure of it.
func Try(ctx context.Context, s *Session, it Item, press string, v core.Verdict) error {
	in := school.In(ctx)
	t := core.Try{Template: it.Template, At: in.Now(), Right: v.Right}
	var of []skills.Evidence
	if s.Learner != 0 && v.Right {
		sure := core.Rate(append(slices.Clone(s.Tries), t))
		if sure.Sure(it.Template) >= practisedAt {
			for _, k := range skills.Shipped.Skills {
				if k.Template == strings.TrimPrefix(it.Template, Drawn) {
					of = append(of, skills.Evidence{Skill: k.ID, At: t.At, How: skills.Practised, Level: skills.Begins, By: "the trainer"})
				}
			}
		}
	}
	return in.AddTry(ctx, store.Try{Token: s.Token, Press: press, Try: t, Percent: v.Percent}, s.Learner, of)
}

// practisedAt is how sure somebody has to be for practice to count as evidence.
const practisedAt = 0.7

// A Row says how somebody stands in a practice.
type Row struct {
	Name   string
	ID     int64 // of the learner
	Tries  int
	Right  int
	Last   time.Time
	Stuck  string // the template that went wrong most, where one went wrong twice at least
	Picked bool   // they have chosen a picture
}

// A Report is how a class stands in a practice.
type Report struct {
	store.Practice
	Rows     []Row
	Others   int // tries of those who are not on the list
	Hardest  []Hard
	Finished int // have tried enough
}

// Hard is an exercise that goes wrong.
type Hard struct {
	Template string
	Wrong    int
	Tries    int
}

// Enough tries are about five minutes.
const Enough = 10

// ReportOf returns how a class stands in a practice.
func ReportOf(ctx context.Context, p store.Practice) (Report, error) {
	in := school.In(ctx)
	r := Report{Practice: p}
	names, err := namesOf(ctx, p.Class)
	if err != nil {
		return r, err
	}
	who, err := in.Practisers(ctx, p.ID)
	if err != nil {
		return r, err
	}
	tries, err := in.TriesIn(ctx, p.ID)
	if err != nil {
		return r, err
	}
	byLearner := map[int64][]core.Try{}
	for _, w := range who {
		byLearner[w.Learner] = append(byLearner[w.Learner], tries[w.Token]...)
	}
	hard := map[string]*Hard{}
	for id, list := range byLearner {
		for _, t := range list {
			h := hard[t.Template]
			if h == nil {
				h = &Hard{Template: t.Template}
				hard[t.Template] = h
			}
			if h.Tries++; !t.Right {
				h.Wrong++
			}
		}
		if id == 0 {
			r.Others = len(list)
		}
	}
	for _, n := range names {
		row := Row{Name: n.Says, ID: n.ID}
		wrong := map[string]int{}
		for _, t := range byLearner[n.ID] {
			if row.Tries++; t.Right {
				row.Right++
			} else {
				wrong[t.Template]++
			}
			if t.At.After(row.Last) {
				row.Last = t.At
			}
		}
		for _, k := range Templates {
			if wrong[k] > max(1, wrong[row.Stuck]) {
				row.Stuck = k
			}
		}
		if row.Tries >= Enough {
			r.Finished++
		}
		r.Rows = append(r.Rows, row)
	}
	for _, k := range Templates {
		if h := hard[k]; h != nil && h.Wrong > 0 {
			r.Hardest = append(r.Hardest, *h)
		}
	}
	slices.SortStableFunc(r.Hardest, func(a, b Hard) int { return cmp.Compare(b.Wrong*a.Tries, a.Wrong*b.Tries) })
	return r, nil
}

// Of returns the practices of a class, the last first.
func Of(ctx context.Context, class int64) ([]store.Practice, error) {
	return school.In(ctx).Practices(ctx, class)
}

// End lets nobody in to a practice any more.
func End(ctx context.Context, class, id int64) error {
	s := school.In(ctx)
	list, err := s.Practices(ctx, class)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(list, func(p store.Practice) bool { return p.ID == id }) {
		return school.ErrNotFound
	}
	return s.EndPractice(ctx, id, s.Now())
}

// Forget lets a learner choose another picture.
func Forget(ctx context.Context, class, learner int64) error {
	names, err := namesOf(ctx, class)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(names, func(n Name) bool { return n.ID == learner }) {
		return school.ErrNotFound
	}
	return school.In(ctx).ClearMark(ctx, learner)
}

// A Lacking is a skill that a step of a lesson asks for, and who has not shown it.
type Lacking struct {
	Skill    skills.Skill
	Step     string // the first that asks for it
	Who      []string
	Before   []skills.Skill // what it stands on that is not known of most of them either
	Practise string         // the template of an exercise that would do
}

// A Readiness is how ready a class is for a lesson.
type Readiness struct {
	Known   bool // something is known of somebody
	All     int  // learners
	Lacking []Lacking
}

// Ready returns which skills that a lesson asks for are not known of whom, the most
// first.
func Ready(ctx context.Context, v *lessons.View) (Readiness, error) {
	in := school.In(ctx)
	var out Readiness
	evidence, err := in.Evidence(ctx, v.Class.ID)
	if err != nil {
		return out, err
	}
	names, err := namesOf(ctx, v.Class.ID)
	if err != nil {
		return out, err
	}
	out.Known, out.All = len(evidence) > 0, len(names)
	steps := stepsOf(v)
	wants := skills.Shipped.Wants(steps)
	at := map[string]int{}
	before := map[string]map[string]int{}
	for _, n := range names {
		for _, g := range skills.Shipped.Ready(steps, wants, evidence[n.ID], in.Now()) {
			i, ok := at[g.Skill.ID]
			if !ok {
				i = len(out.Lacking)
				at[g.Skill.ID] = i
				before[g.Skill.ID] = map[string]int{}
				out.Lacking = append(out.Lacking, Lacking{Skill: g.Skill, Step: g.Step, Practise: g.Practise})
			}
			out.Lacking[i].Who = append(out.Lacking[i].Who, n.Says)
			for _, m := range g.Missing[:len(g.Missing)-1] {
				before[g.Skill.ID][m.ID]++
			}
		}
	}
	for i, l := range out.Lacking {
		for _, s := range skills.Shipped.Below(l.Skill.ID) {
			if 2*before[l.Skill.ID][s.ID] > len(l.Who) {
				out.Lacking[i].Before = append(out.Lacking[i].Before, s)
			}
		}
	}
	slices.SortStableFunc(out.Lacking, func(a, b Lacking) int { return cmp.Compare(len(b.Who), len(a.Who)) })
	return out, nil
}

func stepsOf(v *lessons.View) []skills.Step {
	var out []skills.Step
	for _, c := range v.Core.Menu {
		for _, s := range c.Recipe.Steps {
			if s.Kind != fit.Clean {
				out = append(out, skills.Step{Title: s.Title, Words: s.Text})
			}
		}
	}
	return out
}

// Says is an answer in words.
func Says(a core.Answer) string { return taskfile.Says(a) }

// Measure finds the pieces on a photograph beside the strip, whose discs lie the
// reference apart, in millimetres. The photograph is not kept.
func Measure(ctx context.Context, data []byte, reference float64) (even.Photo, error) {
	img, err := photo.Decode(ctx, data)
	if err != nil {
		return even.Photo{}, err
	}
	found, err := even.Measure(img, reference)
	if err != nil {
		return even.Photo{}, problem.New("file", "%s", words.Capital(err.Error()))
	}
	return found, nil
}

// A Skill is how a learner stands at one.
type Skill struct {
	skills.Skill
	skills.Standing
	Open bool // what it stands on is there, and it is not: it could come next
}

// A Person is a learner with what they can.
type Person struct {
	ID     int64
	Name   string // the whole name
	Given  string
	Class  store.Class
	Skills []Skill
}

// Learner returns what a learner of one's own class can.
func Learner(ctx context.Context, class, id int64) (Person, error) {
	in := school.In(ctx)
	c, err := school.Own(ctx, class)
	if err != nil {
		return Person{}, err
	}
	out := Person{ID: id, Class: c.Class}
	for _, l := range c.Class.Roster {
		if l.ID == id {
			out.Name, out.Given = l.Name(), cmp.Or(l.Given, l.Name())
		}
	}
	if out.Name == "" {
		return Person{}, school.ErrNotFound
	}
	known, err := in.Evidence(ctx, class)
	if err != nil {
		return Person{}, err
	}
	level, above := map[string]skills.Level{}, map[string]bool{} // above: something that stands on it is there
	for _, s := range skills.Shipped.Skills {
		at := skills.Of(known[id], s.ID, in.Now())
		level[s.ID] = at.Level
		for _, on := range s.On {
			above[on] = above[on] || at.Level > 0
		}
		out.Skills = append(out.Skills, Skill{Skill: s, Standing: at})
	}
	for i, s := range out.Skills {
		out.Skills[i].Open = s.Level == 0 && !above[s.ID] && !slices.ContainsFunc(s.On, func(on string) bool { return level[on] == 0 && !above[on] })
	}
	return out, nil
}

// See keeps that whoever acts has seen how a learner does something, or asked about it.
func See(ctx context.Context, class, id int64, skill string, how skills.How, level string, press string) error {
	in := school.In(ctx)
	p, err := Learner(ctx, class, id)
	if err != nil {
		return err
	}
	s, ok := skills.Shipped.Find(skill)
	if !ok {
		return problem.New("skill", "Choose what was done")
	}
	at := slices.Index([]string{"1", "2", "3"}, level) + 1
	if at == 0 || (how != skills.Seen && how != skills.Asked) {
		return problem.New("level", "Choose how well")
	}
	e := skills.Evidence{Skill: s.ID, At: in.Now(), How: how, Level: skills.Level(at), By: school.Acting(ctx).Name}
	return in.AddEvidence(ctx, p.ID, press, []skills.Evidence{e})
}

// A Bench is a bench of a lesson that runs, as its screen's code opens it.
type Bench struct {
	Code, Name string
	run        int64
	id         string
	members    []int64
}

// AtBench returns the bench that a code opens, and a context in which it acts.
func AtBench(ctx context.Context, site *school.Site, code string) (context.Context, *Bench, error) {
	x, err := site.Store.ScreenOf(ctx, code, site.Now())
	if errors.Is(err, store.ErrNotFound) {
		return ctx, nil, ErrShut
	}
	if err != nil {
		return ctx, nil, err
	}
	in, err := site.Of(ctx, x.School)
	if err != nil {
		return ctx, nil, err
	}
	ctx = school.As(ctx, in, store.Account{Name: "bench " + x.Bench})
	run, err := in.Run(ctx, x.Run)
	if err != nil {
		return ctx, nil, err
	}
	v, err := lessons.One(ctx, run.Lesson)
	if err != nil {
		return ctx, nil, err
	}
	b := &Bench{Code: x.Code, Name: x.Bench, run: x.Run, id: x.Bench}
	for _, o := range v.Benches {
		if o.ID == x.Bench {
			b.Name = o.Name
			for _, m := range o.Members {
				b.members = append(b.members, m.ID)
			}
		}
	}
	if run.Rehearsal != nil {
		b.members = nil // of a rehearsal nothing is counted
	}
	return ctx, b, nil
}

// How evenly somebody cuts who can, and who begins: the spread of their pieces, per cent.
const cutsEvenly, beginsToCut = 15.0, 30.0

// Measured keeps how even the pieces of a bench were: in the log of the lesson, and as
// evidence for who works there. What arrives twice counts once.
func Measured(ctx context.Context, b *Bench, e even.Evenness, target even.Piece, press string) error {
	in := school.In(ctx)
	says := fmt.Sprintf("%s, %.0f mm on the average", words.Plural(e.N, "piece", "pieces"), e.Mean)
	if e.N > 1 {
		says += fmt.Sprintf(", differing by %.0f %%", e.CV)
	}
	line, err := eventfile.Line(live.Event{ID: press, Kind: live.Note, Bench: b.id, Says: says})
	if err != nil {
		return err
	}
	now := in.Now()
	if err := in.AddEvents(ctx, b.run, []store.Event{{Press: press, At: now, Who: "bench " + b.id, Line: string(line)}}); err != nil {
		return err
	}
	level := skills.Level(0)
	switch {
	case e.N < leastPieces:
	case e.CV <= cutsEvenly:
		level = skills.Can
	case e.CV <= beginsToCut:
		level = skills.Begins
	}
	if level == 0 {
		return nil
	}
	found := skills.Evidence{Skill: cutOf(target), At: now, How: skills.Measured, Level: level, By: says}
	for _, id := range b.members {
		if err := in.AddEvidence(ctx, id, press, []skills.Evidence{found}); err != nil {
			return err
		}
	}
	return nil
}

// leastPieces say something of how evenly somebody cuts.
const leastPieces = 5

// cutOf is the skill by which pieces of a size are cut.
func cutOf(target even.Piece) string {
	sides := slices.Sorted(slices.Values(target[:]))
	const longer = 2.5
	switch {
	case sides[1] > longer*sides[0]:
		return "slices"
	case sides[2] > longer*sides[1]:
		return "sticks"
	case sides[2] < fine:
		return "fine-dice"
	}
	return "dice"
}

// fine, in millimetres, is under which dice are very small.
const fine = 5
