// Package arch holds the rules of the architecture as tests.
package arch

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const module = "freshapron"

// layers from the top; a package may import only from its own layer or below.
var layers = []string{"cmd", "internal/web", "internal/app", "internal/store", "internal/formats", "internal/core"}

// Beside the layers stand the demonstration, which is data for the store, and
// the helper of its tests.
var beside = map[string]int{"internal/demo": 2, "internal/arch": 0}

func layerOf(path string) int {
	path = strings.TrimPrefix(path, module+"/")
	for prefix, layer := range beside {
		if strings.HasPrefix(path, prefix) {
			return layer
		}
	}
	for i, l := range layers {
		if path == l || strings.HasPrefix(path, l+"/") {
			return i
		}
	}
	return -1
}

func imports(t *testing.T, pattern string) map[string][]string {
	t.Helper()
	out, err := exec.Command("go", "list", "-f", "{{.ImportPath}} {{join .Imports \" \"}}", pattern).CombinedOutput()
	require.NoError(t, err, string(out))
	m := map[string][]string{}
	for line := range strings.Lines(string(out)) {
		fields := strings.Fields(line)
		m[fields[0]] = fields[1:]
	}
	return m
}

func TestImportsGoOneWay(t *testing.T) {
	packages := imports(t, module+"/...")
	require.Greater(t, len(packages), 10)
	for path, list := range packages {
		own := layerOf(path)
		require.GreaterOrEqual(t, own, 0, "%s has no layer", path)
		for _, imported := range list {
			if strings.HasPrefix(imported, module+"/") {
				assert.LessOrEqual(t, own, layerOf(imported), "%s imports %s, which is above it", path, imported)
			}
		}
	}
}

func TestCoreIsPure(t *testing.T) {
	never := []string{"net", "net/http", "os", "database/sql", "html/template", "log", "log/slog"}
	for path, list := range imports(t, module+"/internal/core/...") {
		for _, imported := range list {
			switch {
			case strings.HasPrefix(imported, module+"/internal/core"), strings.HasPrefix(imported, "gonum.org/"):
			case strings.Contains(strings.Split(imported, "/")[0], "."), strings.HasPrefix(imported, module):
				assert.Fail(t, "impure core", "%s imports %s", path, imported)
			default:
				assert.NotContains(t, never, imported, "%s reaches outside", path)
			}
		}
	}
}

var reads = regexp.MustCompile(`\btime\.(Now|Since|Until|Sleep|After|AfterFunc|Tick|NewTimer|NewTicker|Local|LoadLocation)\b`)

// The core takes dates as values and never looks at a clock: whoever calls it
// says what day it is, and where.
func TestTheCoreReadsNoClock(t *testing.T) {
	files, err := filepath.Glob("../core/*/*.go")
	require.NoError(t, err)
	more, err := filepath.Glob("../core/*/*/*.go")
	require.NoError(t, err)
	looked := 0
	for _, file := range append(files, more...) {
		if strings.HasSuffix(file, "_test.go") {
			continue
		}
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Empty(t, reads.FindString(string(text)), file)
		looked++
	}
	require.Greater(t, looked, 50)
}

func TestOnlyTheStoreKnowsSQL(t *testing.T) {
	for path, list := range imports(t, module+"/...") {
		if strings.HasPrefix(path, module+"/internal/store") {
			continue
		}
		for _, imported := range list {
			assert.False(t, strings.HasPrefix(imported, "gorm.io/") || imported == "database/sql" || strings.Contains(imported, "pgx"),
				"%s imports %s", path, imported)
		}
	}
}
