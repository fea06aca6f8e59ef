package reading

import (
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/setting"
)

var (
	times      = pattern.Must(`(?i)^(?:(?:total(?: time)?|prep(?:aration)?(?: time)?|cook(?:ing)?(?: time)|bak(?:e|ing) time|prov(?:e|ing)(?: time)?|time(?: needed)?|ready in|rest(?:ing)? time|chill(?:ing)? time|active time|hands-on(?: time)?|duration|calories|kcal|energy|zeit|backzeit|arbeitszeit|gesamtzeit)\b\s*(?:[:=–—-]|about|approx|\d|in|is|it|for|at|$)|(?:prep|cook|cool|chill|rest|rise|bake|takes|total)\b\s*(?:[:=–—-]|about|approx|time)?\s*\d+[^.,]{0,24}(?:$|\|)|(?:difficulty|card(?: no\.?)?|sheet no\.?|level|skill level|cost|price|course|cuisine|category|author|by|from|source|recipe (?:by|from)|adapted from|oven(?: temp(?:erature)?)?(?: setting)?|(?:core |fridge |probe |serving )?temp(?:erature)?|tin(?: size)?|suitable for|learner|candidate|lo|walt|wilf|aims?|objectives?|learning (?:objective|intention|aim)s?|target|grade|pupil|student|teacher|week|stars? and .{0,12}|allergens?|contains|skills?|year(?: group)?|group|set|form|period|class|date|name|lesson|rating|published|updated|keywords?|equipment|kit|utensils|nutrition(?:al information)?|per portion|keeps|freezes|shelf life|storage|note|nb|n\.b\.|p\.?s\.?|diet(?:ary)?|temps|tid|takes|cook|prep)\s*:|(?:subject|to|cc|sent|re|fwd?)\s*: |for\s*: (?:mr|mrs|ms|miss|dr|\d)\b|(?:by|from|recipe by|adapted from) (?:[A-Z]|my |the )|(?:print|rate|share|save|jump to|advertisement|photo|image|video|published)\b)`)
	remark     = pattern.Must(`(?i)^(?:[\pL]+['’]?s?\s+)?(?:top\s+)?(?:h ?[&+] ?s|health (?:and|&) safety|tips?|hints?|notes?|warning|caution|danger|safety|remember|critical (?:control )?(?:point|control)|ccp|control point|nb|n\.b|ps|variations?|optional extra|serving suggestion|did you know|look for|tasting|storage|to store|to freeze|make ahead|leftovers|science|why)\s*(?:\d+\s*)?(?:[:–—]|-\s)|^(?:n\.b\.?|NB\.?) |^(?:\pL+ ){2}tips?\s*[:–—]`)
	partHead   = pattern.Must(`(?i)^(?:for (?:the|your|a) |to make (?:the|your) |für (?:den|die|das) |pour (?:la|le|les) |till )(.+?):?$`)
	inlineList = pattern.Must(`(?i)^(?:ingredients?|you(?:'ll| will)? need|what you need|zutaten|ingrédients?)(?: [\pL ]{1,24}?)?\s*[:–—-]\s*(.{12,})$`)
	youWant    = pattern.Must(`(?i)^((?:(?:per|for (?:each|every|a)|each) (?:group|pair|team|bench|table) of [2-6],? |for (?:one|an?|1) \d+ ?cm [\pL ]+(?:[/(] ?\d+ \pL+\)?)?,? )?[^\d½¼¾.:]{0,70}?)\b(?:you|u|i|they|we|pupils|students|learners|everyone|each (?:pupil|student|learner|pair|child))(?:'ll| will|'d)?(?: each| all| also)* (?:(?:wants?|needs?|uses?|brings?)(?: for (?:each|one|every) \pL+| per \pL+)?|(?:please |pls )?(?:put|set|get|lay|leave|weigh|sort)(?: out| up| ready)?(?: (?:per|for each|each|for every) (?:pair|pupil|learner|student|child|person|group|bench))?) (?:(?:about|around|roughly|approx\.?) )?((?:\d|[½¼¾]|an? |half |some |one |two |three |four |(?:\pL{3,} ){1,2}\d+ ?(?:g|kg|ml|l)\b).{12,})$`)
	caption    = pattern.Must(`(?i)^(?:photo|image|picture|fig(?:ure)?\.? \d|credit|video|watch|subscribe|follow|advert\w*|print\b|share (?:this|it|on|with)\b|share\W*$|pin (?:it|this)|comments?\b|copyright|©|page \d|(?:card|sheet|recipe) no\.?:? ?\d+$|www\.|https?:|@|#|rated?|★|\*{3,}|like and|link in|save this|jump to|\d+ (?:reviews?|comments?|ratings?|likes?|views?|kcal|calories)|(?:very |quite )?(?:easy|moderate|medium|hard|difficult|challenging)$)`)
	smallTalk  = pattern.Must(`(?i)^(?:hi|hiya|hello|hey|dear)\b|^(?:can|could|would|will) you\b|\b(?:hi everyone|as promised|you (?:liked|asked for|wanted)|welcome back|subscribe|my (?:gran|nan|mum|mother|grandmother|family)|i (?:love|grew|first|always loved|remember)|this is (?:a|the|my|one)|these are|it(?:'s| is) (?:a|the|one|perfect|great|so)|delicious|perfect for|a classic|a lovely|favourite|ideal for|great for|everyone)\b`)
)

