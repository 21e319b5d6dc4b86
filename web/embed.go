// Package web is the built front end, embedded.
package web

import "embed"

//go:embed all:dist
var Dist embed.FS
