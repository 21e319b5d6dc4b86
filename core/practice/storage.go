package practice

// Storage is how dormant stock of a crop is kept cold until it is planted.
type Storage struct {
	If        When    `yaml:"if" json:"if,omitempty"`
	Of        string  `yaml:"of" json:"of"`               // what is kept
	SetC      float64 `yaml:"setC" json:"setC"`           // temperature it is kept at
	LowC      float64 `yaml:"lowC" json:"lowC"`           // colder kills or cracks
	HighC     float64 `yaml:"highC" json:"highC"`         // warmer wakes, or moulds
	MostDays  int     `yaml:"mostDays" json:"mostDays"`   // it keeps
	ChillH    float64 `yaml:"chillH" json:"chillH"`       // hours of cold it has to have had before planting; 0 where none are known
	BelowZero float64 `yaml:"belowZero" json:"belowZero"` // what an hour below 0 °C counts of an hour of cold
	Says      string  `yaml:"says" json:"says"`           // how
	Origin    string  `yaml:"origin" json:"origin"`
}

// StorageOf is that of what was chosen; ok is false where none is known.
func (s *Sheet) StorageOf(choice map[string]string) (st Storage, ok bool) {
	for _, st := range s.Storage {
		if st.If.Holds(choice) {
			return st, true
		}
	}
	return Storage{}, false
}

// checkStorage reports a store whose temperatures do not rise, or that keeps nothing.
func (s *Sheet) checkStorage(fail func(string, ...any), origin func(what, o string)) {
	for _, st := range s.Storage {
		origin("storage", st.Origin)
		if !(st.LowC >= -10 && st.LowC <= st.SetC && st.SetC <= st.HighC && st.HighC <= 15) || st.MostDays < 1 || st.MostDays > 400 || st.Of == "" ||
			!(st.ChillH >= 0 && st.ChillH <= 3000 && st.BelowZero >= 0 && st.BelowZero <= 1) {
			fail("a store rises from low over set to high, -10 to 15 °C, keeps something 1 to 400 days, and counts cold in shares of an hour")
		}
	}
}
