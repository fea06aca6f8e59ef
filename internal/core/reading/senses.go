package reading

import "freshapron/internal/core/pattern"

// A sense is what a word stands for where the words behind it are such: another verb,
// or none.
type sense struct {
	when *pattern.Pattern
	is   string
}

// senses of words, the first that fits.
var senses = map[string][]sense{
	// "glaze, steam hole"
	"steam": {{pattern.Must(`(?i)^steam (?:holes?|vents?|slits?|escapes?|out)\b`), ""}},
	"cut":   {{pattern.Must(`(?i)^cut[- ](?:sides?|ends?|edges?)\b`), ""}},
	"bake":  {{pattern.Must(`(?i)^baking[ -](?:powder|soda|parchment|paper|trays?|sheets?|tins?|dish(?:es)?|beans|spread|potato(?:es)?|fat|block)\b`), ""}},
	// "set a pan over the heat"
	"set":   {{timerOn, "set the timer"}, {pattern.Must(`(?i)^set (?:(?:an?|the|your) |(?:up|tables?|places|cutlery)\b)`), "place"}},
	"cook":  {{pattern.Must(`(?i)^cook(?:ing)? (?:the |your |all the |some )?(?:dried |fresh |egg )?(?:pasta|spaghetti|macaroni|penne|noodles|rice|potatoes|quinoa|lentils)\s*(?:$|[.,;(]|as per|as on|as packet|according|following|until|till|in (?:boiling|salted|water|a pan of))`), "boil"}},
	"ice":   {{pattern.Must(`(?i)^ice (?:when|once) `), "pipe"}},
	"put":   {{pattern.Must(`(?i)^put (?:everything|all|it all|equipment|things)\b[^.]* away\b`), "tidy"}},
	"fill":  {{pattern.Must(`(?i)^fill in (?:the |your |an? )?(?:\pL+ )?(?:sheet|form|table|booklet|chart|evaluation|worksheet|log)\b`), "taste"}},
	"scoop": {{pattern.Must(`(?i)^scoop (?:them |it |everything )?(?:out )?(?:onto|on to|out of the (?:pan|oil|water))\b`), "remove"}},
	"wipe":  {{pattern.Must(`(?i)^wip(?:e|ing)\b[^.]*\boil`), "grease"}, {pattern.Must(`(?i)^wip(?:e|ing) (?:the |your )?mushrooms?\b`), "wash"}},
	"seal":  {{pattern.Must(`(?i)^seal(?:ing)?\b[^.;]*\b(?:in (?:the |some |a )?(?:(?:hot|very hot|little) )*(?:oil|fat|butter|pan|frying pan)|chicken|beef|lamb|pork|meat|steaks?|mince|turkey|duck|all over|on all sides)\b`), "sear"}},
	"scald": {{pattern.Must(`(?i)^scald (?:the )?(?:milk|cream)\b`), "heat"}},
	"brown": {{pattern.Must(`(?i)^brown (?:sugar|rice|bread|rolls?|flour|sauce|lentils|basmati|stock|onions? skins?|paper)\b`), ""}},
	"start": {{timerOn, "set the timer"}, {pattern.Must(`(?i)^start(?:ing)?(?: (?:it|them|off))? at \d{3}`), "bake"}},
	"keep":  {{pattern.Must(`(?i)^keep (?:on )?(?:stirring|whisking|mixing)\b`), "stir"}},
	"give":  {{pattern.Must(`(?i)^give (?:it|them) (?:about |another |a further )?\d`), ""}},
	"get":   {{pattern.Must(`(?i)^get (?:the |your )?(?:pasta|spaghetti|rice|potatoes|spuds|noodles|eggs|water|veg|vegetables) on\b`), "boil"}},
	"allow": {
		{pattern.Must(`(?i)^allow\b[^.;]*\bcool(?:ing)?\b`), "cool"},
		{pattern.Must(`(?i)^allow\b[^.;]*\b(?:resting|standing) time\b`), "rest"},
		{pattern.Must(`(?i)^allow\b[^.;]*\b(?:proving|rising) time\b`), "prove"},
	},
	"wrap":   {{pattern.Must(`(?i)^wrap(?:ping)?\b[^.;,]*\b(?:cling ?film|film|foil|parchment|baking paper|greaseproof|beeswax|tea towel|cling)\b`), "cover"}},
	"let":    {{pattern.Must(`(?i)^let(?:ting)? (?:it|them|this|everything|the \pL+) (?:get|go|become|turn) (?:\pL+ )?(?:cold|cool)\b`), "cool"}},
	"warm":   {{pattern.Must(`(?i)^warm (?:place|spot|cupboard|drawer|kitchen)\b`), ""}},
	"mash":   {{pattern.Must(`(?i)^mash (?:or|and) \pL+ to serve\b|^mash to serve\b|^mash (?:on(?: top)?|goes)\b`), ""}},
	"oil":    {{pattern.Must(`(?i)^oil (?:to|for) (?:fry|grease|brush|coat|cook|roast|drizzle)`), ""}},
	"prep":   {{pattern.Must(`(?i)^prep (?:the |your )?(?:tables?|trays?|tins?|areas?|bench(?:es)?|boards?|workspace|stations?|equipment|oven|sinks?)\b`), "prepare"}},
	"mince":  {{pattern.Must(`(?i)^mince (?:(?:in|into|in to|on|onto)(?: (?:the |a |your )?(?:pan|dish|wok|bowl|tin|pot|frying pan|casserole)\b|\W*(?:$|[.,;]))|back|goes)`), ""}}, // "mince into the dish"
	"skewer": {{pattern.Must(`(?i)^skewer (?:clean\b|comes?|should|inserted|pushed|test|is|goes|put)\b`), ""}},
	// "make sure your area is clean before you leave"
	"make":   {{madeClean, "tidy"}},
	"check":  {{madeClean, "tidy"}},
	"ensure": {{madeClean, "tidy"}},
	// "rest of the cheese on top"
	"rest": {{pattern.Must(`(?i)^rest (?:of\b|(?:in|on top)\W*(?:$|[.,;]))`), ""}},
	// "leave your bench clean", "leave a border clear", "leave some lumps"
	"leave": {
		{pattern.Must(`(?i)^leav(?:e|ing) (?:(?:your|the|all|every|our) )*(?:(?:cook(?:ing|ery) |work(?:ing)? ?)(?:spaces?|tops?|surfaces?|sides?)|(?:cook(?:ing|ery) |work(?:ing)? ?)?(?:stations?|areas?)|bench(?:es)?|kitchens?|rooms?|units?|sinks?|cookers?|bays?|tables?|everything|classroom|place)\b[^.;]*\b(?:clean|tidy|spotless|clear|ready|as you found)\b`), "tidy"},
		{pattern.Must(`(?i)^leav(?:e|ing)\b[^.;]*\b(?:clear|free|border|gap|edges?|space|room|bare)\b|^leav(?:e|ing) \d+ ?(?:cm|mm)\b`), ""},
		{pattern.Must(`(?i)^leav(?:e|ing) (?:(?:some|a few|an?|plenty of|enough|the skins?) |(?:the )?(?:skins?|peel|stalks?|seeds)(?: on)?(?:$|\W)|(?:it |them )?(?:chunky|whole|lumpy|coarse|as (?:it|they)))`), ""},
	},
	// "core 75 °C"
	"core": {{pattern.Must(`(?i)^core(?: temp\w*)?(?: of)? [>≥]?\d`), ""}},
	// "dry pan, very hot"
	"dry": {{pattern.Must(`(?i)^dry (?:(?:hot|frying|heavy|non-stick) )*(?:pan|skillet|hob|wok)\b`), ""}},
	// onions and aubergines stand in it, water and sauces don't
	// "flour, yeast and salt in a bowl"
	"salt": {{pattern.Must(`(?i)^salt (?:in|into|on|to|with|together|all|for|aside)\b`), ""}, {pattern.Must(`(?i)^salt(?:ed|ing)? (?:it|and pepper|to taste|the (?:water|sauce|soup|pan|mixture|meat|rice|lentils|stew))\b`), "season"}},
	// "sit the tin on a tray" is no wait
	"sit": {
		{pattern.Must(`(?i)^sit(?:ting)?\b[^.;,]*\bfor (?:about |another |\d|an?\b|half|five|ten|fifteen|twenty|thirty)`), "sit"},
		{pattern.Must(`(?i)^sit(?:ting)?\W*(?:$|[,.;)]|for\b|until|till|\d|aside|covered|overnight|in (?:the )?(?:fridge|salted|cold|a warm)|at\b|while)`), "sit"},
		{pattern.Must(`(?i)^sit`), "place"},
	},
}

// madeClean sees to it that a place is left as it was found.
var madeClean = pattern.Must(`(?i)^(?:mak(?:e|ing) sure|ensur(?:e|ing)|check(?:ing)?)\b[^.;]*\b(?:stations?|areas?|bench(?:es)?|kitchens?|units?|sinks?|cookers?|bays?|tables?|everything|classroom|(?:work ?)?(?:tops?|surfaces?)|equipment|place)\b[^.;]*\b(?:clean|tidy|tidied|spotless|put away|washed up|as you found)\b`)
