package gear

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

func sorted[K cmp.Ordered](set map[K]bool) []K { return slices.Sorted(maps.Keys(set)) }

// gib writes an amount of memory.
func gib(bytes int64) string { return text.MemoryText(bytes) }

// describe is a part in words: its name, or its sort with what tells it from
// others: "the 8TB hdd".
func describe(p lab.Part) string {
	if p.Name != "" {
		return p.Name
	}
	words := []string{"the"}
	if p.SizeBytes != nil {
		if p.Kind == lab.Memory {
			words = append(words, gib(*p.SizeBytes))
		} else {
			words = append(words, text.CapacityText(*p.SizeBytes))
		}
	}
	switch {
	case p.Medium != "":
		words = append(words, string(p.Medium))
	case p.CardKind != "" && p.CardKind != "other":
		words = append(words, string(p.CardKind), "card")
	case p.Kind == lab.Memory:
		words = append(words, "module")
	default:
		words = append(words, string(p.Kind))
	}
	return strings.Join(words, " ")
}

func seatOf(d lab.Device, p lab.Part) string {
	return fmt.Sprintf("%s %d of %s", p.Kind.Seat(), p.Seat, d.Title())
}

// figure writes a number to a tenth.
func figure(v float64) string { return strconv.FormatFloat(math.Round(v*10)/10, 'f', -1, 64) }
