package reading

import (
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
)

// What a text says of an adult who does a step, or stands by.
var (
	adultWatch = pattern.Must(`(?i)\b(?:adult|teacher|technician|miss|sir) (?:lights?|turns? on|switches on) (?:the |your )?(?:hobs?|gas|rings?|burners?)\b|\b(?:adult|teacher|grown[- ]?up|technician|helper)s? (?:to|must|should|will) (?:supervise|help|watch|assist|check|be present|stand by)\b`)
	adultDoes  = pattern.Must(`^\W*ADULTS?\b|^\W*(?i:the |an? |one of the )?(?:Miss|Sir|(?:Mrs?|Ms)\.? \p{Lu}[\pL'-]*|(?i:tech(?:nician)?|staff|teacher|helper)) (?i:will|to|must|should|can|(?:turn|put|take|cut|open|drain|pour|lift|boil|melt|heat|bake|remove|slice|use|blend|light|switche|collect|load|bring)s?|fr(?:y|ies)|carr(?:y|ies)|do|does)\b|(?i)^\W*adults? (?:bake|boil|cook|drain|fry|grill|heat|lift|melt|place|pour|put|remove|roast|slice|take|toast|turn|use)\b|(?i)^\W*(?:adults?|teacher|grown[- ]?ups?|staff|helper|adult only|adult job|mum or dad)\s*(?:only|step|job|help)?\s*[:)\]–—-]|\(\s*(?:adult|teacher|grown[- ]?up)(?: only| job| does(?: this)?| step)?\s*(?:\)|$)|\b(?:ask|get|have) (?:an?|your|the) (?:adult|grown[- ]?up|teacher|helper)\b[^.]*? to\b|\b(?:adult|teacher|grown[- ]?up|technician|supervisor)s? (?:to|will|should|must|does|do|cuts?|drains?|puts?|takes?|opens?|pours?)\b|\bby (?:an?|the) (?:adult|teacher)\b|\b(?:an?|the|your) (?:adult|teacher|grown[- ]?up) (?:can |then |should |will )?(?:turns?|puts?|takes?|cuts?|opens?|drains?|pours?|lifts?|boils?|melts?|heats?|fries|fry|bakes?|checks?|removes?|slices?|uses?|blends?|carries|press(?:es)?|holds?|switch(?:es)?)\b|\(grown[- ]?up\)`)
	adultSees  = pattern.Must(`(?i)\(adult if\b|\bwith (?:some |the |an? )?(?:adult |grown[- ]?up |teacher )?(?:help|supervision|assistance)(?: from (?:an?|the|your) (?:adult|grown[- ]?up|teacher))?\b|\bwith (?:an?|your|the) (?:adult|grown[- ]?up|teacher)\b|\b(?:adult|teacher|grown[- ]?up|supervisor|technician)s? (?:help|supervis\w+|watch(?:es|ing)?|present|nearby|standing by)\b|\bsupervised?\b|\bunder supervision\b|\b(?:need|ask|get|with) (?:an?|your|the)? ?(?:adult|grown[- ]?up|teacher)(?:'s)?(?: for)?(?: to)? help\b|\bask (?:(?:an?|the|your) (?:adult|grown[- ]?up|teacher) )?for help\b`)
)

// adultIn is the part that a text gives to an adult.
func adultIn(s string) fit.Adult {
	s = helpOf.ReplaceAllString(s, "")
	switch {
	case adultWatch.MatchString(s):
		return fit.Watches
	case adultDoes.MatchString(s):
		return fit.Does
	case adultSees.MatchString(s):
		return fit.Watches
	}
	return fit.NoAdult
}

// helpOf is help that no adult gives: of a thing, or of another learner. Whoever else helps is
// taken for one.
var helpOf = pattern.Must(`(?i)\bwith (?:the |some )?help (?:of|from) (?:(?:an?|the|your|his|her|their|my) )?(?:\pL+ )?(?:plate|slice|spatula|spoon|fork|knife|tongs|ruler|scraper|brush|board|lid|cloth|whisk|timer|partner|friend|neighbour|classmate|bench|pair|group|each other)s?\b`)
