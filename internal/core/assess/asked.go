package assess

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"freshapron/internal/core/pattern"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
)

// Mosts of a brief.
const (
	mostConditions = 40
	mostAsked      = 12
)

// Forms of conditions, for people to write by.
var Forms = []string{
	"3 dishes", "2 accompaniments", "at least 1 hot", "at most 1 sweet", "at least 3 of: shortcrust pastry, rub in, knife skills", "cost at most 4.50",
	"at least 3 colours", "no main ingredient twice", "no nuts", "all vegetarian", "4 portions of each", "hand in: menu card by 2026-11-20",
}

// usualTags are what people say of dishes before anybody has said so in a task.
var usualTags = []string{"hot", "cold", "sweet", "savoury", "starter", "dessert", "bite-sized", "garnish"}

// making is what is done with dishes.
const making = `(?:plan|make|makes|prepare|serve|cook|produce|create|show|use)`

// The words in which conditions stand around what they ask: what does not change it, and
// other ways to say the same.
var (
	bullet     = pattern.Must(`^(?:[-*•–]\s*|\(?[\da-z][).]\s+)`)
	verb       = pattern.Must(`^(?:(?:you|they|everybody|everyone|learners|pupils|students|candidates|each (?:learner|pupil|student)) )?(?:(?:must|should|will|have to|has to|need to|needs to|are to|is to) )?(?:` + making + `(?:, ` + making + `)*(?:,? and ` + making + `)? (?:a (?:final )?menu of )?|a (?:final )?menu of |with |number of )`)
	named      = pattern.Must(`^([\pL][\pL -]*?): +(.+)$`)
	least      = pattern.Must(`\b(?:a minimum of|minimum|min\.?) `)
	most       = pattern.Must(`\b(?:at the most|no more than|not more than|not over|a maximum of|maximum|max\.?|up to) `)
	glutenFree = pattern.Must(`^(?:all |everything )?gf(?: only)?$`)
	eaters     = pattern.Must(` (?:per|a|for each|for every) (?:learner|person|pupil|student|head)$`) // a brief's money is one learner's
	times      = pattern.Must(`(\d) ?x `)
	count      = pattern.Must(`\b(one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve)\b`)
	counts     = []string{"one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"}
)

// plain says a line in the words of the forms, as far as it means one of them.
func plain(line string) string {
	line = strings.TrimSpace(strings.TrimRight(strings.ToLower(line), " ."))
	line = glutenFree.ReplaceAllString(bullet.ReplaceAllString(line, ""), "gluten free")
	if strings.HasPrefix(line, "hand in") || strings.Contains(line, "handed in") {
		return line // a name of a paper is nobody's to change
	}
	line = most.ReplaceAllString(least.ReplaceAllString(line, "at least "), "at most ")
	list := ""
	if at := strings.Index(line, ":"); at >= 0 && listForm.MatchString(count.ReplaceAllString(line, "1")) {
		line, list = line[:at], line[at:]
	}
	line = count.ReplaceAllStringFunc(line, func(w string) string { return strconv.Itoa(slices.Index(counts, w) + 1) })
	line = times.ReplaceAllString(verb.ReplaceAllString(line, ""), "$1 ")
	if m := named.FindStringSubmatch(line); m != nil {
		switch name := m[1]; {
		case name == "cost" || name == "budget":
			line = "cost " + m[2]
		case name == "allergens":
			line = m[2]
		case amount.MatchString(m[2]):
			line = m[2] + " " + name
		}
	}
	return spent.ReplaceAllString(methods.ReplaceAllString(eaters.ReplaceAllString(line, ""), "ways of cooking"), "at most £$1$2$3") + list
}

var (
	methods = pattern.Must(`\b(?:cooking methods|methods of cooking|ways to cook)\b`)
	spent   = pattern.Must(`^(?:(?:at most )?spend(?: at most)? £?|budget of £?)(\d+(?:[.,]\d{1,2})?)(?: pounds)?$|^£(\d+(?:[.,]\d{1,2})?)(?: at most|,? (?:max|maximum|or less|at the most|tops))$|^at most (\d+(?:[.,]\d{1,2})?) pounds$`)
)

