package fit

import (
	"slices"

	"freshapron/internal/core/constraint"
)

// inTurn reports whether one of two tasks waits for the other directly.
func (m *model) inTurn(a, b int) bool {
	waits := func(a, b int) bool {
		return slices.ContainsFunc(m.instance.tasks[a].before, func(l link) bool { return l.task == b })
	}
	return waits(a, b) || waits(b, a)
}

// equipmentRules adds what is in the units. It reports false where the model
// would be too large.
func (m *model) equipmentRules() bool {
	for e := range m.lesson.Equipment {
		var groups [][]int
		if m.lesson.Equipment[e].PerStation {
			groups = m.byGroup
		} else {
			groups = [][]int{m.tasks}
		}
		for _, tasks := range groups {
			if !m.equipmentRule(e, tasks) || len(m.choices) > mostChoices {
				return false
			}
		}
	}
	return true
}

// A user is a use of a unit, by what the step makes of it.
type user struct {
	stretchOf
	use   int
	rooms map[int]constraint.Lit // by unit that it may be in: whether it is
}

func (m *model) equipmentRule(e int, tasks []int) bool {
	users, ok := m.users(e, tasks)
	if !ok || len(users) == 0 {
		return ok
	}
	units := m.unitsOf(users)
	if m.plain(users) {
		places := 0
		for _, u := range units {
			places += m.instance.units[u].places
		}
		list := make([]stretchOf, len(users))
		for i := range users {
			list[i] = users[i].stretchOf
			m.pooled[[2]int{users[i].task, users[i].use}] = true
		}
		m.share(list, places, nil)
		return true
	}
	if len(users)*len(users)/2 > mostChoices {
		return false
	}
	for i := range users {
		m.choosesUnit(&users[i])
	}
	if m.unitsAlike(units) {
		for i := range users {
			for k, unit := range units {
				if lit := users[i].rooms[unit]; k > i && lit != constraint.Always {
					m.Clause(lit.Not(), constraint.IsNot(m.alike)) // the first in the list take the first units
				}
			}
		}
	}
	for i := range users {
		for j := range i {
			m.neighbours(&users[i], &users[j])
		}
	}
	for _, unit := range units {
		var list []stretchOf
		for i := range users {
			if in, may := users[i].rooms[unit]; may {
				s := users[i].stretchOf
				s.when = in
				list = append(list, s)
			}
		}
		if places := m.instance.units[unit].places; places > 1 {
			m.share(list, places, nil)
		}
	}
	return true
}

// users lists who uses an equipment, and adds that nobody enters before it is
// ready. It reports false where the model can't say something.
func (m *model) users(e int, tasks []int) ([]user, bool) {
	var users []user
	for _, n := range tasks {
		t := &m.instance.tasks[n]
		if !m.in[n] || t.begun && t.fixed.units == nil {
			continue
		}
		for i := range t.uses {
			u := &t.uses[i]
			if u.equipment != e {
				continue
			}
			enter, leave := m.stays(n, u)
			s := stretchOf{task: n, from: enter, to: leave, amount: u.places, temp: u.temp}
			switch u.part {
			case WorkPart:
				s.length = m.units(slices.Min(t.work))
			case WaitPart:
				s.length = m.units(t.wait)
			default:
				s.length = m.units(t.shortest())
			}
			if !t.begun {
				m.Clause(noSooner(enter, m.units(m.instance.units[u.units[0]].ready)))
			}
			switch {
			case s.length > 0 && !(t.begun && t.fixed.end() <= m.now && u.temp == noTemp):
				users = append(users, user{stretchOf: s, use: i})
			case s.length == 0 && m.shuts && !m.alone && !t.begun:
				return nil, false // nothing says in which unit it is for no time
			}
		}
	}
	return users, true
}

// candidates returns the units that a use may be in.
func (m *model) candidates(u *user) []int {
	t := &m.instance.tasks[u.task]
	if t.begun {
		return t.fixed.units[u.use : u.use+1]
	}
	return t.uses[u.use].units
}

func (m *model) unitsOf(users []user) []int {
	var out []int
	for i := range users {
		for _, unit := range m.candidates(&users[i]) {
			if !slices.Contains(out, unit) {
				out = append(out, unit)
			}
		}
	}
	return out
}

// plain reports whether it does not matter who is in which unit.
func (m *model) plain(users []user) bool {
	first := &users[0]
	return (!m.shuts || m.alone) && !slices.ContainsFunc(users, func(u user) bool {
		t := &m.instance.tasks[u.task]
		return u.amount > 1 || u.temp != first.temp || t.shut || t.begun || !slices.Equal(m.candidates(&u), m.candidates(first))
	})
}

// choosesUnit adds that a use is in one unit with room for it, and not while
// that is out.
func (m *model) choosesUnit(u *user) {
	u.rooms = map[int]constraint.Lit{}
	candidates := m.candidates(u)
	var any []constraint.Lit
	for _, unit := range candidates {
		if m.instance.units[unit].places < u.amount {
			continue
		}
		in := constraint.Always
		if len(candidates) > 1 {
			in = constraint.Is(m.choose(choosing{a: u.task, b: u.task, kind: isIn, n: unit, use: u.use}))
			for _, other := range any {
				m.Clause(in.Not(), other.Not())
			}
			any = append(any, in)
		}
		u.rooms[unit] = in
		if !m.alone && !m.instance.tasks[u.task].begun {
			m.closures(u.stretchOf, unit, in)
		}
	}
	if any != nil {
		m.Clause(any...)
	}
}

