package orderfile_test

import (
	"bytes"
	"errors"
	"os"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/order"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/orderfile"
)

const docs = "../../../docs/formats/"

const week = `{"format": "fresh-apron/order", "version": 1, "from": "2026-11-30", "to": "2026-12-11",
	"needs": [{"item": "butter", "amount": 900, "unit": "g", "on": "2026-12-01", "for": "8 Hazel, leek tartlets"}],
	"stock": [{"item": "butter", "amount": 250, "unit": "g", "use_by": "2026-12-03"}],
	"suppliers": [{"id": "dairy", "delivers": ["2026-11-30", "2026-12-07"], "charge": 3.50, "minimum": 5.00, "lead_days": 1}],
	"packs": [{"item": "butter", "supplier": "dairy", "name": "block", "amount": 250, "unit": "g", "price": 2.05, "keeps_days": 30, "most": 40}]}`

func valid(t testing.TB, name, text string) {
	t.Helper()
	s, err := jsonschema.NewCompiler().Compile(docs + name + ".schema.json")
	require.NoError(t, err)
	v, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
	require.NoError(t, err)
	assert.NoError(t, s.Validate(v))
}

func TestTheExampleIsOrdered(t *testing.T) {
	data, err := os.ReadFile(docs + "week.order.json")
	require.NoError(t, err)
	text := string(data)
	assert.JSONEq(t, week, text)
	valid(t, "order", text)
	today := strings.Replace(text, `"from"`, `"today": "2026-11-28", "from"`, 1)
	valid(t, "order", today)
	w, err := orderfile.Read(strings.NewReader(today))
	require.NoError(t, err)
	o, err := order.Solve(w)
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, orderfile.WritePlan(&out, o))
	valid(t, "order-plan", out.String())
	assert.JSONEq(t, `{"format": "fresh-apron/order-plan", "version": 1, "total": 9.65, "optimal": true, "bound": 9.65,
		"deliveries": [{"supplier": "dairy", "on": "2026-11-30", "order_by": "2026-11-29", "charge": 3.5,
			"packs": [{"item": "butter", "name": "block", "count": 3, "cost": 6.15}]}],
		"uses": [{"item": "butter", "on": "2026-12-01", "amount": 250, "from": {"stock": 0}},
			{"item": "butter", "on": "2026-12-01", "amount": 650, "from": {"supplier": "dairy", "on": "2026-11-30", "name": "block"}}],
		"left": [{"item": "butter", "amount": 100, "unit": "g", "use_by": "2026-12-30", "worth": 0.82}],
		"short": []}`, out.String())
	out.Reset()
	require.NoError(t, orderfile.WriteText(&out, o))
	assert.Equal(t, "dairy on 2026-11-30, charge 3.50, to be ordered by 2026-11-29\n  3 × butter, block: 6.15\n"+
		"Total 9.65; no order costs less.\nLeft over: 100 g butter, good until 2026-12-30\n", out.String())
}

