package recipe

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
)

// A Taking is how a line was taken: the ingredient, what was read of it, and
// what its name was taken for.
type Taking struct {
	Ingredient Ingredient
	Reading    measure.Reading
	Match      pantry.Match
}

// Unsure reports whether somebody should look at the line.
func (t Taking) Unsure() bool {
	return !t.Match.Certain || len(t.Reading.Doubts) > 0 || len(t.Reading.Problems) > 0
}

// named is a name in brackets, of two words at least: one word says as often
// what is in a thing as what it is.
var named = pattern.Must(`\(([\pL'-]+(?: [\pL'-]+)+)\)`)

// eggs by country: what is called large weighs 57 g in its shell in the US and 52
// to 60 g in Australia, as a medium one does here (typical sizes).
var eggs = map[string]map[string]string{
	"us": {"egg-large": "egg-medium", "egg-medium": "egg-small"},
	"au": {"egg-large": "egg-medium", "egg-medium": "egg-medium"},
}

// Several parts a line of two ingredients: "1 egg plus 1 yolk", "200 g flour
// plus 2 tbsp for dusting" is one.
func Several(line string, sys measure.System, p *pantry.Pantry) []string {
	for _, joint := range joined.FindAllStringIndex(line, -1) {
		first, second := line[:joint[0]], line[joint[1]:]
		a, b := TakeLine(first, "", sys, p), TakeLine(second, "", sys, p)
		if !a.Reading.Given || !b.Reading.Given || a.Ingredient.Pantry == "" {
			continue
		}
		if b.Ingredient.Pantry == "" && a.Ingredient.Law == Whole { // "1 yolk" of an egg
			b = TakeLine(strings.Replace(strings.Replace(second, "yolk", "egg yolk", 1), "white", "egg white", 1), "", sys, p)
			second = b.Reading.Line
		}
		if b.Ingredient.Pantry != "" && b.Ingredient.Pantry != a.Ingredient.Pantry {
			return []string{first, second}
		}
	}
	return []string{line}
}

var joined = pattern.Must(`(?i)\s+(?:plus|and|&|\+)\s+(?:\b)`)

// wholes are the ingredients of which people use whole ones.
var wholes = []string{"egg-yolk", "egg-white", "egg-small", "egg-medium", "egg-large", "tortilla", "bread-roll", "flatbread", "stock-cube", "bay-leaf", "cinnamon-stick", "star-anise", "kaffir-lime"}

var (
	amountLast = pattern.Must(`^([^\s½¼¾⅓⅔⅛].*?)\s*[:,–(-]?\s*(\d+(?:[.,]\d+)?\s?(?:g|kg|ml|l))\)?$`)
	kinds      = pattern.Must(`(?i)\b(?:whole|block)\b`)
	driedOnes  = pattern.Must(`(?i)\bdried\b|\bsoak(?:ed)?\b.{0,20}\b(?:overnight|o/n|night before|hours?|hrs?)\b`)
	wetOnes    = pattern.Must(`(?i)\b(?:tin|tins|tinned|can|cans|canned|fresh|drained|or)\b|\bdried (?:well|off|on)\b`) // "or 1 cup dried" is another way to it
)

