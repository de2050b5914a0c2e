// Package rack works out what a rack has room for: its measures, the pieces
// of space that are free, what it carries, and where a device could go.
package rack

import "levelstaff/core/lab"

// Measures of EIA-310 / IEC 60297, in millimetres.
const (
	UnitMM      = 44.45
	Face19MM    = 482.6
	Opening19MM = 450.0
	Face10MM    = 254.0
	Opening10MM = 222.0
)

// FaceMM is the width over the ears that a rack takes; ok is false while the
// rack's form, or the measure of a form of its own, is unknown.
func FaceMM(r lab.Rack) (mm float64, ok bool) { return width(r, Face19MM, Face10MM, r.FaceMM) }

// OpeningMM is the clear width between the rack's posts; ok as for FaceMM.
func OpeningMM(r lab.Rack) (mm float64, ok bool) {
	return width(r, Opening19MM, Opening10MM, r.OpeningMM)
}

func width(r lab.Rack, at19, at10 float64, own *float64) (float64, bool) {
	switch r.Form {
	case lab.Rack19:
		return at19, true
	case lab.Rack10:
		return at10, true
	}
	if own == nil {
		return 0, false
	}
	return *own, true
}
