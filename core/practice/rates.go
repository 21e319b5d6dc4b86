package practice

// PickRate is how much of the crop one picker brings in, kg of the sheet's product an hour.
type PickRate struct {
	If   When    `yaml:"if" json:"if,omitempty"`
	Low  float64 `yaml:"low" json:"low"`
	Base float64 `yaml:"base" json:"base"`
	High float64 `yaml:"high" json:"high"`
	Says string  `yaml:"says" json:"says,omitempty"` // of what

	Machine bool   `yaml:"machine" json:"machine,omitempty"` // by a machine with its driver
	Origin  string `yaml:"origin" json:"origin"`
}

// PickRate is that of what was chosen; ok is false where none is known.
func (s *Sheet) PickRate(choice map[string]string) (r PickRate, ok bool) {
	for _, r := range s.PickRates {
		if r.If.Holds(choice) {
			return r, true
		}
	}
	return PickRate{}, false
}

// checkRates reports picking rates that do not rise, or say not where they are from.
func (s *Sheet) checkRates(fail func(string, ...any), origin func(what, o string)) {
	for _, r := range s.PickRates {
		origin("picking rate", r.Origin)
		if !(r.Low > 0 && r.Low <= r.Base && r.Base <= r.High && r.High <= 100_000) {
			fail("a picking rate rises from low over base to high, within 100 000 kg an hour, got %g, %g, %g", r.Low, r.Base, r.High)
		}
	}
}
