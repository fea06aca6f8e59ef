package lessonfile

import (
	"io"
	"strconv"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/rescue"
	"freshapron/internal/formats/jsonout"
)

// PlanFormat names the plan file.
const PlanFormat = "fresh-apron/plan"

// decimal is a time in a plan: minutes with four decimals.
type decimal float64

func (d decimal) MarshalJSON() ([]byte, error) {
	return strconv.AppendFloat(nil, float64(d), 'f', 4, 64), nil
}

type planJSON struct {
	Format     string          `json:"format"`
	Version    int             `json:"version"`
	Fits       bool            `json:"fits"`
	Deadline   decimal         `json:"deadline_min"`
	WaitsUntil decimal         `json:"wait_deadline_min"`
	Finish     decimal         `json:"finish_min"`
	Slack      decimal         `json:"slack_min"`
	Overrun    decimal         `json:"overrun_min"`
	LowerBound decimal         `json:"lower_bound_min"`
	Optimal    bool            `json:"optimal,omitempty"`
	Groups     []groupPlanJSON `json:"groups"`
	Conflicts  []conflictJSON  `json:"conflicts,omitempty"`
	LatePins   []latePinJSON   `json:"late_pins,omitempty"`
	Late       []lateJSON      `json:"late,omitempty"`
	Idle       []idleJSON      `json:"idle,omitempty"`
	Chain      []linkJSON      `json:"chain,omitempty"`
	Risk       *riskJSON       `json:"risk,omitempty"`
	Rescues    []rescueJSON    `json:"rescues,omitempty"`
}

type latePinJSON struct {
	Group   string  `json:"group"`
	Dish    string  `json:"dish"`
	Step    string  `json:"step"`
	Minutes decimal `json:"minutes"`
}

type lateJSON struct {
	Group string  `json:"group"`
	Dish  string  `json:"dish"`
	Step  string  `json:"step"`
	By    decimal `json:"by_min"`
}

type linkJSON struct {
	Group string  `json:"group"`
	Dish  string  `json:"dish"`
	Step  string  `json:"step"`
	Start decimal `json:"start_min"`
	End   decimal `json:"end_min"`
	After string  `json:"after"`
}

type rescueJSON struct {
	Change    string   `json:"change"`
	And       string   `json:"and,omitempty"`
	Title     string   `json:"title"`
	Finish    decimal  `json:"finish_min"`
	Fits      bool     `json:"fits"`
	AllOnTime decimal  `json:"all_on_time"`
	Costs     []string `json:"costs"`
}

type groupPlanJSON struct {
	ID     string         `json:"id"`
	Finish decimal        `json:"finish_min"`
	Steps  []stepPlanJSON `json:"steps"`
}

type stepPlanJSON struct {
	Dish        string     `json:"dish"`
	Step        string     `json:"step"`
	Start       decimal    `json:"start_min"`
	WorkEnd     decimal    `json:"work_end_min"`
	End         decimal    `json:"end_min"`
	Cooks       int        `json:"cooks"`
	Hands       []int      `json:"hands"`
	Units       []unitJSON `json:"units"`
	LatestStart decimal    `json:"latest_start_min"`
}

type idleJSON struct {
	Group   string  `json:"group"`
	Cook    int     `json:"cook"`
	Minutes decimal `json:"minutes"`
}

type unitJSON struct {
	Equipment string `json:"equipment"`
	Unit      string `json:"unit"`
}

type conflictJSON struct {
	Groups []string   `json:"groups"`
	Rules  []ruleJSON `json:"rules"`
	Says   string     `json:"says"`
}

type ruleJSON struct {
	Path   string   `json:"path"`
	Dish   string   `json:"dish"`
	Step   string   `json:"step"`
	After  string   `json:"after,omitempty"`
	MaxGap *decimal `json:"max_gap,omitempty"`
}

type riskJSON struct {
	Runs      int             `json:"runs"`
	Benches   benchesJSON     `json:"benches"`
	AllOnTime decimal         `json:"all_on_time"`
	P90All    decimal         `json:"p90_all_min"`
	Patience  int             `json:"patience_min"` // nobody overtakes
	Groups    []groupRiskJSON `json:"groups"`
	Causes    []causeJSON     `json:"causes"`
}

type benchesJSON struct {
	Mean    decimal `json:"mean"`
	AtLeast int     `json:"at_least_8_in_10"`
}

