package reading

import (
	"strings"

	"freshapron/internal/core/fit"
)

// A verb is what a step does: its kind, what it stands on or in, whether its
// time needs hands, and the minutes that it typically takes in a class where
// the text says none.
type verb struct {
	kind fit.Kind
	on   string  // oven, ring, grill, microwave, fridge, freezer
	idle bool    // the time that is said needs no hands
	work float64 // typical minutes of work
	wait float64 // typical minutes of waiting
}

// verbs by their base form. Minutes are typical of lessons.
var verbs = func() map[string]verb {
	m := map[string]verb{}
	add := func(v verb, words string) {
		for _, w := range strings.Fields(words) {
			m[strings.ReplaceAll(w, "_", " ")] = v
		}
	}
	add(verb{fit.Bake, "oven", true, 1, 20}, "bake prebake pre-bake par-bake blind_bake backen backe grädda enfourner enfournez cuire_au_four")
	add(verb{fit.Bake, "oven", true, 1, 40}, "roast")
	add(verb{fit.Cook, "ring", true, 1, 15}, "simmer bubble köcheln mijoter mijotez sjuda sjud puttra")
	add(verb{fit.Cook, "ring", true, 1, 10}, "boil parboil par-boil par_boil hard-boil soft-boil hard_boil soft_boil kochen koche koka bouillir")
	add(verb{fit.Cook, "ring", true, 1, 5}, "poach blanch reduce")
	add(verb{fit.Cook, "ring", true, 1, 10}, "steam pressure-cook pressure_cook slow-cook slow_cook")
	add(verb{fit.Cook, "ring", true, 1, 45}, "stew braise")
	add(verb{fit.Cook, "", true, 1, 15}, "air-fry air_fry airfry")
	add(verb{fit.Cook, "ring", false, 5, 0}, "fry sauté saute brown soften braten stek steka sear griddle render stir-fry pan-fry deep-fry shallow-fry sweat caramelise caramelize dry-fry dry_roast dry-roast dry_fry stir_fry deep_fry shallow_fry pan_fry splutter temper sizzle anbraten anschwitzen revenir")
	add(verb{fit.Cook, "ring", false, 3, 0}, "cook scramble char wilt cuire cuisez")
	add(verb{fit.Cook, "ring", false, 1, 0}, "crackle splutter deglaze flambé flambe")
	add(verb{fit.Cook, "ring", false, 2, 0}, "melt heat warm reheat erhitzen schmelzen fondre")
	add(verb{fit.Cook, "grill", true, 1, 5}, "grill broil barbecue")
	add(verb{fit.Cook, "grill", false, 2, 0}, "toast")
	add(verb{fit.Cook, "microwave", true, 1, 2}, "microwave micro nuke zap")
	add(verb{fit.Chill, "fridge", true, 1, 30}, "chill refrigerate")
	add(verb{fit.Chill, "freezer", true, 1, 60}, "freeze")
	add(verb{fit.Chill, "", true, 1, 30}, "set")
	add(verb{fit.Rest, "", true, 1, 30}, "bulk prove proof rise jäsa ferment gehen lever")
	add(verb{fit.Rest, "", true, 1, 10}, "rest stand soak rehydrate cure brine bloom marinate marinade steep infuse macerate sit leave ruhen vila reposer swell settle brew dry salt quellen autolyse")
	add(verb{fit.Rest, "", true, 1, 60}, "thaw defrost")
	add(verb{fit.Rest, "", true, 1, 0}, "set_aside set_to_one_side keep_aside put_aside leave_aside")
	add(verb{fit.Cool, "", true, 1, 10}, "cool abkühlen auskühlen svalna refroidir")
	add(verb{fit.Clean, "", false, 7, 0}, "wash_up clean_up clear_away clear_down clear_up tidy wipe_down wipe sweep_up sweep clean")
	add(verb{fit.Weigh, "", false, 5, 0}, "weigh measure abwiegen")
	add(verb{fit.Cut, "", false, 4, 0}, "prep top_and_tail chop dice slice grate peel cut shred snip halve quarter core trim mince crush zest deseed stone hull cube skin bone julienne score carve segment spatchcock butterfly fillet pod shell tear schneiden hacken hacka skär hacke schneide schälen couper coupez hacher hachez éplucher épluchez peler pelez émincer émincez râper râpez trancher tranchez reiben")
	add(verb{fit.Mix, "", false, 3, 0}, "separate mix stir whisk beat fold combine blend whizz whiz liquidise liquidize pound grind bash squish swirl smash bind sieve sift add whip toss process blitz purée puree mash season dissolve incorporate mischen rühren verrühren unterheben vispa blanda rör tillsätt mélanger mélangez ajouter ajoutez battre battez fouetter fouettez verser versez incorporer incorporez remuer remuez pulse squeeze juice crumble dilute marble crack break tip pour shake cream_together loosen")
	add(verb{fit.Mix, "", false, 5, 0}, "rub cream knead kneten knete knåda pétrir pétrissez work")
	add(verb{fit.Shape, "", false, 5, 0}, "egg_wash share roll unroll shape press form divide fill spread layer arrange spoon stamp pipe brush glaze thread flatten pat crimp wrap assemble stuff coat dip top scoop portion forma ausrollen formen rulla kavla ausstechen étaler étalez façonner façonnez garnir garnissez répartir répartissez disposer disposez prick dust line plait knock_back fold_over seal mould drop ladle transfer ice sandwich smear slather dot dredge pane stack build truss scrunch smooth level flatten_out tamp tenderise tenderize gather ease trim_off tuck shape_into skewer dollop punch")
	add(verb{fit.Serve, "", false, 2, 0}, "serve dish_up plate_up decorate garnish plate drizzle sprinkle scatter enjoy eat servieren servera servir servez present dress pack taste")
	add(verb{fit.Prepare, "", false, 1, 0}, "chuck bung plonk pop sling lob fetch scrub tilt snap rip knock_out knock_down nestle tuck preheat pre-heat grease butter oil flour drain rinse put place take remove collect get open wash turn lift lay set_out prepare bring use make keep check test pick pull lower raise switch light dry_off pat_dry scrape push dab skim strain discard return repeat wait flip turn_over hold start begin ensure let allow give vorheizen sätt värm smörj préchauffer préchauffez mettre mettez égoutter égouttez couvrir couvrez retirer retirez beurrer beurrez soften_gelatine invert unmould loosen_edges read tie put_on have run reserve slide move dip_out hang unwrap wipe_off finish adjust slip store label probe find ask send carry baste moisten dampen sterilise line_up set_the_timer set_a_timer stretch scald cover put_the_lid_on fill_a_pan fill_the_pan fill_a_saucepan fill_the_kettle fill_a_kettle fill_the_sink")
	return m
}()

