package class_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/class"
)

func ExampleUnderstand() {
	fmt.Printf("%+v\n", class.Understand("CMPA, veggie"))
	fmt.Printf("%+v\n", class.Understand("dragonfruit"))
	// Output:
	// {Needs:[milk vegetarian] None:false Asks:[]}
	// {Needs:[] None:false Asks:[dragonfruit]}
}

func TestUnderstand(t *testing.T) {
	for entry, want := range map[string]class.Understood{
		"lactose intolerant":                {Needs: []string{"milk"}},
		"cows milk":                         {Needs: []string{"milk"}},
		"cow's milk":                        {Needs: []string{"milk"}},
		"CMPA":                              {Needs: []string{"milk"}},
		"dairy free":                        {Needs: []string{"milk"}},
		"dairy/soya":                        {Needs: []string{"milk", "soybeans"}},
		"egg allergy":                       {Needs: []string{"eggs"}},
		"milk and eggs":                     {Needs: []string{"milk", "eggs"}},
		"coeliac":                           {Needs: []string{"gluten"}},
		"ceoliac":                           {Needs: []string{"gluten"}},
		"wheat intolerance":                 {Needs: []string{"gluten"}},
		"gluten-free":                       {Needs: []string{"gluten"}},
		"nut allergy (carries pen)":         {Needs: []string{"nuts", "peanuts"}},
		"nuts":                              {Needs: []string{"nuts", "peanuts"}},
		"tree nuts":                         {Needs: []string{"nuts"}},
		"seafood":                           {Needs: []string{"crustaceans", "molluscs", "fish"}},
		"shellfish":                         {Needs: []string{"crustaceans", "molluscs"}},
		"sesame seeds":                      {Needs: []string{"sesame"}},
		"no known allergies":                {None: true},
		"NKA":                               {None: true},
		"none":                              {None: true},
		"n/a":                               {None: true},
		"-":                                 {None: true},
		"veggie":                            {Needs: []string{"vegetarian"}},
		"halal meat only":                   {Needs: []string{"halal"}},
		"no beef":                           {Needs: []string{"no-beef"}},
		"no pork":                           {Needs: []string{"no-pork"}},
		"Type 1 diabetic":                   {Needs: []string{"diabetes"}},
		"asthma":                            {Needs: []string{"asthma"}},
		"almonds":                           {Needs: []string{"nuts", "food:almond"}},
		"strawberries":                      {Needs: []string{"food:strawberry"}},
		"coconut":                           {Needs: []string{"food:coconut"}},
		"nutmeg":                            {Needs: []string{"food:nutmeg"}},
		"buckwheat":                         {Needs: []string{"food:buckwheat"}},
		"oyster mushrooms":                  {Needs: []string{"food:oyster-mushroom"}},
		"pine nuts":                         {Asks: []string{"pine nuts"}},
		"Muslim":                            {Asks: []string{"Muslim"}},
		"EpiPen":                            {Asks: []string{"EpiPen"}},
		"not allergic to nuts":              {Asks: []string{"not allergic to nuts"}},
		"no nut allergy":                    {Asks: []string{"no nut allergy"}},
		"outgrown egg allergy":              {Asks: []string{"outgrown egg allergy"}},
		"egg allergy but baked egg is fine": {Needs: []string{"eggs"}, Asks: []string{"baked egg is fine"}},
		"all nuts except almonds":           {Needs: []string{"nuts", "peanuts"}, Asks: []string{"except almonds"}},
		"severe nut allergy, vegetarian":    {Needs: []string{"nuts", "peanuts", "vegetarian"}},
		"no allergies, vegetarian":          {Needs: []string{"vegetarian"}},
		"vegeterian":                        {Needs: []string{"vegetarian"}},
		"":                                  {Asks: []string{""}},
	} {
		assert.Equal(t, want, class.Understand(entry), entry)
	}
}
