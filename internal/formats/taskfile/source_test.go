package taskfile_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/train"
	"freshapron/internal/formats/taskfile"
)

// What is kept comes back, to the third.
func TestSources(t *testing.T) {
	s := train.Usual()
	s.Amounts[0].Amount, s.Amounts[0].Role, s.Amounts[0].Tolerance = exact.Frac(400, 3), "agent", 0.05
	data, err := taskfile.EncodeSource(s, []string{"leek"})
	require.NoError(t, err)
	back, foods, err := taskfile.DecodeSource(data)
	require.NoError(t, err)
	assert.Equal(t, []string{"leek"}, foods)
	s.Tablespoons, s.Teaspoons = nil, nil // which are the same everywhere
	assert.Equal(t, s, back)
	for _, bad := range []string{"{", `{"amounts": [{"name": "x", "amount": "1", "unit": "blob"}]}`, `{"scales": ["two"]}`} {
		_, _, err := taskfile.DecodeSource([]byte(bad))
		assert.Error(t, err)
	}
}
