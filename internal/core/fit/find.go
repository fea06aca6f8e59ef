package fit

// Step returns a step of the lesson.
func (l Lesson) Step(dish, id string) (Step, bool) {
	for _, d := range l.Dishes {
		for _, s := range d.Steps {
			if d.ID == dish && s.ID == id {
				return s, true
			}
		}
	}
	return Step{}, false
}

// StepTitle returns what people call a step of the lesson.
func (l Lesson) StepTitle(dish, id string) string {
	if s, ok := l.Step(dish, id); ok {
		return s.Label()
	}
	return id
}

// Group returns a group of the lesson.
func (l Lesson) Group(id string) (Group, bool) {
	for _, g := range l.Groups {
		if g.ID == id {
			return g, true
		}
	}
	return Group{}, false
}

// GroupLabel returns what people call a group of the lesson.
func (l Lesson) GroupLabel(id string) string {
	if g, ok := l.Group(id); ok {
		return g.Label()
	}
	return id
}

func (l Lesson) equipment(id string) (Equipment, bool) {
	for _, e := range l.Equipment {
		if e.ID == id {
			return e, true
		}
	}
	return Equipment{}, false
}

// Label returns the name of the group, or its id where it has none.
func (g Group) Label() string { return or(g.Name, g.ID) }

// Label returns the title of the step, or its id where it has none.
func (s Step) Label() string { return or(s.Title, s.ID) }

// Label returns the title of the dish, or its id where it has none.
func (d Dish) Label() string { return or(d.Title, d.ID) }

func or(name, id string) string {
	if name == "" {
		return id
	}
	return name
}

// Of returns the id of the dish of which another is a variant; its own where it
// is none.
func (l Lesson) Of(dish string) string {
	for _, d := range l.Dishes {
		if d.ID == dish && d.Of != "" {
			return d.Of
		}
	}
	return dish
}
