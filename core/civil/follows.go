package civil

import "fmt"

// Follows is what decides the days of something that is planned in a season: once the day of What (an operation, a flowering,
// a feed or a harvest of the same year) is recorded, it is from the first to the last of Days after it.
type Follows struct {
	What string `yaml:"what" json:"what"`
	Days [2]int `yaml:"days" json:"days"`
}

// Harvest is what follows the latest harvest noted of a year, whichever it is.
const Harvest = "harvest"

// Check reports days that run backwards, or reach further than a year.
func (f Follows) Check() error {
	if f.What == "" || f.Days[0] < 0 || f.Days[1] < f.Days[0] || f.Days[1] > 366 {
		return fmt.Errorf("follows %q by %d to %d days: what it follows, and days from 0 to 366 in order", f.What, f.Days[0], f.Days[1])
	}
	return nil
}