// gerunds and other forms lead to the base form.
func baseForm(w string) (string, bool) {
	if _, ok := verbs[w]; ok {
		return w, true
	}
	stem, ok := strings.CutSuffix(w, "ing")
	if !ok || len(stem) < 3 {
		return "", false
	}
	try := []string{stem, stem + "e"}
	if n := len(stem); stem[n-1] == stem[n-2] {
		try = append(try, stem[:n-1])
	}
	for _, t := range try {
		if _, ok := verbs[t]; ok {
			return t, true
		}
	}
	return "", false
}

// isVerb reports whether a word tells somebody to do something.
func isVerb(w string) bool {
	w = strings.ToLower(w)
	_, ok := verbs[w]
	return ok
}

// foods are verbs whose word is also something to eat or a thing: they count
// only before what they are done to.
var foods = wordSet("butter oil flour salt cream ice juice zest stone skin bone core dress top sandwich toast mince roll stew crumble mash grill quarter light dry batter line form season plate score marinade pack test start have use work store run level smooth dot snap shell pod stack fillet rip cure render build smash pound grind bash tilt")

// heads are words after which a verb says what to do.
var heads = wordSet("nd rd second third final bulk min mins minutes so ok okay bulk and then or to & + now next first firstly finally meanwhile lastly secondly also again just well i we you u ya we'll you'll i'd should must will can let it them please to: by, dough mixture meat rice pasta sauce twice before instead carefully quickly together simply afterwards soon only slowly adult adults child children teacher pupils students learners helper")

// foreign verbs may stand anywhere in a clause.
var foreign = wordSet("backen backe grädda enfourner enfournez köcheln mijoter mijotez sjuda sjud puttra kochen koche koka bouillir braten stek steka anbraten anschwitzen revenir erhitzen schmelzen jäsa gehen ruhen vila reposer quellen abkühlen auskühlen svalna refroidir schneiden hacken hacka skär hacke schneide schälen couper coupez hacher éplucher reiben mischen rühren verrühren unterheben vispa blanda rör tillsätt mélanger mélangez ajouter ajoutez battre fouetter cuire fondre verser incorporer remuer peler émincer râper égoutter kneten knete knåda pétrir ausrollen formen rulla kavla ausstechen étaler servieren servera servir vorheizen smörj préchauffer préchauffez abwiegen lever")

func wordSet(s string) map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(s) {
		m[w] = true
	}
	return m
}
