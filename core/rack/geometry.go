// Package rack works out what a rack has room for: the pieces of space that
// are free, what it carries, and where a device could go.
package rack

// UnitMM is the height of one unit in millimetres (EIA-310 / IEC 60297).
const UnitMM = 44.45
