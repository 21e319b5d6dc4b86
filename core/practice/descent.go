package practice

import "slices"

// Step is one step of the descent: its key, what it is called, and the group it opens with.
type Step struct{ Key, Name, Group string }

// Descent is the steps in the order the work is done; a fork or finding stands beside one of them.
var Descent = []Step{{"ground", "Lie", "Ground"}, {"soil", "Soil", "Ground"}, {"drains", "Drains", "Ground"}, {"fit", "Fit", "Ground"},
	{"prepare", "Prepare", "Establish"}, {"rows", "Rows", "Establish"}, {"plants", "Plants", "Establish"}, {"care", "Care", "Care"}, {"yield", "Yield", "Crop"},
	{"record", "Record", "Record"}}

// isStep reports whether a step of that key exists.
func isStep(key string) bool {
	return slices.ContainsFunc(Descent, func(s Step) bool { return s.Key == key })
}
