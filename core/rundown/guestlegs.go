package rundown

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// legSaid is a VLAN a guest has a leg in, with the address it has there.
type legSaid struct {
	vlan int
	addr *addressSaid
}

// legsSaid are several; see addressesSaid.
type legsSaid []legSaid

func (legsSaid) late() {}

type legIs struct {
	vlan int
	addr *lab.Address
}

func (list legsSaid) in(s setting) (any, error) {
	var all []legIs
	for _, said := range list {
		is := legIs{vlan: said.vlan}
		if said.addr != nil {
			a := said.addr.is
			var err error
			if a.Address, err = said.addr.whole(s.lab); err != nil {
				return nil, err
			}
			a.Port = legPort(said.vlan)
			is.addr = &a
		}
		all = append(all, is)
	}
	return all, nil
}

// legPort is the key of the end of a guest's leg in a VLAN.
func legPort(vlan int) string { return "vlan " + strconv.Itoa(vlan) }

func isLeg(port string) bool { return strings.HasPrefix(port, "vlan ") }

// legFact is a leg of a guest: vlan 20 10.20.0.31.
func legFact() fact {
	const example = "vlan 20 10.20.0.31"
	show := func(_ *lab.Lab, b box) string {
		d := b.(*lab.Device)
		var said []string
		for _, m := range d.Marks {
			if !isLeg(m.Port) {
				continue
			}
			n := len(said)
			for _, a := range d.Addresses {
				if a.Port == m.Port {
					a.Port = ""
					said = append(said, m.Port+" "+AddressText(a))
				}
			}
			if len(said) == n {
				said = append(said, m.Port)
			}
		}
		return strings.Join(said, ", ")
	}
	return fact{of: ofGuest, name: "legs", field: "port_marks", words: []string{"vlan", "in vlan", "on vlan", "leg in vlan"}, example: example,
		many: true, adds: true, maybe: true, group: Ports, show: show, write: show,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list legsSaid
			for phrase := range text.Cut(tokens) {
				if phrase[0].Is("vlan") && len(phrase) > 1 {
					phrase = phrase[1:]
				}
				v, err := readVLANs(phrase[:1])
				if err != nil || v.One() == 0 {
					return nil, fmt.Errorf("“%s” is not the number of a VLAN; write the leg such as %s", text.Short(phrase[0].Text), example)
				}
				leg := legSaid{vlan: v.One()}
				if rest := phrase[1:]; len(rest) > 0 {
					if rest[0].Is("at") || rest[0].Is("as") {
						rest = rest[1:]
					}
					a, err := readAddress(rest)
					if err != nil {
						return nil, err
					}
					leg.addr = &a
				}
				list = append(list, leg)
			}
			return list, nil
		},
		set: func(b box, v any) {
			d := b.(*lab.Device)
			list, _ := v.([]legIs)
			if list == nil {
				d.Marks = slices.DeleteFunc(slices.Clone(d.Marks), func(m lab.PortMark) bool { return isLeg(m.Port) })
				d.Addresses = slices.DeleteFunc(slices.Clone(d.Addresses), func(a lab.Address) bool { return isLeg(a.Port) })
			}
			for _, is := range list {
				port := legPort(is.vlan)
				if !slices.ContainsFunc(d.Marks, func(m lab.PortMark) bool { return m.Port == port }) {
					d.Marks = append(slices.Clone(d.Marks), lab.PortMark{Port: port, Untagged: lab.VLANNumber(is.vlan)})
				}
				if is.addr != nil {
					addEach(&d.Addresses, []lab.Address{*is.addr}, func(was, is lab.Address) (lab.Address, bool) {
						return is, was.Address == is.Address && (was.Port == is.Port || was.Port == "")
					})
				}
			}
			if len(d.Addresses) == 0 {
				d.Addresses = nil
			}
			if len(d.Marks) == 0 {
				d.Marks = nil
			}
		}}
}

// freeAddresses writes the addresses that are on no leg.
func freeAddresses(_ *lab.Lab, b box) string {
	var said []string
	for _, a := range b.(*lab.Device).Addresses {
		if !isLeg(a.Port) {
			said = append(said, "address "+AddressText(a))
		}
	}
	return strings.Join(said, ", ")
}