// keeps is how long the food lasts.
var keeps = pattern.Must(`(?i)^(?:(?:it |this |they )?(?:keeps|freezes|lasts|will (?:keep|freeze|last))\b[^.]{0,12}\b(?:\d|well|in|for|up)|best eaten|(?:eat|use) within|(?:keep|store|put|chill|refrigerate) (?:any |the )?left[- ]?overs\b|(?:any )?left[- ]?overs (?:can|may|should|must|will|keep)\b)`)

// doneAtHome is what is done after the lesson: "take home and bake at 180 for 20 mins".
const doneAtHome = `(?:take (?:it |them |this )?home,? (?:to|and|then) (?:bake|cook|heat|reheat|grill|finish)|(?:to )?(?:freeze (?:or|and) )?(?:bake|cook|finish(?: (?:it|them|off|baking|cooking))?|heat|heat through|reheat|grill|warm through) (?:it |them |this )?at home|at home,?:? (?:bake|cook|finish|heat|reheat|grill|put))\b`

// atHomeOnly is a line of it, "to reheat: 180 for 15" among them; hereToo is what may be done in the
// lesson as well.
var (
	atHomeOnly = pattern.Must(`(?i)^\W*(?:(?:(?:they|pupils|learners|students|you|we|everyone)(?: can| will|'ll)? )?` + doneAtHome + `|(?:how )?to (?:reheat|store|freeze|keep)\b[^:–-]{0,20}[:–-]|reheat(?:ing)?(?: instructions| at home)? ?[:–-]|take home ?[:–-]|(?:ice|decorate|fill|finish|evaluate|write up|bake|assemble|taste) (?:it |them )?next (?:lesson|week|time)\b|(?:for )?next (?:week|lesson|time)\b[^.]{0,12}\b(?:bring|we)\b)`)
	hereToo    = pattern.Must(`(?i)\bhome or (?:in|at) (?:the )?(?:school|class|lesson)\b`)
)

// insteadOf is another way, for somebody else: "Can be steamed instead - 1½ hrs".
var insteadOf = pattern.Must(`(?i)^(?:(?:it|this|they|these) )?(?:can|could|may)(?: also)? be (?:\pL+ed|made|frozen|done)\b[^.]*\binstead\b|(?i)^[^.!?]*\b(?:can|could|may) be (?:re)?(?:heated|baked|cooked|finished|eaten|frozen)\b[^.]*\bat home\b`)

// howTheyWork says how many do it together: "Learners work in threes".
var howTheyWork = pattern.Must(`(?i)^(?:the )?(?:learners|pupils|students|class|kids|children|everyone|they)(?: will)? (?:works?|cooks?) (?:in (?:pairs|twos|threes|fours|fives|groups|teams|[2-6]s?\b)|as (?:a|one|pairs|teams)|on their own|alone|individually)\b|^(?:(?:you )?work(?:ing)? )?(?:in )?(?:a )?(?:groups?|teams?) of (?:[2-6]|two|three|four|five|six)\W*$`)

// itTook is what somebody tells of the last time: "Ours took 25 mins start to finish".
var itTook = pattern.Must(`(?i)^(?:ours|mine|theirs|it|this|that|they|we|last (?:year|time|week))(?:'s)? (?:all )?took\b|^(?:the )?ovens?(?: will)? (?:takes?|needs?) [^.]*\bto (?:heat|warm|get hot|come up)\b|^(?:it |this )?takes? (?:them|us|me|my lot|the class|pupils|learners|students)\b`)

// ofSchoolOnly is what is done about the dish and not with it: "Evaluation - what went well".
var ofSchoolOnly = pattern.Must(`(?i)^(?:(?:self |peer )?(?:evaluation|assessment)|homework|h/?w|plenary|differentiation|ext(?:ension)?(?: task| activity)?|challenge(?: task)?|success criteria|learning (?:outcomes?|objectives?|intentions?|aims?|focus))\s*[:–-]`)

// shares is who takes how many of what is done, and nothing else: "They each take 3 and leave the rest for the open evening".
const shares = `(?:they|everyone|each (?:pair|group|pupil|learner|of them))(?: each| all)? (?:takes?|gets?|keeps?) (?:home )?\d+(?: home| each| pieces?)?(?:\W*$|,? (?:and|then) leaves? (?:the )?(?:rest|others?)\b[^.!]*)`

// besideWork reports whether a line says something round the work, and no step of it: it has no time and
// no heat of its own.
func besideWork(text string) bool {
	return roundWork.MatchString(text) && len(duration.In(text)) == 0 && len(setting.Beside(text, true)) == 0
}