// closures keeps what has not begun out of a unit while it is out.
func (m *model) closures(s stretchOf, unit int, in constraint.Lit) {
	for _, c := range m.instance.units[unit].out {
		before := noLater(s.to, m.units(c.from))
		if c.usable {
			before = noLater(s.from, m.units(c.from)-1)
		}
		lits := []constraint.Lit{before}
		if c.to != forever {
			lits = append(lits, noSooner(s.from, m.units(c.to)))
		}
		if in != constraint.Always {
			lits = append(lits, in.Not())
		}
		m.Clause(lits...)
	}
}

// unitsAlike reports whether the units differ in nothing, and nothing is in
// one of them or meant for it.
func (m *model) unitsAlike(units []int) bool {
	if m.instance.narrow {
		return false
	}
	for _, n := range m.tasks {
		if m.instance.tasks[n].begun {
			return false
		}
	}
	for _, g := range m.lesson.Groups {
		if g.Pins != nil {
			return false
		}
	}
	first := m.instance.units[units[0]]
	return !m.shuts && !slices.ContainsFunc(units, func(u int) bool { return m.instance.units[u].places != first.places })
}

// bothBegun reports whether neither of two is to be moved any more.
func (m *model) bothBegun(a, b stretchOf) bool {
	return m.instance.tasks[a.task].begun && m.instance.tasks[b.task].begun
}

// neighbours adds what holds between two that may be in the same unit.
func (m *model) neighbours(a, b *user) {
	if m.bothBegun(a.stretchOf, b.stretchOf) {
		return
	}
	var shared []int
	for unit := range a.rooms {
		if _, ok := b.rooms[unit]; ok {
			shared = append(shared, unit)
		}
	}
	slices.Sort(shared)
	lag := 0
	if len(shared) > 0 && a.temp != b.temp {
		lag = m.units(m.instance.units[shared[0]].reheat)
	}
	var order []constraint.Lit    // one after the other, either way
	var doors [][2]constraint.Lit // each before or after
	for _, unit := range shared {
		var elsewhere []constraint.Lit
		for _, in := range []constraint.Lit{a.rooms[unit], b.rooms[unit]} {
			if in != constraint.Always {
				elsewhere = append(elsewhere, in.Not())
			}
		}
		overfull := a.amount+b.amount > m.instance.units[unit].places
		switch {
		case a.task == b.task: // two uses of one step, for one after the other there is no time
			if a.temp != b.temp || overfull && a.from != b.to && b.from != a.to {
				m.Clause(elsewhere...)
			}
		case a.temp != b.temp || overfull || m.cantMeet(a.stretchOf, b.stretchOf):
			if elsewhere == nil {
				m.apart(a.stretchOf, b.stretchOf, lag)
				continue
			}
			if order == nil {
				order = []constraint.Lit{m.before(a.task, b.task, a.to, b.from, lag), m.before(b.task, a.task, b.to, a.from, lag)}
			}
			m.Clause(append(elsewhere, order...)...)
		case m.instance.tasks[a.task].shut || m.instance.tasks[b.task].shut:
			if doors == nil {
				doors = append(m.door(a.stretchOf, b.stretchOf), m.door(b.stretchOf, a.stretchOf)...)
			}
			for _, d := range doors {
				m.Clause(append(slices.Clone(elsewhere), d[0], d[1])...)
			}
		}
	}
}

// cantMeet reports whether a shut door keeps two apart that have the same
// temperature: the one is behind it for as long as it is in the unit, and
// longer than the other may be; or both are, and not for as long.
func (m *model) cantMeet(a, b stretchOf) bool {
	shut := func(s stretchOf) int {
		if t := &m.instance.tasks[s.task]; t.shut && s.from == m.working(s.task) && s.to == m.ending(s.task) {
			return s.length
		}
		return 0
	}
	// How long the other is in the unit is known where no mode changes it.
	known := func(s stretchOf) bool { return m.modes[s.task] == nil || s.from == m.working(s.task) }
	shutA, shutB := shut(a), shut(b)
	if shutA > 0 && shutB > 0 {
		return shutA != shutB
	}
	return shutA > b.length && known(b) || shutB > a.length && known(a)
}

// door returns for the coming and the going of b that it is not while a's door
// is shut: before, or after.
func (m *model) door(a, b stretchOf) [][2]constraint.Lit {
	t := &m.instance.tasks[a.task]
	if !t.shut || a.to != m.ending(a.task) || t.wait == 0 {
		return nil
	}
	shut, open := m.working(a.task), m.ending(a.task)
	var out [][2]constraint.Lit
	for _, at := range []constraint.Moment{b.from, b.to} {
		out = append(out, [2]constraint.Lit{m.before(b.task, a.task, at, shut, 0), m.before(a.task, b.task, open, at, 0)})
	}
	return out
}
