package live

import (
	"cmp"
	"hash/fnv"
	"slices"
)

// Pick returns whom to ask next: one of those who have been asked least often, so that
// everybody has a turn before anybody has the next. Who of them it is looks like chance
// and is the same for the same seed; passed is how many have been passed over. It
// returns false where nobody can be asked.
func Pick(learners []int64, asked map[int64]int, passed int, seed string) (int64, bool) {
	if len(learners) == 0 {
		return 0, false
	}
	lot := func(id int64) uint64 {
		h := fnv.New64a()
		_, _ = h.Write([]byte(seed))
		_, _ = h.Write([]byte{byte(id), byte(id >> 8), byte(id >> 16), byte(id >> 24)})
		return h.Sum64()
	}
	order := slices.SortedFunc(slices.Values(learners), func(a, b int64) int {
		return cmp.Or(cmp.Compare(asked[a], asked[b]), cmp.Compare(lot(a), lot(b)), cmp.Compare(a, b))
	})
	return order[max(0, passed)%len(order)], true
}
