package practice

import "slowroot/core/yield"

// LifeLine is the life of a crop in one of its layouts, by what the sheet says for the usual ways, at the density printed.
type LifeLine struct {
	Layout  string    `json:"layout"`
	Name    string    `json:"name"`
	System  string    `json:"system"`
	Usual   bool      `json:"usual"`
	Product string    `json:"product"`
	ShownAs string    `json:"shownAs"` // kg, t or pieces
	PerHa   float64   `json:"perHa"`   // plants
	Life    Span      `json:"life"`
	First   int       `json:"first"` // age year of the first crop; 0 where there is none
	Full    int       `json:"full"`  // age year of the first full crop; 0 where there is none
	Total   float64   `json:"total"` // in its life, kg or pieces a hectare
	Years   []LifeAge `json:"years"`
}

// LifeAge is one age year.
type LifeAge struct {
	Age     int         `json:"age"`
	PerHa   yield.Range `json:"perHa"` // kg or pieces
	SpreadM float64     `json:"spreadM"`
	Work    []string    `json:"work"` // names of what is done in the year besides the yearly round: begun, or every few years
}

// Lives are the lives of a crop's layouts, in the order of the sheet.
func (s *Sheet) Lives() []LifeLine {
	out := []LifeLine{}
	for _, l := range s.Layouts {
		choices := s.Resolve(map[string]string{LayoutFork: l.ID})
		curve, harvest, life, product, spread := s.Curve(choices), s.Harvesting(choices), s.LifeOf(l), s.ProductOf(l), s.CanopyOf(l)
		line := LifeLine{Layout: l.ID, Name: l.Name, System: l.System, Usual: l.Default, Product: product.Name, ShownAs: product.ShowAs,
			PerHa: l.PerHa * float64(l.Plants()), Life: life}
		work := map[int][]string{}
		for _, o := range s.Operations(choices) {
			if len(o.Season) == 0 {
				continue
			}
			o.Ages.Each(life.Base, func(age int) {
				if age == o.Ages.From || o.Ages.Every > 1 {
					work[age] = append(work[age], o.Name)
				}
			})
		}
		for _, y := range yield.Series(curve, harvest, s.Stand, yield.Block{PlantsPerHa: func(int) float64 { return l.PerHa }, Life: life.Base}) {
			a := LifeAge{Age: y.Age, PerHa: y.KgPerHa, SpreadM: spread.SpreadM(float64(y.Age)), Work: work[y.Age]}
			if a.Work == nil {
				a.Work = []string{}
			}
			line.Years = append(line.Years, a)
			line.Total += y.KgPerHa.Base
			if y.KgPerHa.Base > 0 && line.First == 0 {
				line.First = y.Age
			}
			if y.Fraction >= 1 && line.Full == 0 {
				line.Full = y.Age
			}
		}
		out = append(out, line)
	}
	return out
}