func TestEveryFaultAtItsPath(t *testing.T) {
	for change, want := range map[string]string{
		`"version": 1→"version": 2`:                                                  "version: is 2; this program reads version 1",
		`fresh-apron/order→fresh-apron/lesson`:                                       `format: is "fresh-apron/lesson"; an order file says "fresh-apron/order"`,
		`"from": "2026-11-30"→"from": "2026-11-31"`:                                  `from: "2026-11-31" is no date such as 2026-11-30`,
		`"to": "2026-12-11"→"to": "2026-11-11"`:                                      "to: 2026-11-11 is before from, 2026-11-30\nneeds[0].on: 2026-12-01 is outside 2026-11-30 to 2026-11-11; give what is needed within them",
		`"to": "2026-12-11"→"to": "2028-12-11"`:                                      "to: 2028-12-11 is over 400 days after from, 2026-11-30; order a term at a time",
		`"on": "2026-12-01"→"on": "2026-12-12"`:                                      "needs[0].on: 2026-12-12 is outside 2026-11-30 to 2026-12-11; give what is needed within them",
		`"on": "2026-12-01"→"on": 20261201`:                                          `needs[0].on: must be a date in quotes, such as "2026-11-30"`,
		`"amount": 900→"amount": 0`:                                                  "needs[0].amount: is 0; it must be above 0",
		`"amount": 900→"amount": "3 cups"`:                                           "needs[0].amount: is a text; it must be a number",
		`"amount": 900, "unit": "g"→"amount": 900, "unit": "kg"`:                     `stock[0].unit: butter is in "g" here and in "kg" at needs[0]; give all of one item in one unit` + "\n" + `packs[0].unit: butter is in "g" here and in "kg" at needs[0]; give all of one item in one unit`,
		`"amount": 900, "unit": "g"→"amount": 900, "unit": ""`:                       `needs[0].unit: is empty; say what the amount is counted in, for instance "g"`,
		`{"item": "butter", "amount": 900→{"amount": 900`:                            "needs[0].item: is missing",
		`"amount": 250, "unit": "g", "use_by"→"amount": -1, "unit": "g", "use_by"`:   "stock[0].amount: is -1; it must be 0 or more",
		`"charge": 3.50→"charge": -3.50`:                                             "suppliers[0].charge: is -3.5; it must be 0 or more",
		`"minimum": 5.00→"minimum": 5.00001`:                                         "suppliers[0].minimum: is finer than 1/10000; round it",
		`"lead_days": 1→"lead_days": 1.5`:                                            "suppliers[0].lead_days: is 1.5; it must be a whole number",
		`"2026-12-07"]→"2026-02-30"]`:                                                `suppliers[0].delivers[1]: "2026-02-30" is no date such as 2026-11-30`,
		`"suppliers": [→"suppliers": [{"id": "dairy", "delivers": []}, `:             `suppliers[1].id: "dairy" is suppliers[0] already`,
		`"supplier": "dairy"→"supplier": "dary"`:                                     `packs[0].supplier: "dary" is none of the suppliers; did you mean "dairy"?`,
		`"price": 2.05→"price": 0`:                                                   "packs[0].price: is 0; it must be above 0",
		`"amount": 250, "unit": "g", "price"→"amount": 0, "unit": "g", "price"`:      "packs[0].amount: is 0; it must be above 0",
		`"amount": 250, "unit": "g", "price"→"amount": 0.0001, "unit": "g", "price"`: "packs[0].amount: over a million of this pack would be needed; is the unit right?",
		`"keeps_days": 30→"keeps_days": -1`:                                          "packs[0].keeps_days: is -1; it must be 0 to 3660 days",
		`"most": 40→"most": -40`:                                                     "packs[0].most: is -40; it must be 0 or more",
		`"most": 40→"mots": 40`:                                                      `packs[0].mots: is no field that is known here; did you mean "most"?`,
		`"packs": [→"packs": [{"item": "butter", "supplier": "dairy", "name": "block", "amount": 1, "unit": "g", "price": 1}, `: `packs[1]: dairy sells butter as "block" in packs[0] already; give each pack a name of its own`,
		`"needs"→"need"`:           "needs: is missing\nneed: is no field that is known here; did you mean \"needs\"?",
		`"needs": [→"needs": [7, `: "needs[0]: is a number; it must be an object { … }",
	} {
		from, to, _ := strings.Cut(change, "→")
		text := strings.Replace(week, from, to, 1)
		require.NotEqual(t, week, text, change)
		_, err := orderfile.Read(strings.NewReader(text))
		var list problem.List
		if assert.ErrorAs(t, err, &list, change) {
			assert.Equal(t, want, err.Error(), change)
		}
	}
}

// Whatever comes in is refused with places, or ordered.
func FuzzRead(f *testing.F) {
	f.Add([]byte(week))
	f.Add([]byte(`{"format": "fresh-apron/order", "version": 1, "from": "2026-11-30", "to": "2026-12-11", "needs": []}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		w, err := orderfile.Read(bytes.NewReader(data))
		if err != nil {
			var list problem.List
			require.True(t, errors.As(err, &list), "%v", err)
			require.NotEmpty(t, list)
			return
		}
		o, err := order.Solve(w)
		require.NoError(t, err)
		require.False(t, o.Total.Less(o.Bound))
		require.NoError(t, orderfile.WritePlan(&bytes.Buffer{}, o))
	})
}
