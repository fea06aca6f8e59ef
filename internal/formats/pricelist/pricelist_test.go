package pricelist_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/term"
	"freshapron/internal/formats/pricelist"
	"freshapron/internal/formats/table"
)

// marked reads a file of lists with what each row should be read as, and returns
// the share of right rows, sizes and prices as one, items as another, and tells
// of each wrong one. An item counts as right where it is asked for among others.
func marked(t *testing.T, file string) (read, items, all int) {
	t.Helper()
	text, err := os.ReadFile(file)
	require.NoError(t, err)
	for _, block := range strings.Split(string(text), "## ")[1:] {
		title, rest, _ := strings.Cut(block, "\n")
		var list, want []string
		for _, line := range strings.Split(strings.TrimRight(rest, "\n"), "\n") {
			if w, ok := strings.CutPrefix(line, "=> "); ok {
				want = append(want, w)
			} else {
				list = append(list, line)
			}
		}
		rows, err := table.Read([]byte(strings.Join(list, "\n")))
		require.NoError(t, err, title)
		got, err := pricelist.Read(rows, pantry.Stock())
		if err != nil || len(got) != len(want) {
			t.Logf("%s: %d rows of %d: %v", title, len(got), len(want), err)
			all += len(want)
			continue
		}
		for i, r := range got {
			parts := strings.Split(want[i], "; ")
			all++
			if is := fmt.Sprintf("%s; %d", r.Product.Size, r.Product.Pence); is == parts[1]+"; "+parts[2] && r.Problems == nil {
				read++
			} else {
				t.Logf("%s, row %d: %s, not %s; %s %v", title, r.Line, is, parts[1], parts[2], r.Problems)
			}
			names := strings.Split(parts[0], "|")
			if slices.Contains(names, r.Product.Item) || r.Product.Item == "" && (parts[0] == "?" || slices.ContainsFunc(names, func(n string) bool { return slices.Contains(r.Maybe, n) })) {
				items++
			} else {
				t.Logf("%s, row %d: %q is %q, or %v, not %s", title, r.Line, r.Product.Name, r.Product.Item, r.Maybe, parts[0])
			}
		}
	}
	return read, items, all
}

// Lists as twenty people write them: ten that the reader was made by, ten that
// nothing was changed for.
func TestListsOfTwentyPeople(t *testing.T) {
	for file, least := range map[string][2]int{"testdata/tuned.txt": {94, 94}, "testdata/measured.txt": {66, 66}} {
		read, items, all := marked(t, file)
		t.Logf("%s: %d of %d read, %d of %d known or asked", file, read, all, items, all)
		assert.GreaterOrEqual(t, read, least[0], file)
		assert.GreaterOrEqual(t, items, least[1], file)
	}
}

