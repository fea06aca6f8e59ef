package fit

import "slices"

// CookLanes returns for each cook of a group the steps that it works on, as
// places in the plan's list.
func CookLanes(gp GroupPlan, cooks int) [][]int {
	lanes := make([][]int, cooks)
	for at, s := range gp.Steps {
		for cook := range lanes {
			if slices.Contains(s.Hands, cook+1) {
				lanes[cook] = append(lanes[cook], at)
			}
		}
	}
	return lanes
}

// InQueue reports whether the wait is for a thing or an adult, and not for a
// phase, a pin or the group's own cooks.
func (w Wait) InQueue() bool {
	return w.Minutes > 0 && w.For != "phase" && w.For != "cooks" && w.For != "pin"
}
