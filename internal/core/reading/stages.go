package reading

import (
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/pattern"
)

// inSequence says when what follows is done, and no more.
var inSequence = pattern.Must(`(?i)^(?:first(?:ly)?|next|then|after that|last(?:ly)?|finally|to (?:begin|start|finish)|get ready|in (?:the |today['’]s )?lesson|(?:the )?bell)\W*$`)

// stages reports whether some lines only name a stage of the work and say how long it is, above what
// is done in it: "STAGE 2 sauce (15 mins)". One below the other they are steps.
func (r *reader) stages() bool {
	count, before := 0, -1
	for n, l := range r.lines {
		if l.quiet != "" || !stageHead.MatchString(l.text) {
			continue
		}
		if count++; count > 1 && before == n-1 {
			return false
		}
		before = n
	}
	return count > 1
}

var (
	stageName = pattern.Must(`(?i)^(?:stage|part|phase|section) ?\d{1,2}\s*[:.–-]?\s*\pL*(?: \pL+)?:?$`)
	stageHead = pattern.Must(`(?i)^(?:stage|part|phase|section|step) ?\d{1,2}\s*[:.–-]?\s*[\pL &/]{0,30}\(\d{1,3}(?: ?[-–] ?\d{1,3})? ?(?:minutes|mins?|m)\)(?:\s*[-–,].*|:)?$`)
)

// overSteps reports whether a line names what the marked steps below it make: "Make the pastry" over
// "- rub the butter in".
func (r *reader) overSteps(n int) bool {
	l := r.lines[n]
	if n+1 >= len(r.lines) {
		return false
	}
	next := r.lines[n+1]
	if l.marked && !l.numbered && firstLetter.MatchString(next.text) && len(strings.Fields(l.item)) <= 4 && len(duration.In(l.item)) == 0 && !r.amounts(l) { // "[ ] Potatoes" over "a. Peel"
		return true
	}
	if l.marked || !stageOfWork.MatchString(l.item) {
		return false
	}
	return next.quiet == "" && next.marked && !next.numbered && !r.amounts(next) && len(verbsIn(next.item)) > 0
}

// firstLetter begins the first of some steps below another.
var firstLetter = pattern.Must(`^\(?a[.)]\s`)

var stageOfWork = pattern.Must(`(?i)^(?:(?:to )?(?:make|prepare|prep|assemble|finish|decorate)(?: (?:the|your))?(?: \pL+){0,2}|put(?:ting)?(?: it| them)? together|build|cook(?:ing)?|serv(?:e|ing)|fill(?:ing)?):?$`)
