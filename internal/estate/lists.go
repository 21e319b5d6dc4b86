package estate

import (
	"slices"

	"slowroot/core/amend"
	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/fittings"
	"slowroot/core/practice"
	"slowroot/core/rotation"
	"slowroot/core/soil"
	"slowroot/core/supply"
	"slowroot/core/units"
	"slowroot/internal/formats/labreport"
)

// Lists are the words a person chooses from when describing ground, so that no front end keeps its own.
type Lists struct {
	Questions    []document.Question     `json:"questions"`
	Uses         []Choice                `json:"uses"`
	Textures     []soil.Class            `json:"textures"`
	Structures   []string                `json:"structures"`
	Hardnesses   []string                `json:"hardnesses"`
	Roots        []string                `json:"roots"`
	LayerSigns   []string                `json:"layerSigns"`
	SurfaceSigns []string                `json:"surfaceSigns"`
	Moistures    []string                `json:"moistures"`
	TestFields   []TestField             `json:"testFields"`
	OwnColumns   []string                `json:"ownColumns"` // of a laboratory's file, besides the numbers
	PHMethods    []string                `json:"phMethods"`
	Buffers      []string                `json:"buffers"`
	LabTests     []string                `json:"labTests"`
	Barriers     []string                `json:"barriers"`
	Sorting      []document.Sorted       `json:"sorting"`
	Organics     []amend.Organic         `json:"organics"`
	Priced       []document.Priced       `json:"priced"`
	Materials    []MaterialState         `json:"materials"`
	WaterSources []Choice                `json:"waterSources"`
	Ends         []string                `json:"ends"`    // ways a stand ends
	Origins      []Choice                `json:"origins"` // marks of where a value of a sheet is from
	Obstacles    []document.ObstacleKind `json:"obstacleKinds"`
	Fittings     []fittings.Kind         `json:"fittingKinds"`
	Raising      []supply.Way            `json:"raisingWays"`
	Mixtures     []document.Mixture      `json:"mixtures"`
	StoreRoom    document.StoreRoom      `json:"storeRoom"` // usual bins of a cold store, to be changed
}

// MaterialState is what follows from the analysis of a liming material of the estate.
type MaterialState struct {
	ID           string  `json:"id"`
	Analysed     bool    `json:"analysed"`
	EffectivePct float64 `json:"effectivePct"`
	Kind         string  `json:"kind"` // dolomitic, magnesian or calcitic; "" unanalysed
}

// Choice is an id and its words.
type Choice struct {
	ID    string `json:"id"`
	Words string `json:"words"`
}

// TestField is a number a soil test can hold, with the units it is read in.
type TestField struct {
	Name  string   `json:"name"`
	Label string   `json:"label"`
	Unit  string   `json:"unit"`
	Min   float64  `json:"min"`
	Max   float64  `json:"max"`
	Units []string `json:"units"`
}

func words[T ~string](list []T) []string {
	out := make([]string, len(list))
	for i, v := range list {
		out[i] = string(v)
	}
	return out
}

// GroundLists are the lists; prices are asked for the estate's own materials too.
func GroundLists(e document.Estate) Lists {
	l := Lists{Questions: document.Questions, Uses: []Choice{}, Textures: soil.Classes, Structures: words(soil.Structures), Hardnesses: words(soil.Hardnesses), Roots: words(soil.RootsSeen),
		LayerSigns: words(soil.LayerSigns), SurfaceSigns: words(soil.SurfaceSigns), Moistures: words([]soil.Moisture{soil.Dry, soil.Moist, soil.Wet}), TestFields: []TestField{}, OwnColumns: labreport.Own,
		PHMethods: soil.PHMethods, Buffers: soil.BufferMethods, LabTests: labreport.Asked, Barriers: document.BarrierKinds, Sorting: document.Sorting(e.Units), Organics: amend.Organics, Priced: e.PriceList(), Materials: []MaterialState{}, WaterSources: []Choice{}, Ends: document.Ends, Origins: []Choice{}, Obstacles: document.ObstacleKinds, Fittings: fittings.Kinds, Raising: supply.Ways, Mixtures: document.Mixtures(), StoreRoom: document.UsualRoom}
	l.Mixtures = slices.Clone(l.Mixtures)
	for i := range l.Mixtures { // their texts speak the estate's units
		l.Mixtures[i].Name, l.Mixtures[i].Says = units.Marked(l.Mixtures[i].Name, e.Units), units.Marked(l.Mixtures[i].Says, e.Units)
	}
	for _, m := range e.Materials {
		st := MaterialState{ID: m.ID, Analysed: m.Analysed()}
		if st.Analysed {
			st.EffectivePct, st.Kind = m.Effective(), m.Kind()
		}
		l.Materials = append(l.Materials, st)
	}
	for _, w := range drainage.Sources {
		l.WaterSources = append(l.WaterSources, Choice{w.ID, w.Words})
	}
	for _, o := range practice.Origins {
		l.Origins = append(l.Origins, Choice{o, practice.OriginWords(o)})
	}
	for _, k := range rotation.Kinds {
		l.Uses = append(l.Uses, Choice{k.Kind, k.Words})
	}
	for _, f := range soil.Fields {
		l.TestFields = append(l.TestFields, TestField{f.Name, f.Label, f.Unit, f.Min, f.Max, f.UnitNames()})
	}
	return l
}
