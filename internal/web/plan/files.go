package plan

import (
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
	"freshapron/internal/web/timeline"
)

// exportPlan sends the plan of a lesson, with the rescues as far as they have
// been tried.
func exportPlan(w http.ResponseWriter, r *http.Request, v *lessons.View) error {
	frame.Attach(w, "application/json", fileName(v)+".plan.json")
	return lessons.WritePlan(w, v.Plan, found(r, v))
}

// writeCalendar sends the lesson with its checkpoints as iCalendar.
func writeCalendar(w http.ResponseWriter, r *http.Request, v *lessons.View) error {
	frame.Attach(w, "text/calendar; charset=utf-8", fileName(v)+".ics")
	return lessons.WriteCalendar(r.Context(), w, v, lesson.Left(v.Plan)+" "+head.Meaning(v.Plan)+". "+v.Core.Grouping()+".")
}

// A filesPage is the view model of the place where files are brought in.
type filesPage struct {
	Name, Lesson, Plan         string
	LessonProblem, PlanProblem []string
	Files                      []fileLink
}

type fileLink struct{ Name, Href, When string }

func (p *place) files(w http.ResponseWriter, r *http.Request) error {
	return p.filesPage(w, r, http.StatusOK, filesPage{})
}

func (p *place) filesPage(w http.ResponseWriter, r *http.Request, status int, page filesPage) error {
	files, err := lessons.Files(r.Context())
	if err != nil {
		return err
	}
	for _, f := range files {
		page.Files = append(page.Files, fileLink{f.Name, "/files/" + f.ID, school.In(r.Context()).Local(f.CreatedAt).Format("2 January, 15:04")})
	}
	return p.Render(w, r, status, templates, "files", frame.Page{Title: "Lesson files", Place: "plan", Data: page})
}

// bring takes a lesson file in, from a file or as text.
func (p *place) bring(w http.ResponseWriter, r *http.Request) error {
	const inMemory = 1 << 20
	if err := r.ParseMultipartForm(inMemory); err != nil && !errors.Is(err, http.ErrNotMultipart) {
		return err
	}
	page := filesPage{Name: r.PostFormValue("name"), Lesson: r.PostFormValue("lesson"), Plan: r.PostFormValue("plan")}
	for field, text := range map[string]*string{"lesson_file": &page.Lesson, "plan_file": &page.Plan} {
		f, head, err := r.FormFile(field)
		if err != nil {
			continue // none was chosen
		}
		data, err := io.ReadAll(f)
		f.Close()
		if err != nil {
			return err
		}
		if head.Filename != "" {
			*text = strings.ToValidUTF8(string(data), "\uFFFD")
			if field == "lesson_file" && page.Name == "" {
				page.Name = head.Filename
			}
		}
	}
	page.Lesson, page.Plan = strings.ReplaceAll(page.Lesson, "\x00", ""), strings.ReplaceAll(page.Plan, "\x00", "")
	id, err := lessons.BringFile(r.Context(), shortName(page.Name), page.Lesson, page.Plan)
	if problems := problem.Of(err); problems != nil {
		for _, q := range problems {
			if q.Path == "plan" {
				page.PlanProblem = append(page.PlanProblem, q.Says)
			} else {
				page.LessonProblem = append(page.LessonProblem, q.Says)
			}
		}
		return p.filesPage(w, r, http.StatusUnprocessableEntity, page)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/files/"+id)
}

func shortName(name string) string {
	const most = 120
	if r := []rune(name); len(r) > most {
		return string(r[:most])
	}
	return name
}

// A filePage is the view model of a lesson file that was brought in.
type filePage struct {
	ID, Name            string
	Title, When         string
	Light, Figure, Says string
	Chance              string
	Looks               []link
	Picture             *timeline.Picture
	Calls               []call
	Lines               []line
	Conflicts           []string
	Given               bool
	Faults              []string
	Rescues             []rescueRow
}

func (p *place) file(w http.ResponseWriter, r *http.Request) error {
	f, err := lessons.OneFile(r.Context(), chi.URLParam(r, "file"))
	if err != nil {
		return err
	}
	by := r.URL.Query().Get("by")
	if by == "" {
		by = timeline.ByBench
	}
	shown := f.Plan
	if f.Given != nil && len(f.Faults) == 0 {
		shown = f.Given
	}
	page := filePage{
		ID: f.ID, Name: f.Name, Title: f.Fit.Title, When: fmt.Sprintf("%s %s–%s", f.Fit.Date, f.Fit.Start, f.Fit.End),
		Light: string(lesson.Good), Figure: lesson.Left(shown), Says: head.Meaning(shown),
		Picture: timeline.Draw(f.Fit, shown, timeline.Look{By: by, Bench: func(id string) string { return "/files/" + f.ID + "?by=" + id }}),
		Lines:   linesFrom(f.Fit, shown, func(string, string) string { return "" }), Given: f.Given != nil, Faults: f.Faults,
	}
	if !shown.Fits {
		page.Light = string(lesson.Stop)
	}
	if f.Plan.Risk.Runs > 0 {
		page.Chance = fmt.Sprintf("About %s, when steps take as unevenly long as they do.", f.Plan.Risk.Benches.Says("bench", "benches"))
	}
	if page.Title == "" {
		page.Title = f.Name
	}
	for _, c := range f.Plan.Conflicts {
		page.Conflicts = append(page.Conflicts, problem.Sentence(c.Says))
	}
	for _, l := range []link{{Label: "All benches", Href: "?by=bench", Current: by == timeline.ByBench}, {Label: "Ovens and other things", Href: "?by=thing", Current: by == timeline.ByThing}} {
		l.Href = "/files/" + f.ID + l.Href
		page.Looks = append(page.Looks, l)
	}
	page.Calls = callsFrom(f.Fit, shown)
	if len(f.Plan.Groups) > 0 && rescue.Needed(f.Plan) && f.Given == nil {
		help, _, err := lessons.HelpFor(r.Context(), f).Wait(r.Context(), longestTry)
		if err != nil {
			return err
		}
		for _, found := range help.Rescues {
			page.Rescues = append(page.Rescues, rescueRow{
				Title: found.Title, DoneBy: f.Fit.At(found.Finish()), Left: leftOf(found), Fits: found.Fits(),
				Chance: benchesDone(found), Costs: found.Costs,
			})
		}
	}
	return p.Render(w, r, http.StatusOK, templates, "file", frame.Page{Title: page.Title, Place: "plan", Data: page})
}

func filePlan(w http.ResponseWriter, r *http.Request) error {
	f, err := lessons.OneFile(r.Context(), chi.URLParam(r, "file"))
	if err != nil {
		return err
	}
	frame.Attach(w, "application/json", "plan.json")
	return lessons.WritePlan(w, f.Plan, nil)
}

func fileLesson(w http.ResponseWriter, r *http.Request) error {
	f, err := lessons.OneFile(r.Context(), chi.URLParam(r, "file"))
	if err != nil {
		return err
	}
	frame.Attach(w, "application/json", "lesson.json")
	return lessons.WriteFile(w, f.Fit)
}
