package lessonfile

import (
	"fmt"
	"io"
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
			oneDecimal(p.Overrun), l.At(p.Finish), l.At(p.Deadline))
	default:
		fmt.Fprintf(&b, "Fits: %s min left. The last group ends at %s, the deadline is %s.\n",
			oneDecimal(p.Slack), l.At(p.Finish), l.At(p.Deadline))
	}
	if len(p.Groups) > 0 {
		fmt.Fprintf(&b, "No plan can end before %s. In %.0f of 100 simulated lessons everyone is on time.\n",
			l.At(p.LowerBound), 100*p.Risk.AllOnTime)
	}
	for _, c := range p.Conflicts {
		fmt.Fprintf(&b, "Can't be planned (%s): %s.\n", strings.Join(c.Groups, ", "), c.Says)
	}
	fmt.Fprintln(&b)

	w := tabwriter.NewWriter(&b, 0, 0, 2, ' ', 0)
	fmt.Fprintln(w, "clock\tto bell\twho\twhat\tuntil\twhere\tlast moment")
	for _, line := range fit.Running(l, p) {
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
