package setting_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/setting"
	"freshapron/internal/golden"
)

// How people write the heat of an oven, and what only looks like it.
func TestSettingsAsPeopleWriteThem(t *testing.T) {
	data, err := os.ReadFile("testdata/lines.txt")
	require.NoError(t, err)
	var b strings.Builder
	for _, l := range strings.Split(strings.TrimSpace(string(data)), "\n") {
		fmt.Fprintf(&b, "%s:", l)
		for _, s := range setting.In(l) {
			fmt.Fprintf(&b, " %s °C", s.Celsius.Decimal(0))
			if s.Fan {
				b.WriteString(" of a fan")
			}
			fmt.Fprintf(&b, " “%s”;", l[s.From:s.To])
		}
		if first, second, ok := setting.Contradiction(l); ok {
			fmt.Fprintf(&b, " %s and %s differ", first.Says, second.Says)
		}
		b.WriteString("\n")
	}
	golden.Same(t, "lines.golden", b.String())
}
