// Package staff says who may do what in a school.
package staff

// A Role is what somebody does in a school's food room.
type Role string

// The roles.
const (
	Head       Role = "head"
	Teacher    Role = "teacher"
	Technician Role = "technician"
	Assistant  Role = "assistant"
	Assessor   Role = "assessor"
)

// Roles lists them: of those of the school the widest first, and then who comes from
// outside.
var Roles = []Role{Head, Teacher, Technician, Assistant, Assessor}

// Name returns the role in words; empty for what is no role.
func (r Role) Name() string {
	return map[Role]string{
		Head: "head of food", Teacher: "teacher", Technician: "technician", Assistant: "assistant", Assessor: "assessor",
	}[r]
}

// Does says what the role is for, in a sentence.
func (r Role) Does() string {
	return map[Role]string{
		Head:       "Everything, and the school’s people, tables and papers.",
		Teacher:    "Writes recipes, plans lessons, keeps classes and signs safety sheets.",
		Technician: "Prepares: orders, keeps the store, the pantry and the room, writes down temperatures.",
		Assistant:  "Helps: reads recipes and lessons, ticks lists, writes down temperatures.",
		Assessor:   "From outside: sees and marks the tasks that name them, and nothing else.",
	}[r]
}

// An Action is something that not everybody in a school may do.
type Action string

// The actions, from what all may do to what one does.
const (
	Come    Action = "come"    // sign in and see one's own account
	Assess  Action = "assess"  // walk round and mark the tasks by which one is named
	Read    Action = "read"    // recipes, lessons and the pantry, without anybody's needs
	Measure Action = "measure" // write down a temperature
	Prepare Action = "prepare" // tick lists
	Stock   Action = "stock"   // change the pantry and the store, order and check in
	Keep    Action = "keep"    // say what is out of order, and count sharp things
	Write   Action = "write"   // recipes
	Plan    Action = "plan"    // lessons
	Teach   Action = "teach"   // classes, learners and their needs, safety sheets
	Arrange Action = "arrange" // rooms, times and the school's tables
	Govern  Action = "govern"  // people, their links and what was done by whom
)

// Actions lists them.
var Actions = []Action{Come, Assess, Read, Measure, Prepare, Stock, Keep, Write, Plan, Teach, Arrange, Govern}

var least = map[Role][]Action{
	Assessor:   {Come, Assess},
	Assistant:  {Come, Read, Measure, Prepare},
	Technician: {Come, Read, Measure, Prepare, Stock, Keep},
	Teacher:    {Come, Assess, Read, Measure, Prepare, Stock, Keep, Write, Plan, Teach},
	Head:       Actions,
}

// May reports whether somebody with the role may do something.
func (r Role) May(a Action) bool {
	for _, may := range least[r] {
		if may == a {
			return true
		}
	}
	return false
}
