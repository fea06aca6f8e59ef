package reading

import (
	"slices"

	"freshapron/internal/core/pattern"
)

// furniture takes out what is about the page and not about the dish: the way through a site to it,
// what others think of it, whose it is, what stands at the top of each page, and the numbers of pictures.
func (r *reader) furniture() {
	times, slides := map[string]int{}, r.slides()
	for n := range r.lines {
		l := &r.lines[n]
		if l.quiet != "" {
			continue
		}
		if m := breadcrumbs.FindStringSubmatch(l.text); m != nil {
			*l = made(*l, m[1], preface)
		}
		if slides && slide.MatchString(l.text) {
			*l = made(*l, slide.ReplaceAllString(l.text, ""), preface)
		}
		if !emphasis.MatchString(l.text) && innerBold.MatchString(l.text) {
			l.text, l.item = innerBold.ReplaceAllString(l.text, "$1"), innerBold.ReplaceAllString(l.item, "$1")
		}
		if pictureMark.MatchString(l.text) {
			l.text, l.item = pictureMark.ReplaceAllString(l.text, ""), pictureMark.ReplaceAllString(l.item, "")
		}
		if m := answered.FindStringSubmatch(l.text); m != nil {
			*l = made(*l, answered.ReplaceAllString(l.text, "$1"), preface)
		}
		times[l.text]++
	}
	seen, head := map[string]bool{}, ""
	if len(r.lines) > 0 {
		head = r.lines[0].text
	}
	r.lines = slices.DeleteFunc(r.lines, func(l line) bool {
		if l.quiet != "" {
			return false
		}
		again := times[l.text] > 1 && (ofPage.MatchString(l.text) || seen[l.text] && l.text == head) && !slices.ContainsFunc(cells(l.text), r.known) && !imperative(l.item) && !l.marked
		if l.text == "" { // the number of a slide
			r.Headings = append(r.Headings, l.at)
			return true
		}
		seen[l.text] = true
		if !again && !aboutPage.MatchString(l.plain()) {
			return false
		}
		r.Facts = append(r.Facts, Fact{Line: l.at, Says: l.item, About: "page"})
		return true
	})
}

// slides reports whether the text is one of several slides.
func (r *reader) slides() bool {
	count := 0
	for _, l := range r.lines {
		if l.quiet == "" && slide.MatchString(l.text) {
			count++
		}
	}
	return count > 1
}

var (
	// slide begins one of a lesson's slides.
	slide = pattern.Must(`(?i)^slide \d{1,2}\b\s*[:.–-]?\s*`)
	// innerBold is what stands in bold among other words.
	innerBold = pattern.Must(`\*\*([^*]+)\*\*`)
	// breadcrumbs lead through a site: "Home » Mains » Bean stew".
	breadcrumbs = pattern.Must(`(?i)^(?:home|recipes?)\s*[»›>](?:[^»›>]{2,40}[»›>])*\s*([^»›>]{3,60})$`)
	// pictureMark points at a picture: "[Fig. 2]".
	pictureMark = pattern.Must(`(?i)\s*[\[(](?:see )?(?:fig(?:ure)?|photo|picture|pic|image|step photo)s?\.? ?\d{1,2}[a-c]?[\])]`)
	// answered is a gap to fill in with its answer behind it.
	answered = pattern.Must(`\pL?(?:\.{4,}|_{3,}|…{2,})\s*\((\pL[\pL ]{1,24})\)`)
	// ofPage is on pages rather than a dish.
	ofPage = pattern.Must(`(?i)\b(?:packs?|resources?|booklets?|units?|books?|workbook|department|school|academy|college|worksheets?|page|food studies|food tech\w*|ks\d|year \d+|gcse)\b`)
	// aboutPage is what is printed round a recipe by who publishes it.
	aboutPage = pattern.Must(`(?i)^(?:©|\(c\)|copyright\b|all rights reserved|(?:downloaded|printed|retrieved) (?:from|on)\b|(?:https?://|www\.)\S+$)|\b(?:all rights reserved|may be (?:photo)?copied)\b|^\d(?:[.,]\d+)? ?(?:/ ?5 ?|stars? ?)?(?:\(|from|out of|based on)?\s*\d+ (?:ratings?|votes?|reviews?)\W*$|^(?:\d ?x\b\s*){2,}$|^(?:us customary|metric|us|imperial)(?:\s*[|/–-]\s*(?:us customary|metric|us|imperial))+$|^cook mode\b|^did you make this\b`)
)
