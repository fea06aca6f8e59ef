package lessonfile

import (
	"fmt"
	"io"
	"slices"
	"strings"
	"text/tabwriter"

	"freshapron/internal/core/fit"
)

// WriteSheet writes a plan as a running sheet to read: what happens when, by
// the clock and by the minutes to the bell.
func WriteSheet(to io.Writer, l fit.Lesson, p *fit.Plan) error {
	var b strings.Builder
	if l.Title != "" {
		fmt.Fprintln(&b, l.Title)
	}
	fmt.Fprintf(&b, "%s–%s, the bell at %s\n\n", l.Start, l.End, l.End)
	switch {
	case len(p.Groups) == 0:
		fmt.Fprintln(&b, "No group can be planned.")
	case p.Overrun > 0:
		fmt.Fprintf(&b, "Does not fit: %s min missing. The last group ends at %s, the deadline is %s.\n",
			oneDecimal(p.Overrun), Minute(l, p.Finish), Minute(l, p.Deadline))
	default:
		fmt.Fprintf(&b, "Fits: %s min left. The last group ends at %s, the deadline is %s.\n",
			oneDecimal(p.Slack), Minute(l, p.Finish), Minute(l, p.Deadline))
	}
	if len(p.Groups) > 0 {
		fmt.Fprintf(&b, "No plan can end before %s. In %.0f of 100 simulated lessons everyone is on time.\n",
			Minute(l, p.LowerBound), 100*p.Risk.AllOnTime)
	}
	for _, c := range p.Conflicts {
		fmt.Fprintf(&b, "Can't be planned (%s): %s.\n", strings.Join(c.Groups, ", "), c.Says)
	}
	fmt.Fprintln(&b)

	w := tabwriter.NewWriter(&b, 0, 0, 2, ' ', 0)
	fmt.Fprintln(w, "clock\tto bell\twho\twhat\tuntil\twhere\tlast moment")
	for _, line := range Running(l, p) {
		fmt.Fprintf(w, "%s\t%d\t%s\t%s\t%s\t%s\t%s\n", Minute(l, line.From), int(l.Minutes().Float()-line.From+1e-6), line.Who, line.What,
			Minute(l, line.To), line.Where, line.Latest)
	}
	if err := w.Flush(); err != nil {
		return err
	}
	lines := strings.Split(b.String(), "\n")
	for i := range lines {
		lines[i] = strings.TrimRight(lines[i], " ")
	}
	_, err := io.WriteString(to, strings.Join(lines, "\n"))
	return err
}

// A Line is one entry of the running sheet.
type Line struct {
	From, To         float64 // minutes from the door
	Who, What, Where string
	Latest           string // clock, empty for phases
	Phase            bool
}

// Running returns the running sheet's lines by time: the phases, and each
// step once for all groups that do it at the same moment in the same place.
func Running(l fit.Lesson, p *fit.Plan) []Line {
	var lines []Line
	for _, s := range l.Spans() {
		lines = append(lines, Line{From: s.From, To: s.To, Who: "everyone", What: s.Name, Phase: true})
	}
	names := map[string]string{}
	for _, g := range l.Groups {
		names[g.ID] = g.Name
		if g.Name == "" {
			names[g.ID] = g.ID
		}
	}
	type key struct {
		dish, step  string
		start, last int
		where       string
	}
	at := map[key]int{}
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			var where []string
			for _, u := range s.Units {
				where = append(where, u.Unit)
			}
			k := key{s.Dish, s.Step, int(s.Start * 60), int(s.LatestStart * 60), strings.Join(where, ", ")}
			if i, ok := at[k]; ok {
				lines[i].Who += ", " + names[g.ID]
				continue
			}
			at[k] = len(lines)
			lines = append(lines, Line{
				From: s.Start, To: s.End, Who: names[g.ID], What: title(l, s.Dish, s.Step),
				Where: k.where, Latest: Minute(l, s.LatestStart),
			})
		}
	}
	slices.SortStableFunc(lines, func(a, b Line) int {
		switch {
		case a.From < b.From:
			return -1
		case a.From > b.From:
			return 1
		}
		return 0
	})
	return lines
}

func title(l fit.Lesson, dish, step string) string {
	for _, d := range l.Dishes {
		for _, s := range d.Steps {
			if d.ID == dish && s.ID == step {
				if s.Title != "" {
					return s.Title
				}
				return s.ID
			}
		}
	}
	return step
}

func oneDecimal(minutes float64) string {
	return strings.TrimSuffix(fmt.Sprintf("%.1f", minutes), ".0")
}
