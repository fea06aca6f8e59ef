package reading

import (
	"maps"
	"slices"
)

// Verbs are the words by which a step says what to do.
func Verbs() []string { return slices.Sorted(maps.Keys(verbs)) }
