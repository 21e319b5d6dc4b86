package practice

import "fmt"

// Water is what a grown stand uses: crop coefficients of a full canopy in its first weeks, in mid-season and at the end, on
// reference evapotranspiration; the depth its working roots lie in; the share of what they can reach that may be taken
// before growth suffers. The first that holds for the choices is reckoned with.
type Water struct {
	If        When       `yaml:"if" json:"if,omitempty"`
	Name      string     `yaml:"name" json:"name"`
	Kc        [3]float64 `yaml:"kc" json:"kc"`
	RootM     [2]float64 `yaml:"rootM" json:"rootM"`         // m, where most of the roots take water
	TableM    [2]float64 `yaml:"tableM" json:"tableM"`       // m, the deepest roots of the published table; 0 where it does not list the crop
	Depletion float64    `yaml:"depletion" json:"depletion"` // share of the water held
	HeightM   float64    `yaml:"heightM" json:"heightM"`     // m, of the stand the coefficients are for
	Like      string     `yaml:"like" json:"like,omitempty"` // the crop they are borrowed from
	Origin    string     `yaml:"origin" json:"origin"`

	RootOrigin string `yaml:"rootOrigin" json:"rootOrigin,omitempty"` // of working roots and the share taken, where not the same
}

func (w Water) check() error {
	for _, k := range w.Kc {
		if !(k > 0 && k <= 1.4) {
			return fmt.Errorf("water, %s: a coefficient of %g; above 0 to 1.4 is wanted", w.Name, k)
		}
	}
	switch {
	case w.Name == "":
		return fmt.Errorf("water without a name")
	case !(w.RootM[0] > 0 && w.RootM[1] >= w.RootM[0] && w.RootM[1] <= 4):
		return fmt.Errorf("water, %s: roots from %g to %g m; above 0 to 4 in order are wanted", w.Name, w.RootM[0], w.RootM[1])
	case !(w.TableM[0] >= 0 && w.TableM[1] >= w.TableM[0] && w.TableM[1] <= 4):
		return fmt.Errorf("water, %s: table roots from %g to %g m; 0 to 4 in order are wanted", w.Name, w.TableM[0], w.TableM[1])
	case !(w.Depletion > 0 && w.Depletion < 1):
		return fmt.Errorf("water, %s: a depletion of %g; a share between 0 and 1 is wanted", w.Name, w.Depletion)
	case !(w.HeightM > 0 && w.HeightM <= 30):
		return fmt.Errorf("water, %s: a height of %g m; above 0 to 30 is wanted", w.Name, w.HeightM)
	case w.Origin == "":
		return fmt.Errorf("water, %s: no origin", w.Name)
	}
	return nil
}

// WaterOf is what a grown stand uses for the choices; nil where the sheet does not say.
func (s *Sheet) WaterOf(choice map[string]string) *Water {
	for i := range s.Water {
		if s.Water[i].If.Holds(choice) {
			return &s.Water[i]
		}
	}
	return nil
}
