// Package ui serves the styles, scripts, fonts and icons that Vite builds
// from this folder. The built files carry a hash of their content in their
// names, so that browsers may keep them for good.
package ui

import (
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net/http"
	"strings"
)

//go:embed all:dist
var dist embed.FS

// Path is where the assets are served.
const Path = "/assets/"

// Assets are the built files.
type Assets struct {
	files   fs.FS
	Script  string   // URL of the entry script
	Styles  []string // URLs of its styles
	Preload string   // URL of the font that every page needs
	Icon    string   // URL of the icon of the window
}

// Built returns the assets that were built into the program.
func Built() (*Assets, error) {
	files, err := fs.Sub(dist, "dist/assets")
	if err != nil {
		return nil, err
	}
	return Load(files)
}

const (
	entry = "internal/web/ui/app.js"
	icon  = "internal/web/ui/images/icon.svg"
	font  = "node_modules/@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2"
)

// Load reads the manifest that Vite wrote beside the files.
func Load(files fs.FS) (*Assets, error) {
	data, err := fs.ReadFile(files, ".vite/manifest.json")
	if errors.Is(err, fs.ErrNotExist) {
		return nil, errors.New("the styles and scripts are not built into this program: run ./start, or npm run build and then go build")
	}
	if err != nil {
		return nil, err
	}
	var manifest map[string]struct {
		File string   `json:"file"`
		CSS  []string `json:"css"`
	}
	if err := json.Unmarshal(data, &manifest); err != nil {
		return nil, fmt.Errorf("manifest of the assets: %w", err)
	}
	a := &Assets{files: files, Script: Path + manifest[entry].File, Preload: Path + manifest[font].File, Icon: Path + manifest[icon].File}
	for _, css := range manifest[entry].CSS {
		a.Styles = append(a.Styles, Path+css)
	}
	return a, nil
}

// ServeHTTP serves a file under Path, to be kept for a year.
func (a *Assets) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if strings.HasSuffix(r.URL.Path, "/") { // what there is, is nobody's to list
		http.NotFound(w, r)
		return
	}
	w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
	http.StripPrefix(Path, http.FileServerFS(a.files)).ServeHTTP(w, r)
}
