package train

import (
	"encoding/json"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strings"

	"freshapron/internal/app/train"
	"freshapron/internal/core/even"
	"freshapron/internal/core/knife"
	"freshapron/internal/core/problem"
	core "freshapron/internal/core/train"
	"freshapron/internal/core/words"
)

// judged judges what was done, by the core.
func judged(it core.Item, s *train.Session, r *http.Request) (core.Verdict, verdict, error) {
	switch {
	case it.Do != nil:
		var in drawingJSON
		if err := json.Unmarshal([]byte(r.PostFormValue("drawing")), &in); err != nil {
			return core.Verdict{}, verdict{}, problem.New("drawing", "Nothing has been measured out yet")
		}
		d := in.drawing(it.Do.Kind)
		if err := d.Check(); err != nil {
			return core.Verdict{}, verdict{}, err
		}
		return it.Do.Judge(d), verdict{}, nil
	case it.Knife != nil:
		return judgedKnife(it.Knife, r)
	}
	given, err := it.Task.Read(r.PostFormValue("answer"))
	if err != nil {
		return core.Verdict{}, verdict{}, err
	}
	v := it.Task.Judge(given, amountOf(it.Task, s.Source))
	if v.Right {
		v.Says = "Right: " + train.Says(it.Task.Answer()) + "."
	}
	return v, verdict{}, nil
}

func amountOf(t *core.Task, from core.Source) *core.Amount {
	for _, a := range from.Amounts {
		if a.Name == t.Ingredient {
			return &a
		}
	}
	return nil
}

type drawingJSON struct {
	Bowl     float64 `json:"bowl"`
	Zero     float64 `json:"zero"`
	In       float64 `json:"in"`
	BowlOn   bool    `json:"bowl_on"`
	Radius   float64 `json:"radius"`
	Eye      float64 `json:"eye"`
	Rests    bool    `json:"rests"`
	Fillings []struct {
		Size float64   `json:"size"`
		How  core.Heap `json:"how"`
	} `json:"fillings"`
}

func (d drawingJSON) drawing(kind core.Kind) core.Drawing {
	out := core.Drawing{Kind: kind, Bowl: d.Bowl, Zero: d.Zero, In: d.In, BowlOn: d.BowlOn, Radius: d.Radius, Eye: d.Eye, Rests: d.Rests}
	for _, f := range d.Fillings {
		out.Fillings = append(out.Fillings, core.Fill{Size: f.Size, How: f.How})
	}
	return out
}

func judgedKnife(e *knife.Exercise, r *http.Request) (core.Verdict, verdict, error) {
	switch e.Kind {
	case knife.OrderExercise:
		right := e.Food.Order(e.Cut)
		at, wrong := knife.Played(right, r.PostForm["order"])
		if at < 0 {
			return core.Verdict{Right: true, Says: "That works."}, verdict{}, nil
		}
		var list []string
		for _, a := range right {
			list = append(list, words.Small(a.Says))
		}
		return core.Verdict{Says: fmt.Sprintf("At the %s step: %s.", ordinal(at+1), wrong.Else), Instead: "This works: " + strings.Join(list, "; ") + "."}, verdict{Played: wrong.Drawn}, nil
	case knife.CutExercise:
		return judgedCut(e, r)
	}
	c, ok := e.Chosen(r.PostFormValue("answer"))
	if !ok {
		return core.Verdict{}, verdict{}, problem.New("answer", "Choose one")
	}
	v := core.Verdict{Right: c.Right, Says: c.Why}
	if c.Right {
		v.Says = "Right. " + c.Why
	}
	return v, verdict{}, nil
}

func ordinal(n int) string {
	names := []string{"first", "second", "third", "fourth", "fifth", "sixth", "seventh"}
	if n <= len(names) {
		return names[n-1]
	}
	return fmt.Sprint(n, "th")
}

func judgedCut(e *knife.Exercise, r *http.Request) (core.Verdict, verdict, error) {
	var in struct{ X, Y, Z []float64 }
	if err := json.Unmarshal([]byte(r.PostFormValue("drawing")), &in); err != nil {
		return core.Verdict{}, verdict{}, problem.New("drawing", "There is no cut yet")
	}
	c, err := e.Judge(knife.Cuts{in.X, in.Y, in.Z})
	if err != nil {
		return core.Verdict{}, verdict{}, err
	}
	v := core.Verdict{Right: c.Right, Percent: 100 * c.Evenness.Off, Instead: c.Instead,
		Says: fmt.Sprintf("%s from %s; %.0f %% lie in pieces too small to count.", words.Plural(len(c.Pieces), "piece", "pieces"), words.Plural(c.Strokes, "cut", "cuts"), 100*c.Waste)}
	volumes := make([]float64, len(c.Pieces))
	for i, p := range c.Pieces {
		volumes[i] = p.Volume
	}
	extra := verdict{Pieces: piecesDrawn(volumes, even.Piece(e.Target).Volume())}
	if c.Last > 0 {
		extra.Even = fmt.Sprintf("Simmered, the biggest needs about %.1f min where the smallest that counts is done in %.1f.", c.Last, c.First)
	}
	return v, extra, nil
}

// mostDrawn is how many pieces are drawn side by side.
const mostDrawn = 60

// piecesDrawn draws the pieces side by side, the largest first, as squares of their
// size; what is off the target is drawn otherwise.
func piecesDrawn(volumes []float64, target float64) template.HTML {
	sorted := slices.Clone(volumes)
	slices.Sort(sorted)
	slices.Reverse(sorted)
	step := max(1, (len(sorted)+mostDrawn-1)/mostDrawn)
	edge := even.Size(target)
	scale := 24 / max(edge, even.Size(sorted[0])/2.5)
	var b strings.Builder
	x, high := 0.0, 0.0
	for i := 0; i < len(sorted); i += step {
		s := even.Size(sorted[i])
		class := "on"
		if s > 1.2*edge || s < 0.8*edge {
			class = "off"
		}
		side := max(2, s*scale)
		fmt.Fprintf(&b, `<rect class="%s" x="%.1f" y="%.1f" width="%.1f" height="%.1f"/>`, class, x, -side, side, side)
		x, high = x+side+3, max(high, side)
	}
	return template.HTML(fmt.Sprintf(`<svg class="pieces" viewBox="0 %.1f %.1f %.1f" role="img" aria-label="The pieces, the largest first">%s</svg>`, -high-2, x, high+4, b.String())) //nolint:gosec // numbers only
}