var (
	amount       = pattern.Must(`^(?:at least |at most )?\d+$`)
	countForm    = pattern.Must(`^(?:exactly )?(\d+) (dish|dishes|accompaniments?|sides?)$`)
	portionsForm = pattern.Must(`^(?:at least )?(\d+) portions?(?: (?:of )?each(?: dish)?)?$|^(?:each )?(?:serves|for) (\d+)(?: people)?$`)
	listForm     = pattern.Must(`^at least (\d+) (?:of|of these|skills of): *(.+)$`)
	costForm     = pattern.Must(`^(?:costs? at most|budget|cost|at most [£$€]|at most cost) *(?:at most )?[£$€]? *(\d+(?:[.,]\d{1,2})?)(?: in total| altogether)?$`)
	varietyForm  = pattern.Must(`^(?:at least )?(\d+) (?:different )?(colours|textures|shapes|ways of cooking)(?: or more)?(?: on the plate)?$`)
	mainForm     = pattern.Must(`^(?:no main ingredient twice|(?:do not|don[’']t) use the same main ingredient twice|main ingredients must (?:all )?be different)$`)
	withoutForm  = pattern.Must(`^(?:no|without|must not contain|avoid|free from|free of|nothing (?:with|containing)) (.+?)(?: in it)?$|^(.+)[ -]free$|^(.+?) (?:is |are )?not allowed$`)
	dietForm     = pattern.Must(`^(?:all|everything|all of it|all dishes)(?: is| are)? (.+)$`)
	coeliac      = pattern.Must(`\bcoeliac(?:s| disease)?$`)
	suitsForm    = pattern.Must(`^(?:must be )?suitable for (?:an? |all )?(?:(?:someone|somebody|people|a person|those|a guest|guests) (?:with|who has|who have) )?(.+)$`)
	paperForm    = pattern.Must(`^(?:hand in:?|the)? *(.+?)(?: must be handed in| is handed in| are handed in)?,? (?:due )?(?:by|on) (\d{4}-\d{2}-\d{2}|(?:\pL+day,? )?(?:the )?\d{1,2}(?:st|nd|rd|th)? (?:of )?\pL+(?:,? \d{4})?)$`)
	papers       = pattern.Must(`\b(?:hand|plan|list|log|card|sheet|order|form|evaluation)`)
	aDay         = pattern.Must(`(\d{1,2})(?:st|nd|rd|th)? (?:of )?(\pL{3})\pL*(?:,? (\d{4}))?$`)
	tagForm      = pattern.Must(`^(at least |at most )?(\d+) ((?:[\pL][\pL -]*)?[\pL])( at least)?$`)
	ofTime       = pattern.Must(`^(?:hours?|hrs?|minutes?|mins?)\b`)
	aroundTag    = pattern.Must(`^(?:of the )?(?:dish|dishes|items?) (?:must be|is|are) | (?:dish|dishes|items?|ones?)$`)
)

// ReadBrief reads conditions, a line each; see Forms. What is none is a problem at its
// line. The date of a paper is read in a place. Tags are what dishes are said to be: a
// condition that asks for something else that is unusual names it, and is never met.
func ReadBrief(text string, in *time.Location, tags []string) (Brief, error) {
	var out Brief
	var problems problem.List
	for n, line := range strings.Split(text, "\n") {
		line = strings.TrimSpace(line)
		if line == "" {
			continue
		}
		c, err := condition(plain(line), in, tags)
		if err != nil {
			if several := severally(line, in, tags); several != nil {
				for _, c := range several {
					c.Line = line
					out = append(out, c)
				}
				continue
			}
			problems.Add("brief", "line %d, “%s”: %s", n+1, words.Short(line), err)
			continue
		}
		c.Line = line
		out = append(out, c)
	}
	if len(out) > mostConditions {
		problems.Add("brief", "there are %d conditions, and %d are the most", len(out), mostConditions)
	}
	return out, problems.Err()
}

