package gear

import (
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
)

// Trouble is parts of a device that do not fit together.
type Trouble struct {
	Say   string
	Parts []lab.Part
	Sure  bool // false: it may be all right
}

// Troubles lists what does not fit together in a device: parts that do not go
// into the seat they are in, too much memory, mixed memory, more power leads
// wanted than there are.
func Troubles(l *lab.Lab, d lab.Device) []Trouble {
	parts := l.PartsOf(d.ID)
	if len(parts) == 0 {
		return nil
	}
	spec := l.SpecOf(d)
	var list []Trouble
	for _, p := range parts {
		if why := GoesIn(spec, p); why != "" {
			list = append(list, Trouble{fmt.Sprintf("%s does not fit %s: %s.", describe(p), seatOf(d, p), why), []lab.Part{p}, true})
		}
	}
	list = append(list, memoryTroubles(d, spec, parts)...)
	return append(list, leadTrouble(d, spec, parts)...)
}

// GoesIn says why a part does not go into the seat it is in of a thing with
// that spec; "" where nothing speaks against it, also where a fact is missing.
func GoesIn(spec lab.Spec, p lab.Part) string {
	if p.Seat == 0 {
		return ""
	}
	switch p.Kind {
	case lab.Drive:
		if bay, ok := spec.BayAt(p.Seat); ok {
			return driveInBay(bay, p)
		}
	case lab.Card:
		if slot, ok := spec.SlotAt(p.Seat); ok {
			return cardInSlot(spec, slot, p)
		}
	case lab.Memory:
		if a, b := generation(spec.MemoryType), generation(p.MemoryType); a != "" && b != "" && a != b {
			return fmt.Sprintf("the slots are for %s and it is %s", spec.MemoryType, p.MemoryType)
		}
		if most := spec.MemorySlotBytes; most != nil && p.SizeBytes != nil && *p.SizeBytes > *most {
			return fmt.Sprintf("a slot takes %s at most", gib(*most))
		}
	case lab.Processor:
		if spec.SocketType != "" && p.SocketType != "" && !strings.EqualFold(spec.SocketType, p.SocketType) {
			return fmt.Sprintf("the socket is %s and it is for %s", spec.SocketType, p.SocketType)
		}
	case lab.Transceiver:
		if cage := cageAt(spec, p.Seat); cage != "" && p.Connector != "" && !cageTakes(cage, p.Connector) {
			return fmt.Sprintf("the cage is %s and it is for %s", cage, p.Connector)
		}
	}
	return ""
}

// takesInterface lists the drives that a bay wired for an interface takes: SAS
// backplanes take SATA drives, not the other way round (SAS-2, annex on
// SATA compatibility).
var takesInterface = map[string][]string{"sas": {"sas", "sata"}, "sata": {"sata"}, "nvme": {"nvme"}, "ide": {"ide"}, "scsi": {"scsi"}}

func driveInBay(bay lab.BayGroup, p lab.Part) string {
	if p.Form != "" && bay.Form != "" && p.Form != bay.Form && !(p.Form == "2.5in" && bay.Form == "3.5in") { // which an adapter does
		return fmt.Sprintf("the bay is %s and the drive %s", bay.Form, p.Form)
	}
	if p.Interface != "" && len(bay.Interfaces) > 0 && !slices.ContainsFunc(bay.Interfaces, func(i string) bool {
		return slices.Contains(takesInterface[i], p.Interface)
	}) {
		return fmt.Sprintf("the bay is wired for %s and the drive is %s", strings.Join(bay.Interfaces, " or "), p.Interface)
	}
	return ""
}

// fullHeightMM is what an upright card of full height needs, bracket and all
// (PCI Express CEM: 111.15 mm); a chassis below 3U has it lying on a riser.
const fullHeightMM = 111.15