type groupRiskJSON struct {
	ID     string  `json:"id"`
	OnTime decimal `json:"on_time"`
	P50    decimal `json:"p50_min"`
	P80    decimal `json:"p80_min"`
	P95    decimal `json:"p95_min"`
}

type causeJSON struct {
	Kind  string  `json:"kind"`
	Dish  string  `json:"dish,omitempty"`
	ID    string  `json:"id"`
	Share decimal `json:"share"`
}

// maxCauses is how many causes a plan names, the most frequent first.
const maxCauses = 8

// WritePlan writes a plan as JSON, with the rescues that have been tried.
func WritePlan(to io.Writer, p *fit.Plan, rescues []rescue.Rescue) error {
	out := planJSON{
		Format: PlanFormat, Version: Version, Fits: p.Fits,
		Deadline: decimal(p.Deadline), WaitsUntil: decimal(p.WaitsUntil), Finish: decimal(p.Finish), Slack: decimal(p.Slack),
		Overrun: decimal(p.Overrun), LowerBound: decimal(p.LowerBound), Optimal: p.Optimal, Groups: []groupPlanJSON{},
	}
	for _, g := range p.Groups {
		gj := groupPlanJSON{ID: g.ID, Finish: decimal(g.Finish), Steps: []stepPlanJSON{}}
		for _, s := range g.Steps {
			sj := stepPlanJSON{
				Dish: s.Dish, Step: s.Step, Start: decimal(s.Start), WorkEnd: decimal(s.WorkEnd), End: decimal(s.End),
				Cooks: s.Cooks, Hands: append([]int{}, s.Hands...), Units: []unitJSON{}, LatestStart: decimal(s.LatestStart),
			}
			for _, u := range s.Units {
				sj.Units = append(sj.Units, unitJSON(u))
			}
			gj.Steps = append(gj.Steps, sj)
		}
		out.Groups = append(out.Groups, gj)
	}
	for _, c := range p.Conflicts {
		cj := conflictJSON{Groups: c.Groups, Rules: []ruleJSON{}, Says: c.Says}
		for _, r := range c.Rules {
			rj := ruleJSON{Path: r.Path, Dish: r.Dish, Step: r.Step, After: r.After}
			if r.After != "" {
				gap := decimal(r.MaxGap)
				rj.MaxGap = &gap
			}
			cj.Rules = append(cj.Rules, rj)
		}
		out.Conflicts = append(out.Conflicts, cj)
	}
	for _, l := range p.LatePins {
		out.LatePins = append(out.LatePins, latePinJSON{l.Group, l.Dish, l.Step, decimal(l.Minutes)})
	}
	for _, l := range p.Late {
		out.Late = append(out.Late, lateJSON{l.Group, l.Dish, l.Step, decimal(l.Minutes)})
	}
	for _, i := range p.Idle {
		out.Idle = append(out.Idle, idleJSON{i.Group, i.Cook, decimal(i.Minutes)})
	}
	for _, l := range p.Chain {
		out.Chain = append(out.Chain, linkJSON{l.Group, l.Dish, l.Step, decimal(l.Start), decimal(l.End), l.After})
	}
	if p.Risk.Runs > 0 {
		out.Risk = riskOf(p.Risk)
	}
	for _, r := range rescues {
		rj := rescueJSON{
			Change: string(r.Changes[0].Kind), Title: r.Title, Finish: decimal(r.Finish()), Fits: r.Fits(),
			AllOnTime: decimal(r.AllOnTime()), Costs: r.Costs,
		}
		if len(r.Changes) > 1 {
			rj.And = string(r.Changes[1].Kind)
		}
		out.Rescues = append(out.Rescues, rj)
	}
	return jsonout.Write(to, out)
}

func riskOf(r fit.Risk) *riskJSON {
	out := &riskJSON{Runs: r.Runs, Benches: benchesJSON{decimal(r.Benches.Mean), r.Benches.AtLeast8In10}, AllOnTime: decimal(r.AllOnTime), P90All: decimal(r.P90All), Groups: []groupRiskJSON{}, Causes: []causeJSON{}}
	for _, g := range r.Groups {
		out.Groups = append(out.Groups, groupRiskJSON{g.ID, decimal(g.OnTime), decimal(g.P50), decimal(g.P80), decimal(g.P95)})
	}
	for _, c := range r.Causes[:min(len(r.Causes), maxCauses)] {
		out.Causes = append(out.Causes, causeJSON{c.Kind, c.Dish, c.ID, decimal(c.Share)})
	}
	return out
}