// roundWork are options and challenges, when to have cleared up, what a learner thinks of it, photographs,
// cautions that name no step, kit, and who does which job in a unit kitchen.
var roundWork = pattern.Must(`(?i)^(?:\pL+ )?(?:options?|alternatives?|swaps?|risks?|hazards?|challenges?|stretch (?:yourself|task))\s*[:–—]` +
	`|^(?:\pL+ ){0,3}(?:[-–:] )?(?:pack|clear|tidy|finish(?:ed)?|be (?:out|done|finished|ready))(?: up| away)? by \d{1,2}[.:]\d{2}\W*$` +
	`|^(?:i|we) (?:worked|used|could|would|liked|enjoyed|loved|learn(?:ed|t)|was proud|found it)\b` +
	`|^(?:i|we) (?:(?:always|often|usually|normally) )?(?:make|do|teach|use) (?:this|these|it|them)\b` +
	`|^(?:they|kids|pupils|students) (?:all |always |really )*(?:love|like|enjoy)\b` +
	`|^(?:clear(?:ing)?|pack(?:ing)?|wash(?:ing)?|tidy(?:ing)?)[- ]?(?:down|up|away) (?:(?:must|should|has to|needs to|will) )?(?:start|begin)s?\b` +
	`|^(?:take a (?:photo|picture)|mind (?:the|your|out))\b` +
	`|^(?:(?:if|please|any|do|just)\b[^.\d]*\b)?(?:let me know|get in touch|in confidence)\b` +
	`|^needs?\s*:.*\b(?:bowl|pan|sieve|grater|trays?|knife|knives|spoons?|board|whisk|rolling pin)\b` +
	`|^(?:settle(?: down)?|register|registration)\W*(?:,|$)` +
	`|^` + shares +
	`|^(?:lab|kitchen) (?:groups?|duties|jobs|roles)\b\W`)

// keepsBehind is that at the end of a step.
var keepsBehind = pattern.Must(`(?i)^(.*[.!])\s+((?:it |this |they )?(?:keeps|lasts|will (?:keep|last)) [^.]*\b\d[^.]*\.?)$`)

// timeOf is how long all of it takes: "Prep Time 5 mins".
var timeOf = pattern.Must(`(?i)^(?:prep(?:aration)?|cook(?:ing)?|bak(?:e|ing)|total) time\b\W*\d[^.]{0,16}$`)

// costs is what the dish costs.
var costs = pattern.Must(`(?i)^(?:(?:total |approx(?:imate)? |rough )?costs?\b|budget\s*[:=–-]|£)[^.]*\d[^.]*\.?\d*\W*$`)

// kitHead begins a list of things that is often longer than its line.
var kitHead = pattern.Must(`(?i)^(?:equipment|utensils|tools|kit)\b`)

// stretches are those of a lesson, each with what it is for: "0-10 demo; 10-20 dough".
var stretches = pattern.Must(`(?:^|[;,:]\s*)\d{1,3} ?[-–] ?\d{1,3}(?: ?mins?)? \pL`)

// aside is a line in brackets about the lesson: “(Learners work in 2s. 60 min lesson.)”
var aside = pattern.Must(`(?i)^\([^()]*\b(?:(?:take|at) home|learners|pupils|students|lesson|groups?|pairs?|in (?:2|3|4)s|class)\b[^()]*\)$`)

var inTwos = pattern.Must(`(?i)\b(?:(?:works?|working|cook) in (?:(pairs|twos|2s)|(threes|3s)|(fours|4s))|(?:groups?|teams?) of (?:(twos?|2s?)|(threes?|3s?)|(fours?|4s?)))\b`)

// inTwos notes how many work together.
func (r *reader) inTwos(l line, text string) {
	m := inTwos.FindStringSubmatch(text)
	if m == nil {
		return
	}
	for n, g := range m[1:] {
		if g != "" {
			r.group = group{n%3 + 2, l, false}
		}
	}
}

// closes reports whether a line is where a letter ends: "Cheers", and the name under it.
func (r *reader) closes(n int) bool {
	if len(strings.Fields(r.lines[n].item)) > 4 || n == 0 || n < len(r.lines)-4 {
		return false
	}
	if len([]rune(r.lines[n].item)) < 3 {
		return true
	}
	if n == len(r.lines)-1 && kisses.MatchString(r.lines[n].item) {
		return true
	}
	return signOff.MatchString(r.lines[n].item) || signOff.MatchString(r.lines[n-1].item) && n == len(r.lines)-1
}

var kisses = pattern.Must(`^\p{Lu}\pL+ x+$`)

var signOff = pattern.Must(`(?i)^from \p{Lu}\pL+(?: \w+){0,2}$|^ta(?:,? \pL{1,14})?[.!]?$|^(?:cheers|thanks?|thank you|many thanks|love|(?:kind |best |warm )?regards|best wishes|all the best|yours|bye|good luck|hope (?:this|it) helps|see you|any (?:probs|problems|questions)|enjoy|happy (?:baking|cooking))\b[^.]{0,24}[,.!]*(?: ?x+)?$`)
