package problem_test

import (
	"errors"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/problem"
)

func ExampleList() {
	var l problem.List
	l.Add("period.end", "the bell (%s) must come after the door (%s)", "10:00", "11:00")
	fmt.Println(l.Err())
	fmt.Println(l.At("period.end"))
	// Output:
	// period.end: the bell (10:00) must come after the door (11:00)
	// The bell (10:00) must come after the door (11:00).
}

func TestLists(t *testing.T) {
	var none problem.List
	assert.NoError(t, none.Err())
	err := fmt.Errorf("read: %w", problem.New("name", "give it a name"))
	assert.Equal(t, problem.List{{Path: "name", Says: "give it a name"}}, problem.Of(err))
	assert.Nil(t, problem.Of(errors.New("another")))
	assert.Nil(t, problem.Of(nil))
	two := problem.List{{Path: "a", Says: "one"}, {Path: "b", Says: "not this"}, {Path: "a", Says: "Two."}}
	assert.Equal(t, "One. Two.", two.At("a"))
	assert.Empty(t, two.At("c"))
	assert.Equal(t, "a: one\nb: not this\na: Two.", two.Error())
	for s, want := range map[string]string{"": "", "é": "É.", "Done.": "Done.", "which one?": "Which one?", "stop!": "Stop!"} {
		assert.Equal(t, want, problem.Sentence(s))
	}
}
