package finite

import (
	"math"
	"testing"
)

type inner struct {
	Low, High float64
	Name      string
}

type outer struct {
	Of    inner
	List  []inner
	Map   map[string]float64
	Point *inner
	Words []string
	Self  *outer
	own   float64
}

// Numbers that are none are set to nought wherever they stand, and nothing else is touched.
func TestZero(t *testing.T) {
	sound := outer{Of: inner{1, 2, "a"}, List: []inner{{3, 4, "b"}}, Map: map[string]float64{"n": 5}, Point: &inner{6, 7, "c"}, Words: []string{"NaN"}, own: math.NaN()}
	sound.Self = &outer{Of: inner{8, 9, "d"}}
	if Zero(&sound) || sound.Of.Low != 1 || sound.Map["n"] != 5 {
		t.Errorf("a sound structure was changed: %+v", sound)
	}
	for name, spoil := range map[string]func(*outer){
		"field": func(o *outer) { o.Of.High = math.Inf(1) }, "list": func(o *outer) { o.List[0].Low = math.NaN() }, "map": func(o *outer) { o.Map["n"] = math.NaN() },
		"pointer": func(o *outer) { o.Point.Low = math.Inf(-1) }, "itself": func(o *outer) { o.Self.Of.Low = math.NaN() },
	} {
		o := outer{Of: inner{1, 2, "a"}, List: []inner{{3, 4, "b"}}, Map: map[string]float64{"n": 5}, Point: &inner{6, 7, "c"}, Self: &outer{}}
		spoil(&o)
		if !Zero(&o) {
			t.Errorf("%s: not found", name)
		}
		if Zero(&o) {
			t.Errorf("%s: not set to nought", name)
		}
	}
	if !Bad(math.NaN()) || !Bad(math.Inf(-1)) || Bad(0) {
		t.Error("Bad")
	}
}
