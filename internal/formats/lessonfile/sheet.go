package lessonfile

import (
	"fmt"
	"io"
	"strings"
	"text/tabwriter"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/rescue"
)

// WriteSheet writes a plan to read: the verdict, a timeline, the checkpoints,
// the running sheet by the clock and by the minutes to the bell, and what
// would help where it does not fit.
func WriteSheet(to io.Writer, l fit.Lesson, p *fit.Plan, help rescue.Outcome) error {
	var b strings.Builder
	if l.Title != "" {
		fmt.Fprintln(&b, l.Title)
	}
	fmt.Fprintf(&b, "%s–%s, the bell at %s\n", l.Start, l.End, l.End)
	now := 0.0
	if l.Now != nil {
		now = l.Now.Float()
		fmt.Fprintf(&b, "It is %s; what is over is left out below.\n", l.At(now))
	}
	fmt.Fprintln(&b)
	switch {
	case len(p.Groups) == 0:
		fmt.Fprintln(&b, "No group can be planned.")
	case p.Overrun > 0:
		fmt.Fprintf(&b, "Does not fit: %s min missing. The last group ends at %s, the deadline is %s.\n",
			oneDecimal(p.Overrun), l.At(p.Finish), l.At(p.Deadline))
	default:
		fmt.Fprintf(&b, "Fits: %s min left. The last group ends at %s, the deadline is %s.\n",
			oneDecimal(p.Slack), l.At(p.Finish), l.At(p.Deadline))
	}
	if p.WaitsUntil > p.Deadline {
		fmt.Fprintf(&b, "That is for work; what needs no hands may go on until %s.\n", l.At(p.WaitsUntil))
	}
	if len(p.Groups) > 0 {
		if p.Optimal {
			fmt.Fprintln(&b, "No plan can end sooner.")
		} else {
			fmt.Fprintf(&b, "No plan can end before %s.\n", l.At(p.LowerBound))
		}
		fmt.Fprintf(&b, "In simulated lessons about %s", p.Risk.Benches.Says("group", "groups"))
		if p.Risk.Benches.All > 1 {
			fmt.Fprintf(&b, "; in 8 of 10 at least %d", p.Risk.Benches.AtLeast8In10)
		}
		fmt.Fprintln(&b, ".")
	}
	for _, c := range p.Conflicts {
		fmt.Fprintf(&b, "Can't be planned (%s): %s.\n", strings.Join(c.Groups, ", "), c.Says)
	}
	for _, pin := range p.LatePins {
		fmt.Fprintf(&b, "Pinned, but can't be kept: %s, %s begins %s min too late.\n", pin.Group, pin.Step, oneDecimal(pin.Minutes))
	}
	for _, late := range p.Late {
		fmt.Fprintf(&b, "Late, as soon as it can be: %s, %s, by %s min.\n",
			l.GroupLabel(late.Group), l.StepTitle(late.Dish, late.Step), oneDecimal(late.Minutes))
	}
	fmt.Fprintln(&b)
	writeTimeline(&b, l, p)
	writeCheckpoints(&b, l, p)

	w := tabwriter.NewWriter(&b, 0, 0, 2, ' ', 0)
	fmt.Fprintln(w, "clock\tto bell\twho\twhat\tuntil\twhere\tlast moment")
	for _, line := range fit.Running(l, p) {
		if l.Now != nil && line.To <= now {
			continue
		}
		latest := ""
		if !line.Phase {
			latest = l.At(line.Latest)
		}
		fmt.Fprintf(w, "%s\t%d\t%s\t%s\t%s\t%s\t%s\n", l.At(line.From), l.ToBell(line.From), line.Who, line.What,
			l.At(line.To), line.Where, latest)
	}
	if err := w.Flush(); err != nil {
		return err
	}
	if help.Lack != nil {
		fmt.Fprintf(&b, "\n%s\n", help.Lack.Says())
	}
	if len(help.Rescues) > 0 {
		fmt.Fprintln(&b, "\nWhat would help, planned and simulated:")
		for _, r := range help.Rescues {
			fmt.Fprintf(&b, "  %s, %.0f in 100 groups in time: %s (%s)\n", l.At(r.Finish()), 100*r.Done(), r.Title, strings.Join(r.Costs, "; "))
		}
	}
	for _, says := range rescue.LeversSay(l, help.Levers) {
		fmt.Fprintln(&b, says)
	}
	lines := strings.Split(b.String(), "\n")
	for i := range lines {
		lines[i] = strings.TrimRight(lines[i], " ")
	}
	_, err := io.WriteString(to, strings.Join(lines, "\n"))
	return err
}

func oneDecimal(minutes float64) string {
	return strings.TrimSuffix(fmt.Sprintf("%.1f", minutes), ".0")
}