func cardInSlot(spec lab.Spec, slot lab.SlotGroup, p lab.Part) string {
	wide := max(1, p.Wide)
	switch {
	case slot.Lanes > 0 && p.Lanes > slot.Lanes:
		return fmt.Sprintf("its connector has %d lanes and the slot %d", p.Lanes, slot.Lanes)
	case wide > max(1, slot.Wide):
		return fmt.Sprintf("it is %d slots wide and there is room for %d", wide, max(1, slot.Wide))
	case slot.LengthMM != nil && p.LengthMM != nil && *p.LengthMM > *slot.LengthMM:
		return fmt.Sprintf("it is %v mm long and the slot takes %v mm", *p.LengthMM, *slot.LengthMM)
	case p.CardHeight == lab.FullHeight && slot.Height == lab.HalfHeight:
		return "the slot is of half height and it is of full height"
	case p.CardHeight == lab.FullHeight && slot.Height == "" && spec.HeightMM != nil && *spec.HeightMM < rack.UnitMM:
		return fmt.Sprintf("a card of full height needs %v mm and the chassis is %v mm high", fullHeightMM, *spec.HeightMM)
	}
	return ""
}

func cageAt(spec lab.Spec, seat int) string {
	for _, g := range spec.Ports {
		if !g.Cage() {
			continue
		}
		if seat <= g.Count {
			return g.Connector
		}
		seat -= g.Count
	}
	return ""
}

// cageTakes: an SFP+ cage takes SFP modules too, at their speed, and so on up.
func cageTakes(cage, module string) bool {
	for _, family := range [][]string{{"sfp", "sfp+", "sfp28"}, {"qsfp", "qsfp+", "qsfp28"}} {
		c, m := slices.Index(family, cage), slices.Index(family, module)
		if c >= 0 || m >= 0 {
			return m >= 0 && m <= c
		}
	}
	return cage == module
}

// generation is what modules must share: "ddr4 registered" is ddr4.
func generation(memoryType string) string {
	first, _, _ := strings.Cut(strings.ToLower(strings.TrimSpace(memoryType)), " ")
	return first
}

func memoryTroubles(d lab.Device, spec lab.Spec, parts []lab.Part) []Trouble {
	var modules []lab.Part
	var sum int64
	types, sizes := map[string]bool{}, map[int64]bool{}
	for _, p := range parts {
		if p.Kind != lab.Memory {
			continue
		}
		modules = append(modules, p)
		if p.SizeBytes != nil {
			sum += *p.SizeBytes
			if p.Seat > 0 {
				sizes[*p.SizeBytes] = true
			}
		}
		if p.MemoryType != "" {
			types[strings.ToLower(p.MemoryType)] = true
		}
	}
	var list []Trouble
	if most := spec.MemoryMost(); most != nil && sum > *most {
		list = append(list, Trouble{fmt.Sprintf("%s has %s of memory and takes %s at most.", d.Title(), gib(sum), gib(*most)), modules, true})
	}
	switch {
	case len(types) > 1:
		list = append(list, Trouble{fmt.Sprintf("%s has memory of %d types in it: %s.", d.Title(), len(types),
			strings.Join(sorted(types), ", ")), modules, false})
	case len(sizes) > 1:
		var said []string
		for _, s := range sorted(sizes) {
			said = append(said, gib(s))
		}
		list = append(list, Trouble{fmt.Sprintf("%s has memory modules of %d sizes: %s.", d.Title(), len(sizes), strings.Join(said, ", ")),
			modules, false})
	}
	return list
}

// leadTrouble compares the power leads that cards want with those there are,
// of the supplies that say so or else of the device.
func leadTrouble(d lab.Device, spec lab.Spec, parts []lab.Part) []Trouble {
	want, have, known := 0, 0, false
	var cards []lab.Part
	for _, p := range parts {
		switch {
		case p.PowerLeads == nil:
		case p.Kind == lab.Card && *p.PowerLeads > 0:
			want += *p.PowerLeads
			cards = append(cards, p)
		case p.Kind == lab.Supply:
			have += *p.PowerLeads
			known = true
		}
	}
	if !known && spec.PowerLeads != nil {
		have, known = *spec.PowerLeads, true
	}
	if !known || want <= have {
		return nil
	}
	return []Trouble{{fmt.Sprintf("The cards in %s want %d power leads and there are %d.", d.Title(), want, have), cards, true}}
}
