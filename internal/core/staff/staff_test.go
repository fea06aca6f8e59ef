package staff_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/staff"
)

func ExampleRole_May() {
	for _, r := range staff.Roles {
		fmt.Println(r.Name(), r.May(staff.Plan))
	}
	// Output:
	// head of food true
	// teacher true
	// technician false
	// assistant false
	// assessor false
}

func TestRoles(t *testing.T) {
	for i, r := range staff.Roles {
		assert.NotEmpty(t, r.Name())
		assert.NotEmpty(t, r.Does())
		for _, a := range staff.Actions {
			if i > 0 && r.May(a) && r != staff.Assessor {
				assert.True(t, staff.Roles[i-1].May(a), "%s may %s, so %s may, too", r, a, staff.Roles[i-1])
			}
		}
	}
	for _, a := range staff.Actions {
		assert.Equal(t, a == staff.Come || a == staff.Assess, staff.Assessor.May(a), "who comes from outside marks, and does nothing else: %s", a)
	}
	assert.Empty(t, staff.Role("king").Name())
	for _, a := range staff.Actions {
		assert.False(t, staff.Role("").May(a), "nobody may do anything")
	}
}
