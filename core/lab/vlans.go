package lab

import (
	"fmt"
	"iter"
	"math/bits"
	"slices"
	"strconv"
	"strings"
)

// The numbers a VLAN may have (IEEE 802.1Q, 9.6: 0 and 4095 are reserved).
const (
	FirstVLAN = 1
	LastVLAN  = 4094
)

// VLANs are the VLANs that something carries: numbers and ranges such as
// "20,30-35", every one there is, or none though more is usual here. It is ""
// while nothing is said.
type VLANs string

// What is said of VLANs without their numbers.
const (
	AllVLANs VLANs = "all"
	NoVLANs  VLANs = "none"
)

// vlanSet has a bit for each number.
type vlanSet [(LastVLAN + 64) / 64]uint64

func (s *vlanSet) put(n int) { s[n/64] |= 1 << (n % 64) }

func (s *vlanSet) take(n int) { s[n/64] &^= 1 << (n % 64) }

func (s *vlanSet) each(yield func(int) bool) bool {
	for w, word := range s {
		for word != 0 {
			bit := bits.TrailingZeros64(word)
			if word &= word - 1; !yield(w*64 + bit) {
				return false
			}
		}
	}
	return true
}

// text writes a set: numbers rise, and what follows on one another is a range.
func (s *vlanSet) text() VLANs {
	var said []string
	from, to := 0, 0
	end := func() {
		switch {
		case from == 0:
		case from == to:
			said = append(said, strconv.Itoa(from))
		case from+1 == to:
			said = append(said, strconv.Itoa(from), strconv.Itoa(to))
		default:
			said = append(said, strconv.Itoa(from)+"-"+strconv.Itoa(to))
		}
	}
	s.each(func(n int) bool {
		if n == to+1 && from > 0 {
			to = n
			return true
		}
		end()
		from, to = n, n
		return true
	})
	if end(); len(said) == 0 {
		return NoVLANs
	}
	return VLANs(strings.Join(said, ","))
}

// ReadVLANs reads VLANs as people write them: 20, "20,30-35", "20 and 30", all,
// none. The error says what is not one.
func ReadVLANs(said string) (VLANs, error) {
	var set vlanSet
	words := strings.FieldsFunc(strings.ToLower(said), func(r rune) bool { return r == ',' || r == ' ' || r == '+' || r == '/' })
	for _, w := range words {
		switch w {
		case "and":
			continue
		case string(AllVLANs), string(NoVLANs):
			if len(words) > 1 {
				return "", fmt.Errorf("%s stands by itself; write numbers such as 20,30-35, or all, or none", w)
			}
			return VLANs(w), nil
		}
		from, to, isRange := strings.Cut(w, "-")
		if !isRange {
			to = from
		}
		a, err := readVLAN(from)
		if err != nil {
			return "", err
		}
		b, err := readVLAN(to)
		if err != nil {
			return "", err
		}
		if b < a {
			return "", fmt.Errorf("the range %s runs backwards; write %d-%d", w, b, a)
		}
		for n := a; n <= b; n++ {
			set.put(n)
		}
	}
	switch none := (vlanSet{}); {
	case len(words) == 0:
		return "", nil
	case set == none:
		return "", fmt.Errorf("%s is not a VLAN's number; write one such as 20, or several such as 20,30-35", quote(said))
	}
	return set.text(), nil
}

func readVLAN(s string) (int, error) {
	n, err := strconv.Atoi(s)
	if err != nil {
		return 0, fmt.Errorf("%s is not a VLAN's number; write one such as 20, or several such as 20,30-35", quote(s))
	}
	return n, vlanInRange(n)
}

func vlanInRange(n int) error {
	if n < FirstVLAN || n > LastVLAN {
		return fmt.Errorf("a VLAN's number is %d to %d, not %d", FirstVLAN, LastVLAN, n)
	}
	return nil
}

// set is the numbers that are listed; none where all are meant or nothing is
// said. What cannot be read counts as not listed: Apply refuses it.
func (v VLANs) set() (s vlanSet) {
	for w := range strings.SplitSeq(string(v), ",") {
		from, to, isRange := strings.Cut(w, "-")
		if !isRange {
			to = from
		}
		a, errA := readVLAN(from)
		b, errB := readVLAN(to)
		if errA != nil || errB != nil {
			continue
		}
		for n := a; n <= b; n++ {
			s.put(n)
		}
	}
	return s
}

// Numbers goes through the numbers that are listed, rising: none of them where
// all are meant.
func (v VLANs) Numbers() iter.Seq[int] {
	return func(yield func(int) bool) {
		if v != "" {
			set := v.set()
			set.each(yield)
		}
	}
}

// One is the number where just one is listed, 0 where it is not.
func (v VLANs) One() int {
	if v == "" {
		return 0
	}
	n, err := readVLAN(string(v))
	if err != nil {
		return 0
	}
	return n
}

// Has reports whether a number is among them.
func (v VLANs) Has(number int) bool {
	if v == AllVLANs {
		return true
	}
	set := v.set()
	return number >= FirstVLAN && number <= LastVLAN && set[number/64]&(1<<(number%64)) != 0
}

// With is the VLANs and one more.
func (v VLANs) With(number int) VLANs {
	if v == AllVLANs {
		return v
	}
	set := v.set()
	set.put(number)
	return set.text()
}

// Without is the VLANs but for one. Of all, every other number is listed.
func (v VLANs) Without(number int) VLANs {
	set := v.set()
	if v == AllVLANs {
		for n := FirstVLAN; n <= LastVLAN; n++ {
			set.put(n)
		}
	}
	set.take(number)
	return set.text()
}

