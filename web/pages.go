// Package web holds the built web pages; make build makes them.
package web

import "embed"

// Pages has the built files under dist.
//
//go:embed all:dist
var Pages embed.FS
