package rundown

import (
	"cmp"
	"reflect"
	"slices"
	"strconv"

	"levelstaff/core/lab"
)

// parts writes the parts in a device, alike ones in neighbouring seats in one
// line.
func (p *printer) parts(parts []lab.Part, indent int) {
	for i := 0; i < len(parts); {
		first := parts[i]
		n := 1
		for i+n < len(parts) && alike(first, parts[i+n], n) {
			n++
		}
		seat := "loose"
		if first.Seat > 0 {
			seat = first.Kind.Seat() + " " + strconv.Itoa(first.Seat)
			if n > 1 {
				seat += "-" + strconv.Itoa(first.Seat+n-1)
			}
		} else if n > 1 {
			seat += " " + strconv.Itoa(n) + "x"
		}
		p.part(seat, first, indent)
		i += n
	}
}

func (p *printer) part(seat string, is lab.Part, indent int) {
	p.line(indent, max(indent, column)+4, seat+" "+sectionHead(string(is.Kind), is.Name), is.Notes, spoken(is, p.lab), false)
}

// alike reports whether the part that is n seats further says the same.
func alike(a, b lab.Part, n int) bool {
	if a.Name != "" || a.Seat > 0 && b.Seat != a.Seat+n || a.Seat == 0 && b.Seat != 0 {
		return false
	}
	b.ID, b.Seat = a.ID, a.Seat
	return reflect.DeepEqual(a, b)
}

// apart writes the spares bin and what is on order.
func (p *printer) apart(lineKind) {
	var parts []lab.Part
	for part := range lab.Each[lab.Part](p.lab) {
		if part.Device == "" {
			parts = append(parts, part)
		}
	}
	lab.InOrder(parts)
	slices.SortStableFunc(parts, func(a, b lab.Part) int {
		return cmp.Compare(strconv.FormatBool(a.Ordered), strconv.FormatBool(b.Ordered))
	})
	if len(parts) > 0 {
		p.blank()
	}
	for i := 0; i < len(parts); {
		n := 1
		for i+n < len(parts) && alike(parts[i], parts[i+n], n) {
			n++
		}
		word := "spare"
		if parts[i].Ordered {
			word = "ordered"
		}
		if n > 1 {
			word += " " + strconv.Itoa(n) + "x"
		}
		p.part(word, parts[i], 0)
		i += n
	}
}
