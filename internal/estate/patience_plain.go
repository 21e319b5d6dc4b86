//go:build !race

package estate

// slower is how much longer everything takes in this build.
const slower = 1
