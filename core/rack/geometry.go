// Package rack works out what a rack has room for: the pieces of space that
// are free, what it carries, and where a device could go.
package rack

import (
	"math"

	"levelstaff/core/text"
)

// UnitMM is the height of one unit in millimetres (EIA-310 / IEC 60297).
const UnitMM = text.UnitMM

// UnitsFor is how many units something of that height in millimetres needs.
func UnitsFor(mm float64) int { return int(math.Ceil(math.Round(mm/UnitMM*100) / 100)) }