// TakeLine reads a line as an ingredient of a part. What it is stays open
// where the pantry is not certain.
func TakeLine(line, part string, sys measure.System, p *pantry.Pantry) Taking {
	if m := amountLast.FindStringSubmatch(line); m != nil && p.Match(m[1]).Certain { // "five spice 50 g" is no five
		line = m[2] + " " + m[1]
	}
	t := Taking{Reading: measure.Read(line, sys)}
	r := t.Reading
	i := Ingredient{Name: r.Name, Note: r.Note, Part: part, Size: r.Size, Law: Linear, Optional: r.Optional, Also: r.Also}
	i.Unit = measure.Each
	if r.Size == "packed" {
		i.Filling, i.Size = "packed", ""
	}
	unit := r.Unit
	if !r.Given {
		unit = measure.Teaspoon // what has no amount is more likely a spice than a vegetable
		if inSlices.MatchString(line) {
			unit = measure.Each
		}
		if strings.EqualFold(r.Name, "peppers") || strings.EqualFold(r.Name, "chillies") {
			unit = measure.Each
		}
	}
	sold := []string{r.Size + " " + r.Name, r.Name}
	if r.Pack != nil && r.Pack.Word.ID == "tin" || unit.ID == "tin" { // "400 g tin tomatoes" are no fresh ones
		sold = slices.Insert(sold, 0, "tinned "+r.Name)
	}
	if driedOnes.MatchString(line) && !wetOnes.MatchString(line) {
		sold = slices.Insert(sold, 0, "dried "+r.Name)
	}
	if word := kinds.FindString(line); word != "" { // whole cumin and block margarine are other things
		sold = slices.Insert(sold, 0, word+" "+r.Name)
	}
	for _, words := range sold {
		if t.Match = p.MatchAs(words, unit); t.Match.Certain {
			break
		}
	}
	// "Chopped tomatoes" are sold as such: the words before the name belong to
	// it where they make it another thing.
	if first, rest, _ := strings.Cut(r.Note, ", "); first != "" && strings.Contains(strings.ToLower(line), strings.ToLower(first+" "+r.Name)) {
		if sold := p.MatchAs(first+" "+r.Name, unit); sold.Certain && sold.Ingredient.ID != t.Match.Ingredient.ID {
			t.Match = sold
			i.Name, i.Note = first+" "+r.Name, rest
		}
	}
	// Catalogues turn names round: "Flour, self-raising".
	if first, rest, _ := strings.Cut(r.Note, ", "); first != "" && !worked.MatchString(first) && turnedRound(strings.ToLower(line), strings.ToLower(r.Name), strings.ToLower(first)) {
		for _, words := range []string{first + " " + r.Name, r.Name + " " + first} {
			if turned := p.MatchAs(words, unit); turned.Certain && turned.Ingredient.ID != t.Match.Ingredient.ID {
				t.Match = turned
				i.Name, i.Note = words, rest
				break
			}
		}
	}
	if t.Match.Ingredient.ID == "ginger-root" && unit.Dimension == measure.Volume && strings.EqualFold(r.Name, "ginger") && !freshRoot.MatchString(line) { // a spoon of it is of the jar
		if ground, found := p.Find("ginger-ground"); found {
			t.Match.Ingredient = ground
		}
	}
	if t.Match.Ingredient.ID == "ginger-ground" && !r.Given && inchOf.MatchString(line) {
		if root, found := p.Find("ginger-root"); found {
			t.Match.Ingredient = root
		}
	}
	if t.Match.Ingredient.ID == "coriander-leaf" && unit.ID == measure.Teaspoon.ID && strings.EqualFold(r.Name, "coriander") && !freshRoot.MatchString(line) && !leafOf.MatchString(line) { // a teaspoon of it is of the jar
		if ground, found := p.Find("coriander-ground"); found {
			t.Match.Ingredient = ground
		}
	}
	if t.Match.Ingredient.ID == "coriander-ground" && leafOf.MatchString(line) && strings.EqualFold(r.Name, "coriander") {
		if leaf, found := p.Find("coriander-leaf"); found {
			t.Match.Ingredient = leaf
		}
	}
	if id, ok := eggs[sys.Name][t.Match.Ingredient.ID]; ok && r.Size != "" { // a large egg is not as large everywhere
		if egg, found := p.Find(id); found {
			t.Match.Ingredient = egg
		}
	}
	if bracket := named.FindStringSubmatch(line); !t.Match.Certain && bracket != nil { // "jeera (cumin seeds)"
		if known := p.MatchAs(bracket[1], unit); known.Certain {
			t.Match = known
		}
	}
	if t.Match.Certain {
		t.Reading = inAll(r, t.Match.Ingredient.Packs)
		r = t.Reading
	}
	i.Pack = r.Pack
	if r.Given {
		i.Quantity = r.Quantity()
	}
	if t.Match.Certain {
		i.Pantry = t.Match.Ingredient.ID
		if slices.Contains(strings.Fields(i.Name), r.Size) || strings.HasPrefix(t.Match.Ingredient.Name, r.Size+" ") && r.Size != "" {
			i.Name, i.Size = t.Match.Ingredient.Name, ""
			if r.Low.IsInt() && r.Low.Floor() != 1 && t.Match.Ingredient.Plural != "" {
				i.Name = t.Match.Ingredient.Plural
			}
		}
	}
	switch {
	case r.Surface:
		i.Law = Surface
	case r.Taste, !r.Given, r.Unit.Loose():
		i.Law = Taste
	case slices.Contains(wholes, i.Pantry) && r.Unit.ID == measure.Each.ID:
		i.Law = Whole
	case i.Pantry == "water" && strings.Contains(strings.ToLower(r.Note), "to boil"):
		i.Law = Fixed
	}
	t.Ingredient = i
	return t
}

