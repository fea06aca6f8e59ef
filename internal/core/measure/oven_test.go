package measure_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

func ExampleSettings() {
	fmt.Println(measure.Settings(exact.Int(220)))
	// Output: 220 °C, fan 200 °C, gas mark 7, 425 °F
}

func TestGasMarks(t *testing.T) {
	for mark, celsius := range map[string]string{
		"1/4": "110 °C", "1/2": "130 °C", "1": "140 °C", "2": "150 °C", "3": "160 °C", "4": "180 °C", "5": "190 °C", "6": "200 °C", "7": "220 °C", "8": "230 °C", "9": "240 °C",
	} {
		c, ok := measure.GasToCelsius(exact.MustParse(mark))
		assert.True(t, ok)
		assert.Equal(t, celsius, c.String())
		back, ok := measure.CelsiusToGas(c.Amount)
		assert.True(t, ok)
		assert.Equal(t, mark, back.String())
	}
	_, ok := measure.GasToCelsius(exact.Int(11))
	assert.False(t, ok)
	_, ok = measure.CelsiusToGas(exact.Int(60))
	assert.False(t, ok)
	// 250 + 25·n °F is within half a mark of what is printed.
	for n := int64(1); n <= 9; n++ {
		c, _ := measure.GasToCelsius(exact.Int(n))
		f := measure.Quantity{Amount: exact.Int(250 + 25*n), Unit: measure.Fahrenheit}
		assert.InDelta(t, f.Base().Float(), c.Amount.Float(), 7.5)
	}
}

func TestDials(t *testing.T) {
	assert.Equal(t, "180 °C", measure.Oven{Fan: true}.Dial(exact.Int(200)).String())
	assert.Equal(t, "170 °C", measure.Oven{Fan: true, RunsHot: exact.Int(10)}.Dial(exact.Int(200)).String())
	assert.Equal(t, "205 °C", measure.Oven{RunsHot: exact.Int(-5)}.Dial(exact.Int(200)).String())
	assert.Equal(t, "175 °C", measure.Oven{Fan: true, FanUnder: exact.Int(25)}.Dial(exact.Int(200)).String())
	boiling, _ := measure.Q("212", measure.Fahrenheit).In(measure.Celsius)
	assert.Equal(t, "100 °C", boiling.String())
	rapid.Check(t, func(t *rapid.T) {
		o := measure.Oven{Fan: rapid.Bool().Draw(t, "fan"), RunsHot: exact.Int(rapid.Int64Range(-20, 20).Draw(t, "hot"))}
		c := exact.Int(rapid.Int64Range(50, 280).Draw(t, "celsius"))
		assert.Zero(t, c.Cmp(o.Conventional(o.Dial(c).Amount).Amount))
	})
}
