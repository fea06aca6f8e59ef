package reading

import (
	"slices"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
)

// A scene is what a clause takes from those before it in the same passage.
type scene struct {
	step *draft // that goes on
	on   string // where something was last done
	slow bool   // in a slow cooker
	hot  bool   // a pan that was cooked in before stands on its ring still
}

// place reads an action where the scene says that it is done.
func (s *scene) place(a *action) {
	as := func(word string) { a.does, a.idle = spoken{word, a.does.at, verbs[word]}, true }
	if s.slow = s.slow || slowCooker.MatchString(a.text); s.slow && a.does.on == "ring" && len(a.said) > 0 {
		a.does.on, a.idle = "", true
	}
	if s.step != nil && !a.opens && a.does.on == "ring" && len(a.said) > 0 && !minding.MatchString(a.text) {
		if word := s.step.last().does.word; word == "cover" || word == "put the lid on" {
			a.idle = true
		}
	}
	if s.step != nil && s.step.on == "oven" && !s.step.preheat && a.does.word == "cook" && !onRing.MatchString(a.text) && len(a.said) > 0 {
		as("bake")
	}
	if a.does.word == "cook" && len(a.said) > 0 && (s.on == "microwave" || s.on == "grill") && !onRing.MatchString(a.text) {
		as(s.on) // "stir, then cook for another 2 minutes"
	}
	if len(a.said) > 0 && a.said[0].More {
		s.goesOn(a, a.does.word)
	}
	if s.step != nil && a.does.word == "cook" && slices.ContainsFunc(s.step.actions, func(b action) bool { return b.turns && len(b.heats) > 0 }) {
		as("bake")
	}
	if a.does.word == "toast" && s.hot && !a.opens && len(a.said) > 0 { // "add the rice, toast 2 min"
		a.does.on = "ring"
	}
	s.keptHot(a, len(a.said) > 0)
	if a.does.on != "" {
		s.on = a.does.on
	}
	switch {
	case a.does.on == "ring" && a.does.kind == fit.Cook && !elsewhere.MatchString(a.text):
		s.hot = true
	case hotPan.MatchString(a.text):
	case !a.known && !elsewhere.MatchString(a.text), ontoPlate.MatchString(a.text): // the pan stays where it is
	case a.does.on != "", a.does.kind != fit.Mix && a.does.kind != fit.Cut && a.does.kind != fit.Prepare, elsewhere.MatchString(a.text) && !fatOff.MatchString(a.text):
		s.hot = false
	}
}

// goesOn reads a time more as spent where food is hot, though something was done to it
// meanwhile: "bake 10 minutes, turn, 10 more".
func (s *scene) goesOn(a *action, after string) {
	if word, ok := goesOnIn[s.on]; ok && (panWords[after] || after == "flip" || after == "baste" || after == "cover" || uncovered.MatchString(a.text) || s.step != nil && uncovered.MatchString(s.step.last().text)) && !elsewhere.MatchString(a.text) {
		a.does, a.idle, a.known = spoken{word, a.does.at, verbs[word]}, true, true
	}
}

// uncovered is what is taken off what bakes on.
var uncovered = pattern.Must(`(?i)\b(?:take|remove|lift)\b.*\b(?:beans|lid|foil|paper|parchment)\b`)

// keptHot reads what is done for a time in a pan that is on the heat as cooking:
// "add the stock, stirring, for 18 minutes".
func (s *scene) keptHot(a *action, timed bool) {
	if timed && s.hot && a.does.on == "" && panWords[a.does.word] && !elsewhere.MatchString(a.text) {
		a.does.on, a.does.kind = "ring", fit.Cook
		a.idle = a.idle || lidFor.MatchString(a.text)
	}
}

// goesOnIn is what is done in what is hot.
var goesOnIn = map[string]string{"oven": "bake", "grill": "grill", "microwave": "microwave"}

// panWords are done in the pan that is on the heat as well as in a bowl.
var panWords = wordSet("stir add pour tip return toss turn mix")

// elsewhere takes what is done away from the heat.
var elsewhere = pattern.Must(`(?i)\b(?:bowl|basin|jug|dish|off (?:the )?(?:heat|hob|boil)|from the heat|out of the pan|transfer|drain|cool|blender|processor|tin|tray|plate|leave|hands)\b`)

// hotPan says that a pan stands on the heat.
var hotPan = pattern.Must(`(?i)\b(?:hot|smoking) (?:wok|(?:frying )?pan|skillet)\b|\b(?:wok|pan|skillet) (?:really |very |smoking )?hot\b|\b(?:wok|pan|skillet) on (?:a )?(?:high|medium|full|the heat|the hob)\b|^\W*(?:put |return )?(?:it |the pan )?back (?:on|onto|over|to) (?:the )?(?:heat|hob|ring)\b`)

// ontoPlate takes what was cooked out of a pan in which more is cooked.
var ontoPlate = pattern.Must(`(?i)\b(?:out|remove|lift|set)\b[^.]{0,24}\bplate\b`)

// fatOff leaves the pan where it is.
var fatOff = pattern.Must(`(?i)\bdrain (?:off|away) (?:the |any )?(?:excess |extra )?(?:fat|oil|liquid)`)
