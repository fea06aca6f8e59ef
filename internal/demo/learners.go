package demo

import (
	"fmt"
	"time"

	"freshapron/internal/core/class"
	"freshapron/internal/core/safety"
)

// The names are put together from these; nobody is meant.
var (
	given = []string{
		"Ada", "Bilal", "Cleo", "Dmitri", "Esme", "Farid", "Gwen", "Hugo", "Imani", "Jonas", "Keira", "Leo", "Mina", "Noor", "Otis", "Priya",
		"Quinn", "Rosa", "Samir", "Tilda", "Umar", "Vera", "Wren", "Xavi", "Yara", "Zeb", "Anouk", "Bram", "Cora", "Dev", "Elif", "Finn", "Gita",
	}
	family = []string{
		"Ashby", "Brandt", "Coyle", "Dray", "Ekwe", "Fenwick", "Gallo", "Harker", "Idris", "Jessop", "Kaur", "Lomax", "Marsh", "Nakata", "Okoro",
		"Pell", "Quist", "Rahim", "Sorley", "Tam", "Ulrich", "Vane", "Whitlow", "Yilmaz", "Zeller", "Abara", "Birch",
	}
)

// A need is somebody's, by the place in the list of the class.
type need struct {
	at int
	class.Need
}

func allergy(at int, what string, s class.Severity, helps string) need {
	return need{at, class.Need{Kind: class.Allergy, What: what, Severity: s, Helps: helps}}
}

func diet(at int, what string) need { return need{at, class.Need{Kind: class.Diet, What: what}} }

func access(at int, what, helps string) need {
	return need{at, class.Need{Kind: class.Access, What: what, Helps: helps}}
}

// needsOf lists what the learners of a class need.
var needsOf = map[string][]need{
	"7 Alder": {
		allergy(3, "coeliac", class.Contact, "own board and toaster bag"), allergy(11, "nuts", class.Contact, "pen in the office and in the bag"),
		diet(6, "halal"), diet(14, "vegan"), access(9, safety.LowVision, "large print, sits near the window"), access(20, safety.Tires, "a stool"),
	},
	"8 Hazel": {
		allergy(5, "milk", class.Eaten, ""), allergy(17, "eggs", class.Contact, "pen in the office"), diet(2, "vegetarian"), diet(8, "no pork"),
		access(12, safety.OneHand, "spiked board"), access(19, safety.ReadLittle, "pictures"),
	},
	"9 Rowan":     {allergy(1, "coeliac", class.Eaten, ""), diet(7, "vegan"), diet(13, "halal"), access(16, safety.Hearing, "sees the speaker")},
	"10 Option B": {allergy(4, "sesame", class.Eaten, ""), diet(9, "vegetarian"), access(2, safety.OneHand, "grater that is clamped")},
	"4 Finch":     {allergy(8, "kiwi", class.Eaten, ""), allergy(15, "milk", class.Contact, "pen in the office"), diet(21, "halal"), access(5, safety.LowVision, "large print"), access(25, safety.Wheelchair, "low table")},
	"2 Wren":      {allergy(6, "nuts", class.Contact, "pen in the office"), diet(12, "vegan"), access(17, safety.Tires, "")},
}

// learners are those of a class: so many, of an age on a day.
func learners(in string, n, age, shift int, today time.Time) []class.Learner {
	skills := [][]string{{"claw"}, nil, {"bridge"}, nil, {"claw", "rub in"}, nil, nil}
	out := make([]class.Learner, n)
	for i := range out {
		k := i + shift
		out[i] = class.Learner{
			Code: fmt.Sprintf("%d%03d", 20+shift, i+1), Given: given[(k*7)%len(given)], Family: family[(k*5+i/len(given))%len(family)],
			Born:  time.Date(today.Year()-age, today.Month(), 1, 0, 0, 0, 0, time.UTC).AddDate(0, -(i*5)%11-1, (i*11)%27),
			Level: class.Level(i * 3 % 4), Can: skills[i%len(skills)],
		}
	}
	for _, need := range needsOf[in] {
		l := &out[need.at]
		l.Needs = append(l.Needs, need.Need)
		if need.Kind == class.Access && need.What == safety.Tires {
			l.Notes = "Better in the first half of the lesson."
		}
	}
	return out
}
