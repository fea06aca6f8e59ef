package fit

// CookLanes shares the steps of a group out to its cooks: for each cook the
// steps that it works on, as places in the plan's list.
func CookLanes(gp GroupPlan, cooks int) [][]int {
	const rounding = 1e-9
	lanes := make([][]int, cooks)
	free := make([]float64, cooks)
	for at, s := range gp.Steps {
		taken := 0
		for i := range lanes {
			if taken < s.Cooks && s.WorkEnd > s.Start && free[i] <= s.Start+rounding {
				lanes[i] = append(lanes[i], at)
				free[i] = s.WorkEnd
				taken++
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
