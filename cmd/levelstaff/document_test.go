package main

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/server"
	"levelstaff/web"
)

// What the build made, and the pages' types were made from, is what the routes are.
func TestTheDocumentIsCurrent(t *testing.T) {
	built := web.Document()
	if built == nil {
		t.Skip("no document was built: make build makes it")
	}
	doc, err := server.OpenAPI()
	require.NoError(t, err)
	assert.JSONEq(t, string(doc), string(built))
}
