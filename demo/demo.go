// Package demo is the demonstration estate: invented ground, people and records, in the open formats
// the program itself reads.
package demo

import "embed"

//go:embed estate.json blocks.geojson climate.csv heights.asc weather.csv
var Files embed.FS
