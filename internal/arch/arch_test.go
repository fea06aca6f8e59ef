// Package arch holds the rules of the architecture as tests.
package arch

import (
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const module = "freshapron"

// layers from the top; a package may import only from its own layer or below.
var layers = []string{"cmd", "internal/web", "internal/app", "internal/store", "internal/formats", "internal/core"}

// Beside the layers stand the demonstration, which is data for the store, and
// the helpers of tests.
var beside = map[string]int{"internal/demo": 2, "internal/arch": 0, "internal/golden": 5}

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
	const image = "golang.org/x/image/"
	for path, list := range imports(t, module+"/internal/core/...") {
		for _, imported := range list {
			switch {
			case strings.HasPrefix(imported, module+"/internal/core"), strings.HasPrefix(imported, "gonum.org/"), strings.HasPrefix(imported, image):
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

// Packages of the application are places of the work: each may use what all
// share, none another, but those that act on a lesson.
func TestPlacesOfTheApplicationStandApart(t *testing.T) {
	const app = module + "/internal/app/"
	shared := []string{app + "school", app + "work"}
	onLessons := []string{app + "care", app + "preparing", app + "live", app + "train", app + "judge"}
	found := 0
	for path, list := range imports(t, app+"...") {
		found++
		for _, imported := range list {
			if !strings.HasPrefix(imported, app) || slices.Contains(shared, imported) {
				continue
			}
			assert.True(t, imported == app+"lessons" && slices.Contains(onLessons, path), "%s imports %s", path, imported)
		}
	}
	require.Greater(t, found, 8)
}

// Pages know what users do and the rules of the job, not how things are kept or
// written.
func TestWebCallsTheApplicationOnly(t *testing.T) {
	for path, list := range imports(t, module+"/internal/web/...") {
		for _, imported := range list {
			for _, below := range []string{"/internal/store", "/internal/formats", "/internal/demo"} {
				assert.False(t, strings.HasPrefix(imported, module+below), "%s imports %s", path, imported)
			}
		}
	}
}

// sources are the Go files below a folder that are no tests, with their text.
func sources(t *testing.T, folder string) map[string]string {
	t.Helper()
	out := map[string]string{}
	require.NoError(t, filepath.WalkDir(folder, func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		text, err := os.ReadFile(path)
		out[path] = string(text)
		return err
	}))
	require.NotEmpty(t, out)
	return out
}

var begins = regexp.MustCompile(`(?m)^\s*go\s+(func\b|\w)|\.Go\(func`)

// What runs beside its caller ends the program where it panics: it is begun
// where that is seen to, and nowhere else.
func TestOnlyTheRunnersBeginGoroutines(t *testing.T) {
	may := []string{"../app/work/", "../core/side/", "../demo/"}
	for path, text := range sources(t, "..") {
		if !slices.ContainsFunc(may, func(m string) bool { return strings.HasPrefix(path, m) }) {
			assert.Empty(t, begins.FindString(text), path)
		}
	}
}

// Core types carry no tags of the database, of files or of the web.
func TestCoreTypesCarryNoTags(t *testing.T) {
	tag := regexp.MustCompile("`(?:json|gorm|form|xml):\"")
	for path, text := range sources(t, "../core") {
		assert.Empty(t, tag.FindString(text), path)
	}
}

// The policy forbids it, and so pages have none.
func TestNoScriptStandsInAPage(t *testing.T) {
	inline := regexp.MustCompile(`<script>|<script [^>]*>[^<]|\son(?:click|change|input|submit|load)=|\sstyle=`)
	pages, err := filepath.Glob("../web/*/templates/*.html")
	require.NoError(t, err)
	require.Greater(t, len(pages), 20)
	for _, path := range pages {
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Empty(t, inline.FindString(string(text)), path)
	}
}
