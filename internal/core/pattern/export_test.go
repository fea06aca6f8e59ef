package pattern

// Needed returns sets of texts of which each match of an expression holds one.
func Needed(expr string) [][]string { return needed(expr) }

// May reports whether a text is searched at all.
func (p *Pattern) May(text string) bool { return p.may(text) }
