// Package rundown is the plain text of a lab: one line a thing, from top to
// bottom, in the order a person speaks.
//
//	rack "Pantry": 24U, 19in, 800mm deep, holds 300kg
//	12-13   server "anvil": 710mm deep, 24kg, for "choir library",
//	            because "it takes eight drives"
//
// Parse reads such text thing by thing; a mistake costs its own line and no
// other. Load works out what the text would change in a lab, Print writes a
// lab so that it loads to the same one. What can be said of a thing stands in
// one table, facts.go; a new fact is a line there.
package rundown
