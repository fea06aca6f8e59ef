// Package safety keeps a practical lesson safe by the school's own tables: who
// may do what at which age, how hot and how long, what to do instead, who can
// eat what; and it composes the sheet on which a teacher signs for it.
//
// Nothing in it is the law. Every table is the school's, ships with a source,
// and local food-safety and school rules and qualified staff decide.
package safety

// Decides is the sentence that stands on every screen and paper of safety.
const Decides = "Local food-safety and school rules and qualified staff decide. The tables here are the school’s own and no legal advice."

// A Book is a school's tables.
type Book struct {
	Who    []WhoRule
	Region Region
	Ways   []Way
}

// Usual is the book that a school begins with.
func Usual() Book { return Book{Who: UsualWho(), Region: Regions[0], Ways: UsualWays()} }