// inAll is a reading in which the amount behind the name is that of all packs together, where this
// is nearer to what the thing is sold in: "½ tin coconut milk (200 ml)", "2 tins tomatoes (800 g)".
func inAll(r measure.Reading, packs []pantry.Pack) measure.Reading {
	if !r.Behind || r.Pack.Count.Sign() <= 0 || r.Pack.Count.Cmp(exact.Int(1)) == 0 {
		return r
	}
	of := measure.Quantity{Amount: r.Pack.Size.Amount.Div(r.Pack.Count), Unit: r.Pack.Size.Unit}
	one, all := far(r.Pack.Size, packs), far(of, packs)
	if min(one, all) > likePack {
		r.Doubts = append(slices.Clone(r.Doubts), fmt.Sprintf("is %s what one of them holds, or all of it?", r.Pack.Size))
	}
	if all >= one {
		return r
	}
	r.Low, r.High = r.Pack.Size.Amount, r.Pack.Size.Amount.Mul(r.High.Div(r.Low))
	r.Pack = &measure.PackSize{Count: r.Pack.Count, Size: of, Word: r.Pack.Word}
	return r
}

// likePack is how far the size of a pack may lie from one that is known, as far measures it: by a quarter.
var likePack = math.Log(1.25)

// far is the logarithm of by how many times an amount is off the nearest pack; infinite where none is
// measured so.
func far(q measure.Quantity, packs []pantry.Pack) float64 {
	least := math.Inf(1)
	for _, p := range packs {
		if p.Size.Unit.Dimension == q.Unit.Dimension {
			least = min(least, math.Abs(math.Log(q.Base().Float()/p.Size.Base().Float())))
		}
	}
	return least
}

// inSlices is no spice: "a few slices of pepper".
var inSlices = pattern.Must(`(?i)\b(?:slices?|strips?|rings?|sticks?|chunks?)\b`)

// turnedRound reports whether the kind of a thing stands behind its name: "flour, strong".
func turnedRound(line, name, kind string) bool {
	return slices.ContainsFunc([]string{", ", " (", " - ", " – "}, func(mark string) bool { return strings.Contains(line, name+mark+kind) })
}

// worked says how a thing is prepared, where the same words before a name mean that it is bought so.
var worked = pattern.Must(`(?i)^(?:\pL+ly )?(?:chopped|crushed|diced|sliced|grated|cooked|mashed|plum|whole|beaten|melted|peeled|drained|rinsed|washed|trimmed|halved|quartered|deseeded|juiced?|zest(?:ed)?|rind|toasted|crumbled|torn|shredded|softened|sifted|sieved|thawed|defrosted|optional|large|small|medium|cold|warm|hot|paste|thin|thick|fine|strips|rounds|rings)\b`)

// Heading reports whether a line of a list names a part rather than an
// ingredient: "Pastry:", "For the filling".
func Heading(line string) (string, bool) {
	line = strings.TrimSpace(line)
	name, ok := strings.CutSuffix(line, ":")
	low := strings.ToLower(name)
	if !ok && !strings.HasPrefix(low, "for the ") {
		return "", false
	}
	if strings.ContainsAny(name, "0123456789½¼¾⅓⅔") || len(name) > 60 || strings.TrimSpace(name) == "" {
		return "", false
	}
	r := []rune(strings.TrimSpace(name))
	return strings.ToUpper(string(r[0])) + string(r[1:]), true
}

// inchOf are words of a piece of a root, leafOf of a herb with its leaves.
var (
	inchOf = pattern.Must(`(?i)\b(?:inch|cm|thumb|piece|knob|root)\b`)
	leafOf = pattern.Must(`(?i)\bleaf|leaves\b|\b(?:sprigs?|bunch|stalks?|handful|fresh)\b|\bto (?:finish|garnish|serve|decorate|scatter)\b`)
)

// freshRoot are words of ginger that is a root.
var freshRoot = pattern.Must(`(?i)\b(?:fresh|root|grated|chopped|minced|sliced|crushed|peeled|julienne)`)

// TakeLines reads a list of lines, part by part.
func TakeLines(lines []string, sys measure.System, p *pantry.Pantry) []Taking {
	var out []Taking
	part := ""
	for _, line := range lines {
		if strings.TrimSpace(line) == "" {
			continue
		}
		if name, ok := Heading(line); ok {
			part = name
			continue
		}
		out = append(out, TakeLine(line, part, sys, p))
	}
	return out
}
