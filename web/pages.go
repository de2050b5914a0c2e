// Package web holds the built web pages; make build makes them.
package web

import "embed"

// Pages has the built files under dist.
//
//go:embed all:dist
var Pages embed.FS

//go:embed all:api
var api embed.FS

// Document is the OpenAPI document that the pages' types were made from; nil where
// none was made.
func Document() []byte {
	doc, err := api.ReadFile("api/openapi.json")
	if err != nil {
		return nil
	}
	return doc
}