// VLANNumber is the number of one VLAN.
func VLANNumber(number int) VLANs { return VLANs(strconv.Itoa(number)) }

// vlans takes VLANs as records keep them.
func (f *faults) vlans(field string, v VLANs) {
	switch is, err := ReadVLANs(string(v)); {
	case err != nil:
		f.add(field, "%s", err)
	case is != v:
		f.add(field, "VLANs are written with rising numbers, here %s, not %s", is, quote(string(v)))
	}
}

// untagged takes what is carried without a tag: one VLAN at most (IEEE 802.1Q,
// 6.9.1: a frame without a tag is put into the port's one PVID).
func (f *faults) untagged(field string, v VLANs) {
	f.vlans(field, v)
	if v != "" && v != NoVLANs && v.One() == 0 && len(f.list) == 0 {
		f.add(field, "a port carries one VLAN untagged, not %s; tag the others", v)
	}
}

// Carried is what a port carries, with what its device says of all its ports.
type Carried struct {
	Untagged int   // 0: none, or unknown
	Tagged   VLANs // without the untagged one
	Said     bool  // somebody said what it carries
	Routed   bool  // it is the end of a network, and no VLAN is switched there
	Both     bool  // one was said to be tagged and untagged: it counts as untagged
}

// Carries is what a port of a device carries that has that mark, a zero one
// where it has none. A port that says nothing carries what its device says of
// its other ports; one that says only what is tagged carries what the device
// does untagged besides.
func (d Device) Carries(m PortMark) Carried {
	untagged, tagged := m.Untagged, m.Tagged
	if untagged == "" && !m.Routed {
		untagged = d.Untagged
		if tagged == "" {
			tagged = d.Tagged
		}
	}
	return carried(untagged, tagged, m.Routed, d.Routes())
}

// CarriesAt is what a port of a device carries, by the port's key; see Carries.
func (d Device) CarriesAt(port string) Carried {
	if i := slices.IndexFunc(d.Marks, func(m PortMark) bool { return m.Port == port }); i >= 0 {
		return d.Carries(d.Marks[i])
	}
	return d.Carries(PortMark{})
}

// Carries is what a link without a cable carries, as it is said of the link.
func (c Cable) Carries() Carried { return carried(c.Untagged, c.Tagged, false, false) }

func carried(untagged, tagged VLANs, routed, routes bool) Carried {
	c := Carried{Untagged: untagged.One(), Tagged: tagged, Said: untagged != "" || tagged != ""}
	if routed {
		return Carried{Said: true, Routed: true}
	}
	if c.Tagged == NoVLANs {
		c.Tagged = ""
	}
	if c.Untagged > 0 && c.Tagged != "" && c.Tagged.Has(c.Untagged) {
		c.Both = tagged != AllVLANs
		if c.Tagged != AllVLANs {
			if c.Tagged = c.Tagged.Without(c.Untagged); c.Tagged == NoVLANs {
				c.Tagged = ""
			}
		}
	}
	c.Routed = !c.Said && routes
	return c
}

// Has reports whether the port carries a VLAN, and whether tagged.
func (c Carried) Has(number int) (carries, tagged bool) {
	if number == c.Untagged {
		return true, false
	}
	return c.Tagged.Has(number), true
}

// Carrying is the device with a port that carries one more VLAN, tagged or
// untagged, whatever it carried it as before.
func (d Device) Carrying(port string, number int, tagged bool) Device {
	return d.marking(port, func(c Carried, m *PortMark) {
		if tagged {
			if c.Untagged == number {
				m.Untagged = NoVLANs
			}
			m.Tagged = c.Tagged.With(number)
			return
		}
		m.Untagged = VLANNumber(number)
		if m.Tagged = c.Tagged; c.Tagged != "" && c.Tagged != AllVLANs {
			m.Tagged = c.Tagged.Without(number)
		}
	})
}

// NotCarrying is the device with a port that does not carry a VLAN.
func (d Device) NotCarrying(port string, number int) Device {
	return d.marking(port, func(c Carried, m *PortMark) {
		if c.Untagged == number {
			m.Untagged, m.Tagged = NoVLANs, c.Tagged
		} else if carries, _ := c.Has(number); carries {
			m.Tagged = c.Tagged.Without(number)
		}
	})
}

// marking is the device with what is said of the VLANs of one port changed.
func (d Device) marking(port string, change func(c Carried, m *PortMark)) Device {
	d.Marks = slices.Clone(d.Marks)
	i := slices.IndexFunc(d.Marks, func(m PortMark) bool { return m.Port == port })
	if i < 0 {
		i, d.Marks = len(d.Marks), append(d.Marks, PortMark{Port: port})
	}
	m := &d.Marks[i]
	change(d.Carries(*m), m)
	m.Routed = m.Routed && m.Untagged == "" && m.Tagged == ""
	d.Marks[i] = d.sparing(*m)
	return d.withDefaults().(Device)
}

// sparing is a mark without what the device says already of its other ports.
func (d Device) sparing(m PortMark) PortMark {
	is := d.Carries(m)
	for _, less := range []PortMark{{Untagged: "", Tagged: ""}, {Tagged: m.Tagged}, {Untagged: m.Untagged}} {
		try := m
		try.Untagged, try.Tagged = less.Untagged, less.Tagged
		if c := d.Carries(try); c.Untagged == is.Untagged && c.Tagged == is.Tagged && c.Routed == is.Routed {
			return try
		}
	}
	return m
}
