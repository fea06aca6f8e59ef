package train

import (
	"fmt"
	"net/http"
	"strconv"

	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/problem"
	core "freshapron/internal/core/train"
	"freshapron/internal/web/frame"
)

// A wallPage is a task for the whole class, answered by raised hands.
type wallPage struct {
	ID              int64
	Class           string
	At, Number      int // from 0, and as it is said
	Next            int
	Before          int // -1 at the first
	Ask, Answer     string
	Choices         []choice
	Learners, Hands int
	Counted         string
	Problem         string
}

// wall shows one task after the other on the projector; whose hands are up is counted
// and not kept.
func (p *place) wall(w http.ResponseWriter, r *http.Request) error {
	c, err := school.Own(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	s, err := train.ForClass(r.Context(), c.Class.ID)
	if err != nil {
		return err
	}
	q := r.URL.Query()
	n, _ := strconv.Atoi(q.Get("n"))
	n = min(max(n, 0), mostWall)
	m := wallPage{ID: c.Class.ID, Class: c.Class.Name, At: n, Number: n + 1, Next: n + 1, Before: n - 1, Learners: max(len(c.Class.Roster), c.Class.Learners)}
	status := http.StatusOK
	if s == nil {
		m.Problem = "No practice is set for this class. Set one first."
		return p.Render(w, r, http.StatusNotFound, templates, "practice-wall", frame.Page{Title: "Practise together", Data: m})
	}
	it, _ := s.Item(core.Together[n%len(core.Together)], n)
	m.Ask = it.Ask()
	if it.Knife != nil {
		for _, c := range it.Knife.Choices {
			m.Choices = append(m.Choices, choice{c.ID, c.Says, c.Drawn})
			if c.Right {
				m.Answer = c.Says + ". " + c.Why
			}
		}
	} else {
		m.Answer = train.Says(it.Task.Answer())
		for _, t := range it.Task.Tools() {
			m.Choices = append(m.Choices, choice{ID: t.Name, Says: t.Name})
		}
	}
	if text := q.Get("hands"); text != "" {
		if m.Counted, err = counted(text, m.Learners); err != nil {
			status, m.Problem = http.StatusUnprocessableEntity, problem.Sentence(problem.Of(err)[0].Says)
		}
	}
	return p.Render(w, r, status, templates, "practice-wall", frame.Page{Title: "Practise together", Data: m})
}

// mostWall bounds the number of a task.
const mostWall = 10_000

// counted says what so many hands for the right answer mean.
func counted(text string, of int) (string, error) {
	hands, err := strconv.Atoi(text)
	if err != nil || hands < 0 || of > 0 && hands > of {
		return "", problem.New("hands", "“%s” is no number of hands from 0 to %d", text, of)
	}
	says := fmt.Sprintf("%d of %d were right.", hands, of)
	if 4*hands < 3*of {
		says += " Do it once together, and take another of this kind."
	}
	return says, nil
}