func condition(line string, in *time.Location, tags []string) (Condition, error) {
	var n int
	number := func(text string, most int) error {
		var err error
		if n, err = strconv.Atoi(text); err != nil || n < 1 || n > most {
			return fmt.Errorf("%s is no number from 1 to %d", words.Short(text), most)
		}
		return nil
	}
	none := fmt.Errorf("that is no condition that can be checked. Write it as one of: %s", strings.Join(Forms, "; "))
	if m := paperForm.FindStringSubmatch(line); m != nil && papers.MatchString(line) {
		by, err := day(m[2], in)
		return paper(m[1], by), err
	}
	if m := countForm.FindStringSubmatch(line); m != nil {
		err := number(m[1], mostAsked)
		return counted(n, !strings.HasPrefix(m[2], "dish")), err
	}
	if m := portionsForm.FindStringSubmatch(line); m != nil {
		err := number(m[1]+m[2], 100)
		return portions(n), err
	}
	if m := listForm.FindStringSubmatch(line); m != nil {
		list := parts(m[2])
		err := number(m[1], max(1, len(list)))
		return skillsOf(n, list), err
	}
	if m := costForm.FindStringSubmatch(line); m != nil {
		pounds, err := strconv.ParseFloat(strings.ReplaceAll(m[1], ",", "."), 64)
		return cost(100 * pounds), err
	}
	if m := varietyForm.FindStringSubmatch(line); m != nil {
		err := number(m[1], 20)
		return different(n, m[2]), err
	}
	if mainForm.MatchString(line) {
		return mainOnce(), nil
	}
	if c, err := diet(line); err == nil {
		return c, nil
	}
	if m := withoutForm.FindStringSubmatch(line); m != nil {
		return without(m[1] + m[2] + m[3])
	}
	if m := suitsForm.FindStringSubmatch(line); m != nil {
		if c, err := diet(strings.TrimSuffix(m[1], "s")); err == nil {
			return c, nil
		}
		return without(coeliac.ReplaceAllString(m[1], "gluten"))
	}
	if m := dietForm.FindStringSubmatch(line); m != nil {
		return diet(m[1])
	}
	m := tagForm.FindStringSubmatch(line)
	if m == nil || m[1] != "" && m[4] != "" {
		return Condition{}, none
	}
	if err := number(m[2], mostAsked); err != nil {
		return Condition{}, err
	}
	tag := strings.TrimSpace(aroundTag.ReplaceAllString(m[3], ""))
	if tag == "" || aroundTag.MatchString(" "+tag) || ofTime.MatchString(tag) {
		return Condition{}, none
	}
	known, ok := tagOf(tag, tags)
	c := tagged(n, m[1] == "at most ", known)
	if !ok {
		c = unsaid(c.Says, tag)
	}
	return c, nil
}

// day reads a date of which the year is said.
func day(text string, in *time.Location) (time.Time, error) {
	if by, err := time.ParseInLocation(time.DateOnly, text, in); err == nil {
		return by, nil
	}
	m := aDay.FindStringSubmatch(text)
	if m != nil && m[3] == "" {
		return time.Time{}, fmt.Errorf("“%s” is in every year: say in which", text)
	}
	if m != nil {
		if by, err := time.ParseInLocation("2 Jan 2006", m[1]+" "+m[2]+" "+m[3], in); err == nil {
			return by, nil
		}
	}
	return time.Time{}, fmt.Errorf("%s is no day of the calendar", text)
}

// severally reads conditions that stand in one line: "two savoury and one sweet". It
// returns none where one of them is not known.
func severally(line string, in *time.Location, tags []string) (out []Condition) {
	for _, p := range joint.Split(line, -1) {
		c, err := condition(plain(p), in, tags)
		if err != nil || c.Tag != "" {
			return nil
		}
		out = append(out, c)
	}
	return out
}

var joint = pattern.Must(`\s*(?:,|;|\+)\s*(?:and )?|\s+(?:and|&|plus)\s+`)

// tagOf finds what dishes are said to be by the word for it, of one or of several.
func tagOf(word string, tags []string) (string, bool) {
	for _, w := range []string{word, strings.TrimSuffix(word, "s"), strings.TrimSuffix(word, "es")} {
		if slices.Contains(usualTags, w) || slices.Contains(tags, w) {
			return w, true
		}
	}
	return word, false
}

func parts(text string) []string {
	var out []string
	for _, p := range strings.Split(text, ",") {
		if p = strings.TrimSpace(p); p != "" {
			out = append(out, p)
		}
	}
	return out
}