// What is wrong stands beside its row, and the rows around it are read.
func TestWhatIsWrongIsSaid(t *testing.T) {
	rows, err := pricelist.Read([][]string{
		{"Code", "Product", "Pack", "Price", "Keeps", "Days", "Most"},
		{"1", "Plain flour", "1.5 kg", "0", "", "", ""},
		{"2", "Plain flour", "0 kg", "1.10", "", "", ""},
		{"3", "Plain flour", "", "-2", "", "", ""},
		{"4", "", "1 kg", "1.10", "soon", "Someday", "many"},
		{"5", "Plain flour", "a heap", "cheap", "9999 years", "", "-1"},
		{"5", "Plain flour", "1.5 kg", "1.10", "30", "Mon-Wed", "4"},
		{"6", strings.Repeat("x", 121), "1.5 kg", "1.10", "", "", ""},
	}, pantry.Stock())
	require.NoError(t, err)
	var got []string
	for _, r := range rows {
		got = append(got, fmt.Sprintf("%d: %s", r.Line, strings.Join(r.Problems, "; ")))
	}
	assert.Equal(t, []string{
		"2: the price is 0: leave the row out, or say what it costs",
		"3: a pack of 0 kg can't be",
		"4: there is no size: write it as 1.5 kg, 6 x 400 g or 12; “-2” is no price such as 2.05",
		"5: there is no name; “soon” is no keeping time in days; “Someday” names no days such as Mon, Thu; “many” is no number of packs",
		"6: “a heap” is no size such as 1.5 kg, 6 x 400 g or 12; “cheap” is no price such as 2.05; “9999 years” is no keeping time of up to 3660 days; “-1” is no number of packs",
		"7: the code 5 is in row 6 already: leave one out",
		"8: the name has 121 letters; 120 are the most",
	}, got)
	_, err = pricelist.Read([][]string{{"a", "b"}, {"1", "2"}}, pantry.Stock())
	assert.ErrorContains(t, err, "name the columns")
	rows, err = pricelist.Read([][]string{{"Veg:"}, {"Parsley, on offer"}, {"Carrots 1 kg 60p"}, {"Leeks 3 for 1.20 or 45p each, 2 kg"}, {"Onions 1 kg £0.75"}, {"Swede 1 kg 0.40"}}, pantry.Stock())
	require.NoError(t, err)
	require.Len(t, rows, 5, "a heading is none")
	assert.Contains(t, rows[0].Problems, "“Parsley, on offer” is no price such as 2.05")
	assert.Contains(t, rows[2].Problems[0], "is no price such as 2.05", "what is not understood is asked about")
	rows, err = pricelist.Read([][]string{{"Product", "Quantity", "Price"}, {"Plain flour", "1500", "0.95"}, {"Butter 250 g", "250", "2.10"}, {"Butter 250 g", "4", "8.10"}, {"Lemons", "5", "1.10"}}, pantry.Stock())
	require.NoError(t, err)
	assert.Equal(t, []string{"1500 what? Write the size as 1.5 kg, 6 x 400 g or 12 pieces"}, rows[0].Problems, "grams are not taken for pieces")
	assert.Equal(t, "250 g", rows[1].Product.Size.String())
	assert.Equal(t, "1 kg", rows[2].Product.Size.String())
	assert.Nil(t, rows[3].Problems)
	_, err = pricelist.Read([][]string{{"Preis EUR"}, {"Mehl 1 kg 0,79"}, {"Butter 250 g 2,29"}}, pantry.Stock())
	assert.ErrorContains(t, err, "in another money", "other money is not taken for ours")
}

// A list that was written is read as it was.
func TestListsComeBack(t *testing.T) {
	keeps, opened, most := 30, 3, 40
	list := []supply.Product{
		{Code: "a", Item: "butter", Name: "Butter block", Size: parse("250 g"), Pence: 205, Keeps: &keeps, Opened: &opened, Days: term.SchoolDays, Most: &most},
		{Code: "b", Item: "egg-medium", Name: "Eggs", Size: parse("30"), Pence: 540, Days: 1<<1 | 1<<3},
	}
	rows, err := pricelist.Read(pricelist.Rows(list), pantry.Stock())
	require.NoError(t, err)
	for i, r := range rows {
		assert.Empty(t, r.Problems)
		assert.Equal(t, list[i], r.Product)
	}
}

func TestPricesAtTheirEdges(t *testing.T) {
	for text, want := range map[string]int{"0.01": 1, "1p": 1, "10000": 1_000_000, "1,250": 125, ".5": 50} {
		got, err := pricelist.Price(text, 100)
		assert.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"0.004", "10000.01", "", "1.2.3", "£"} {
		_, err := pricelist.Price(text, 100)
		assert.Error(t, err, text)
	}
	q, ok := pricelist.Size("1½ kg")
	assert.True(t, ok)
	assert.Equal(t, exact.Frac(3, 2), q.Amount)
}

func FuzzRead(f *testing.F) {
	f.Add("Code,Product,Size,Price\n1,Flour 1.5kg,6 x 1 kg,2.05")
	f.Fuzz(func(t *testing.T, text string) {
		rows, err := table.Read([]byte(text))
		if err != nil {
			return
		}
		list, err := pricelist.Read(rows, pantry.Stock())
		if err != nil {
			return
		}
		for _, r := range list {
			if r.Problems == nil {
				assert.Positive(t, r.Product.Pence)
				assert.Positive(t, r.Product.Size.Amount.Sign())
				assert.NotEmpty(t, r.Product.Name)
			}
		}
	})
}

func parse(text string) measure.Quantity {
	q, ok := pricelist.Size(text)
	if !ok {
		panic(text)
	}
	return q
}

// A message loses no name at its colons, and its greeting is no product.
func TestMessagesKeepTheirNames(t *testing.T) {
	rows, err := table.Read([]byte("hello chef, this week: Butter: 250 g £2.05, Plain flour: 1.5 kg 80p"))
	require.NoError(t, err)
	got, err := pricelist.Read(rows, pantry.Stock())
	require.NoError(t, err)
	require.Len(t, got, 2)
	assert.Equal(t, []string{"butter", "plain-flour"}, []string{got[0].Product.Item, got[1].Product.Item})
}
