//go:build race

package estate

// slower is how much longer everything takes under the race detector.
const slower = 15
