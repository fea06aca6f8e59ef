package fit

import (
	"cmp"
	"slices"
)

// A visit is a stay in a unit of an equipment that the room shares, before any
// plan is made.
type visit struct {
	class        int // those of different classes are never in a unit together
	length       int
	head, tail   int // no plan begins it sooner, or ends sooner after it
	temp, places int
}

// mostVisits bounds the work of pigeonBound.
const mostVisits = 200

// pigeonBound returns a time before which no valid plan of the given groups
// can finish, from the ovens alone: some oven has at least so many of the
// visits that start after h and have at least q to go. An oven with k visits of
// a class in p places is busy for at least the k/p shortest of them, rounded
// up, and what is at another temperature, or can't be there while a door is
// shut, comes on top, with the change between.
func (p *instance) pigeonBound(groups []int, heads, tails []int) int {
	bound := 0
	for e, equipment := range p.lesson.Equipment {
		if !equipment.Temperature || equipment.PerStation {
			continue
		}
		units := len(equipment.Units)
		places, reheat := 0, secondsUp(equipment.Reheat)
		for _, u := range equipment.Units {
			places = max(places, u.Places)
		}
		visits := p.visits(e, groups, heads, tails)
		if len(visits) < 2 || len(visits) > mostVisits {
			continue
		}
		heads, tails := make([]int, len(visits)), make([]int, len(visits))
		for i, v := range visits {
			heads[i], tails[i] = v.head, v.tail
		}
		slices.Sort(heads)
		slices.Sort(tails)
		for _, head := range slices.Compact(heads) {
			for _, tail := range slices.Compact(tails) {
				var lengths [2][]int
				temps := map[int]bool{}
				for _, v := range visits {
					if v.head >= head && v.tail >= tail {
						lengths[v.class] = append(lengths[v.class], v.length)
						temps[v.temp] = true
					}
				}
				if len(lengths[0])+len(lengths[1]) < 2 {
					continue
				}
				change := 0
				if len(temps) > 1 {
					change = reheat
				}
				bound = max(bound, head+leastLoad(lengths, units, places, change)+tail)
			}
		}
	}
	return bound
}

// visits lists the visits to an equipment.
func (p *instance) visits(equipment int, groups []int, heads, tails []int) []visit {
	var out []visit
	classes := map[[2]int]int{} // by temperature and whether the door is shut
	count := map[int]int{}
	for _, g := range groups {
		for _, n := range p.ahead[g] {
			t := &p.tasks[n]
			work := slices.Min(t.work)
			for i := range t.uses {
				u := &t.uses[i]
				enter, leave := u.span(0, work, t.wait)
				if u.equipment != equipment || leave == enter {
					continue
				}
				key := [2]int{u.temp, 0}
				if t.shut && u.part == WaitPart {
					key[1] = t.wait
				}
				class, ok := classes[key]
				if !ok {
					class = len(classes)
					classes[key] = class
				}
				count[class]++
				out = append(out, visit{class: class, length: leave - enter, head: heads[n] + enter, tail: tails[n] - leave, temp: u.temp, places: u.places})
			}
		}
	}
	if !disjoint(out, classes) {
		for i := range out {
			out[i].class = 0
		}
		return out
	}
	// The two classes with the most visits count.
	order := make([]int, len(classes))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(count[b], count[a]) })
	var two []visit
	for _, v := range out {
		if at := slices.Index(order, v.class); at < 2 {
			v.class = at
			two = append(two, v)
		}
	}
	return two
}

// disjoint reports whether no two visits of different classes can be in a unit
// at one moment: their temperatures differ, or one is behind a door that stays
// shut for longer than the other lasts.
func disjoint(visits []visit, classes map[[2]int]int) bool {
	longest := map[int]int{}
	for _, v := range visits {
		longest[v.class] = max(longest[v.class], v.length)
	}
	for a, i := range classes {
		for b, j := range classes {
			if i == j || a[0] != b[0] {
				continue
			}
			shutBoth := a[1] > 0 && b[1] > 0
			if !shutBoth && a[1] <= longest[j] && b[1] <= longest[i] {
				return false
			}
		}
	}
	return true
}

// leastLoad returns the least time that the busiest of the units is busy.
func leastLoad(lengths [2][]int, units, places, change int) int {
	var sums [2][]int // of the k/places shortest
	longest := 0
	for c := range lengths {
		slices.Sort(lengths[c])
		sums[c] = make([]int, len(lengths[c])+1)
		for k := 1; k <= len(lengths[c]); k++ {
			sum := 0
			for _, length := range lengths[c][:(k+places-1)/places] {
				sum += length
			}
			sums[c][k] = sum
		}
		longest += sums[c][len(lengths[c])]
	}
	if len(lengths[1]) == 0 {
		return sums[0][(len(lengths[0])+units-1)/units]
	}
	low, high := 0, longest+change // low is too little, or 0
	for low+1 < high {
		middle := (low + high) / 2
		if holds(sums, units, change, middle) {
			high = middle
		} else {
			low = middle
		}
	}
	return high
}

// holds reports whether the units can have all visits with none of them busy
// for longer than the limit.
func holds(sums [2][]int, units, change, limit int) bool {
	first, second := len(sums[0])-1, len(sums[1])-1
	// most[k] is how many of the second class the units so far can have beside k
	// of the first.
	most := slices.Repeat([]int{-1}, first+1)
	most[0] = 0
	beside := make([]int, first+1)
	for k := range beside {
		beside[k] = -1
		for j := 0; j <= second; j++ {
			load := sums[0][k] + sums[1][j]
			if k > 0 && j > 0 {
				load += change
			}
			if load <= limit {
				beside[k] = j
			}
		}
	}
	for range units {
		next := slices.Repeat([]int{-1}, first+1)
		for k, m := range most {
			if m < 0 {
				continue
			}
			for more := 0; k+more <= first && beside[more] >= 0; more++ {
				next[k+more] = max(next[k+more], m+beside[more])
			}
		}
		most = next
	}
	return most[first] >= second
}
