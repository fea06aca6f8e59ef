package setting_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/setting"
)

// What something has inside when it is done is no setting of the oven, however it is said; what it bakes at is.
// The second half was written before the rule and is for measuring only.
func TestHeatOfTheInside(t *testing.T) {
	tuned := map[string]string{
		"Bake until 92 °C inside.": "", "Bake until 96 C in the middle.": "", "Bake until it has 98°C inside": "", "Bake at 190 °C until 94 °C inside.": "190", "Bake until the probe says 96 °C.": "",
		"Roast until 82 °C": "", "Bake to 96 °C core": "", "Bake 25 min at 200C, till 94C inside": "200", "Bake, internal temperature 93 °C": "", "Bake until 200°F inside": "", "Bake at 200 °F until dry": "95",
		"Bake at 100 °C until dry": "100", "Bake at 180 °C until golden, then 100 °C for an hour": "180, 100", "Bake until firm and then 90 °C to dry": "90", "Bake at 90°C in the middle of the oven": "90", "Dry out in the oven at 80C": "80", "Heat the oven to 100°C": "100", "Roast at 180 °C in the centre of the oven": "180",
		"Preheat to 250°C with the pot inside": "250", "Roast 40 minutes at 200 °C (75 °C in the centre)": "200", "Bake until the oven is at 100 °C": "100", "Bake at 180 until the centre of the loaf is at 95 °C": "180",
	}
	measured := map[string]string{
		"Bake for 30 mins or until 95°C in the centre": "", "bake till 88c inside": "", "Roast at 190C until it reads 82 °C": "190", "Bake at 220 °C. Done at 96 °C inside.": "220", "cook in oven until internal temp is 84C": "",
		"Bake the loaf until a thermometer shows 93 °C": "", "oven 180C, core 85C": "180", "Bake: 180 °C, 20 min (inside 90 °C)": "180", "Bake at 95C for 2 hours until crisp": "95", "Bake on the middle shelf at 100 °C": "100",
		"Roast to a core temp of 85 °C": "", "Bake till the inside is over 92°C": "", "Bake 170 fan until 96° in the middle": "190", "Roast until 180F inside": "", "Meringues: oven at 100C, leave inside until cold": "100",
		"Bake until you get 94 °C with the probe": "", "Roast at 200C, must be 82C in the thickest part": "200", "bake 20 min @ 180 til core 92": "180", "Bake until well risen and 95 °C at its centre": "", "Keep warm in the oven at 80 °C": "80",
	}
	for text, want := range tuned {
		assert.Equal(t, want, saysOnly(setting.In(text)), text)
	}
	right := 0
	for text, want := range measured {
		if saysOnly(setting.In(text)) == want {
			right++
		}
	}
	t.Logf("for measuring only: %d of %d", right, len(measured))
	assert.GreaterOrEqual(t, right, 18)
}

// saysOnly is what settings say, without whether a fan blows.
func saysOnly(list []setting.Setting) string {
	for i := range list {
		list[i].Fan = false
	}
	return says(list)
}
