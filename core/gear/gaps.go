package gear

import (
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Gap is a fact that is not documented yet and matters for its kind of thing.
type Gap struct {
	Device lab.ID `json:"device_id" required:"true"`
	Where  string `json:"where,omitempty" description:"Where the device is, said on a walk"`
	Field  string `json:"field" required:"true" description:"The fact's field, or parts:drive and so on for what is inside"`
	// Cable is the one whose fact it is, where it is not the device's.
	Cable    lab.ID `json:"cable_id,omitempty" description:"Absent where it is a fact of the device"`
	Question string `json:"question" required:"true"`
	Unit     string `json:"unit,omitempty" description:"What a bare number is read as"`
	Example  string `json:"example" required:"true"`
	// Line is what an answer goes into.
	Line    string `json:"line,omitempty" description:"The line that an answer makes, with the answer for %s; absent where it is a fact"`
	Matters string `json:"matters,omitempty" description:"What cannot be worked out without it"`
}

// question is how a fact is asked for.
type question struct {
	field, ask, unit, example, matters string
	known                              func(lab.Device, lab.Spec, []lab.Part) bool
}

func spec(known func(lab.Spec) bool) func(lab.Device, lab.Spec, []lab.Part) bool {
	return func(_ lab.Device, s lab.Spec, _ []lab.Part) bool { return known(s) }
}

func hasPart(k lab.PartKind) func(lab.Device, lab.Spec, []lab.Part) bool {
	return func(_ lab.Device, _ lab.Spec, parts []lab.Part) bool {
		return slices.ContainsFunc(parts, func(p lab.Part) bool { return p.Kind == k })
	}
}

// questions are all that the walk can ask, in the order in which one sees the
// answers: from the front, from behind, then inside and on paper.
var questions = []question{
	{"name", "What is it called?", "", "anvil", "", func(d lab.Device, _ lab.Spec, _ []lab.Part) bool { return d.Name != "" }},
	{"purpose", "What is it for?", "", "choir library and backups", "", func(d lab.Device, _ lab.Spec, _ []lab.Part) bool {
		return d.Purpose != ""
	}},
	{"model", "Which model is it?", "", "R2", "", spec(func(s lab.Spec) bool { return s.Model != "" })},
	{"depth_mm", "How deep is it, from the ears to the back?", "mm", "710", "whether it fits, and what can be behind it",
		spec(func(s lab.Spec) bool {
			return s.DepthMM != nil
		})},
	{"width_mm", "How wide is its body, without the ears?", "mm", "440", "whether rails go beside it", spec(func(s lab.Spec) bool {
		return s.WidthMM != nil
	})},
	{"mount", "How is it mounted: by its ears, on rails, or not at all?", "", "rails", "whether it fits", spec(func(s lab.Spec) bool {
		return s.Mount != ""
	})},
	{"weight_kg", "How heavy is it?", "kg", "24", "what the rack carries", spec(func(s lab.Spec) bool { return s.WeightKG != nil })},
	{"holds_kg", "How much weight can it carry?", "kg", "15", "whether it is overloaded", spec(func(s lab.Spec) bool {
		return s.HoldsKG != nil
	})},
	{"ports", "Which ports does it have?", "", "24 ports rj45 1G, 4 ports sfp+ 10G", "what can be plugged in", spec(func(s lab.Spec) bool {
		return len(s.Ports) > 0
	})},
	{"poe_budget_w", "How much PoE power can it supply?", "W", "195", "how many devices it feeds", spec(func(s lab.Spec) bool {
		return s.PoEBudgetW != nil || !slices.ContainsFunc(s.Ports, func(p lab.PortGroup) bool { return p.PoEOut > 0 })
	})},
	{"bays", "How many drive bays does it have, and what size?", "", "8 bays 3.5in", "what can be added", spec(func(s lab.Spec) bool {
		return len(s.Bays) > 0
	})},
	{"parts:drive", "Which drives are in it?", "", "4x 8TB hdd, 2x 1TB ssd", "its capacity", hasPart(lab.Drive)},
	{"outlets", "Which outlets does it have?", "", "8 outlets c13", "what can be plugged in", spec(func(s lab.Spec) bool {
		return len(s.Outlets) > 0
	})},
	{"supply_bays", "How many power supplies does it take?", "", "2", "whether it stays up when one fails", spec(func(s lab.Spec) bool {
		return s.SupplyBays != nil
	})},
	{"sockets", "How many processor sockets does it have?", "", "2", "", spec(func(s lab.Spec) bool { return s.Sockets != nil })},
	{"parts:processor", "Which processors are in it?", "", "2x 8-core", "how much it can do", hasPart(lab.Processor)},
	{"memory_slots", "How many memory slots does it have?", "", "16", "what can be added", spec(func(s lab.Spec) bool {
		return s.MemorySlots != nil
	})},
	{"parts:memory", "How much memory is in it?", "", "6x 16GB", "what can be given to guests", hasPart(lab.Memory)},
	{"parts:battery", "When were its batteries put in?", "", "1x battery put in 2022-05", "whether they still hold", hasPart(lab.Battery)},
	{"idle_w", "How much power does it draw at idle?", "W", "120", "what a month of it costs", spec(func(s lab.Spec) bool {
		return s.IdleW != nil || s.TypicalW != nil
	})},
	{"most_w", "How much power can it draw at most?", "W", "310", "whether the circuit holds", spec(func(s lab.Spec) bool {
		return s.MostW != nil
	})},
	{"management", "Is it managed, so that it can be told what its ports carry?", "", "unmanaged", "where VLANs reach",
		func(d lab.Device, s lab.Spec, _ []lab.Part) bool { return s.Managed != "" || saysVLANs(d) }},
	{"untagged", "Which VLAN do its ports carry untagged, unless something else is said?", "", "10", "where VLANs reach",
		func(d lab.Device, _ lab.Spec, _ []lab.Part) bool { return d.Untagged != "" || d.Tagged != "" }},
	{"addresses", "Which address does its management answer at?", "", "10.99.0.2 on mgmt", "how one gets at it when it is down",
		func(d lab.Device, s lab.Spec, _ []lab.Part) bool {
			port := managementPort(d, s)
			return d.Remote != "" || slices.ContainsFunc(d.Addresses, func(a lab.Address) bool { return port == "" || a.Port == port })
		}},
	{"runs", "What does it run its guests with: a hypervisor, or a container engine?", "", "hypervisor", "who can take them when it is gone",
		func(d lab.Device, _ lab.Spec, _ []lab.Part) bool { return d.Runs != "" }},
	{"given_bytes", "How much memory is it given?", "", "4GB", "whether there is room for it elsewhere",
		func(d lab.Device, _ lab.Spec, _ []lab.Part) bool { return d.Given != nil || d.Uses != nil }},
}

// managementPort is the key of the port by which a device is looked after, "" where it
// has none of its own for that.
func managementPort(d lab.Device, s lab.Spec) string {
	for _, m := range d.Marks {
		if lab.ForManagement(m.Name) || lab.ForManagement(m.Port) {
			return m.Port
		}
	}
	for _, g := range s.Ports {
		if lab.ForManagement(g.Name) {
			return g.Name
		}
	}
	return ""
}

// hasManagement reports whether a device is looked after over the network: a port of it
// is for that, or it is a switch that can be told what its ports carry.
func hasManagement(l *lab.Lab, d lab.Device) bool {
	s := l.SpecOf(d)
	return d.IsSwitch() && (s.Managed == lab.Managed || saysVLANs(d)) || managementPort(d, s) != ""
}

// arises reports of some questions whether the lab is one where they are asked.
var arises = map[string]func(*lab.Lab, lab.Device) bool{
	"runs": func(l *lab.Lab, d lab.Device) bool { return !d.IsGuest() && len(l.GuestsOn(d.ID)) > 0 },
	"given_bytes": func(l *lab.Lab, d lab.Device) bool { // in a guest it takes nothing of the host
		on, _ := l.HostOf(d)
		return d.State == lab.Running && d.At != nil && d.At.Device == on.ID && d.Template == ""
	},
	"addresses": func(l *lab.Lab, d lab.Device) bool {
		for range lab.Each[lab.Subnet](l) {
			return hasManagement(l, d)
		}
		return false
	},
	"untagged": func(l *lab.Lab, d lab.Device) bool {
		for range lab.Each[lab.VLAN](l) {
			return l.SpecOf(d).Managed == lab.Managed || saysVLANs(d)
		}
		return false
	},
}

// matters lists the questions for each kind; a kind that is not here lacks
// nothing, as a blanking panel does.
var matters = map[lab.DeviceKind][]string{
	lab.Server: {"name", "purpose", "model", "depth_mm", "width_mm", "mount", "weight_kg", "ports", "bays", "parts:drive",
		"supply_bays", "sockets", "parts:processor", "memory_slots", "parts:memory", "idle_w", "most_w"},
	lab.NAS: {"name", "purpose", "model", "depth_mm", "weight_kg", "ports", "bays", "parts:drive", "supply_bays", "parts:memory",
		"idle_w", "most_w"},
	lab.DiskShelf:   {"name", "purpose", "depth_mm", "width_mm", "weight_kg", "bays", "parts:drive", "supply_bays", "idle_w", "most_w"},
	lab.TapeLibrary: {"name", "purpose", "model", "depth_mm", "weight_kg", "most_w"},
	lab.MiniPC:      {"name", "purpose", "model", "ports", "parts:processor", "parts:memory", "parts:drive", "idle_w", "most_w"},
	lab.SingleBoard: {"name", "purpose", "model", "ports", "most_w"},
	lab.Desktop:     {"name", "purpose", "parts:processor", "parts:memory", "parts:drive", "most_w"},
	lab.Switch: {"name", "purpose", "model", "depth_mm", "weight_kg", "ports", "management", "untagged", "poe_budget_w", "idle_w",
		"most_w"},
	lab.Router:        {"name", "purpose", "model", "depth_mm", "weight_kg", "ports", "idle_w", "most_w"},
	lab.Firewall:      {"name", "purpose", "model", "depth_mm", "weight_kg", "ports", "idle_w", "most_w"},
	lab.Modem:         {"name", "purpose", "ports", "most_w"},
	lab.AccessPoint:   {"name", "purpose", "model", "ports", "most_w"},
	lab.PatchPanel:    {"name", "ports"},
	lab.Shelf:         {"depth_mm", "holds_kg"},
	lab.Drawer:        {"depth_mm", "holds_kg"},
	lab.KVMSwitch:     {"name", "depth_mm", "weight_kg", "ports", "most_w"},
	lab.ConsoleServer: {"name", "purpose", "depth_mm", "ports", "most_w"},
	lab.UPS:           {"name", "purpose", "model", "depth_mm", "weight_kg", "outlets", "parts:battery"},
	lab.PDU:           {"name", "depth_mm", "outlets"},
	lab.PowerStrip:    {"name", "outlets"},
	lab.Recorder:      {"name", "purpose", "ports", "bays", "parts:drive", "most_w"},
	lab.Hub:           {"name", "purpose", "ports"},
	lab.Camera:        {"name", "purpose", "ports", "most_w"},
	lab.Sensor:        {"name", "purpose"},
	lab.Display:       {"purpose", "ports", "most_w"},
	lab.VM:            {"given_bytes"},
	lab.Container:     {"given_bytes"},
}

// ofAnyKind are the questions that are asked of every kind that lacks something, where
// they arise.
var ofAnyKind = []string{"addresses", "runs"}

// onlyMounted are facts that matter only for what is mounted in a rack's units.
var onlyMounted = []string{"depth_mm", "width_mm", "mount"}

// GapsOf lists what is missing of a device. What is on its way out lacks
// nothing, and what will stay unknown is not a gap.
func GapsOf(l *lab.Lab, d lab.Device) []Gap {
	gaps, _ := asked(l, d)
	return gaps
}

// asked lists the gaps and counts the facts that matter and are known.
func asked(l *lab.Lab, d lab.Device) (gaps []Gap, known int) {
	fields := matters[d.Kind]
	if len(fields) == 0 || d.State == lab.Leaving {
		return nil, 0
	}
	s, parts := l.SpecOf(d), l.PartsOf(d.ID)
	mounted := d.At != nil && d.At.Where == lab.InUnits
	for _, q := range questions {
		switch {
		case !slices.Contains(fields, q.field) && !slices.Contains(ofAnyKind, q.field), arises[q.field] != nil && !arises[q.field](l, d),
			slices.Contains(onlyMounted, q.field) && !mounted && d.At != nil:
		case q.field == "width_mm" && s.Mount == lab.ByEars:
			// ears reach the posts whatever is behind them
		case q.known(d, s, parts), slices.Contains(d.Never, q.field):
			known++
		default:
			gaps = append(gaps, Gap{Device: d.ID, Field: q.field, Question: q.ask, Unit: q.unit, Example: q.example, Matters: q.matters})
		}
	}
	loose, plugged := supplyGaps(l, d)
	stored, found := storageGaps(l, d, parts)
	return slices.Concat(gaps, leadGaps(l, d), loose, stored), known + plugged + found
}

// Plugged is what the field of a gap begins with that asks where a supply is plugged in.
const Plugged = "plugged:"

// supplyGaps ask where the supplies of what runs are plugged in, in a lab whose circuits
// are written down, and count those of which that is known.
func supplyGaps(l *lab.Lab, d lab.Device) (gaps []Gap, known int) {
	circuits := false
	for range lab.Each[lab.Circuit](l) {
		circuits = true
		break
	}
	if !circuits || d.State != lab.Running {
		return nil, 0
	}
	in := map[string]bool{}
	for _, c := range l.CablesOf(d.ID) {
		for _, e := range c.Ends() {
			if e.Device == d.ID {
				in[e.Port] = true
			}
		}
	}
	ports := l.PortsOf(d)
	for i := range ports.Len() {
		p := ports.At(i)
		field := Plugged + p.Key
		switch {
		case p.Family != lab.Inlet:
		case in[p.Key], slices.Contains(d.Never, field):
			known++
		default:
			gaps = append(gaps, Gap{Device: d.ID, Field: field,
				Question: "Where is " + p.Key + " of " + d.Title() + " plugged in?", Example: "keep/out4",
				Matters: "what goes dark with what"})
		}
	}
	return gaps, known
}

// saysVLANs reports whether something is said of the VLANs of a device's ports.
func saysVLANs(d lab.Device) bool {
	return d.Untagged != "" || d.Tagged != "" ||
		slices.ContainsFunc(d.Marks, func(m lab.PortMark) bool { return m.Untagged != "" || m.Tagged != "" || m.Routed })
}

// leadGaps ask where the cables lead whose other end nobody wrote down.
func leadGaps(l *lab.Lab, d lab.Device) []Gap {
	if !d.Forwards() && !d.Kind.Traits().Joined {
		return nil
	}
	var gaps []Gap
	for _, c := range l.CablesOf(d.ID) {
		end, open := c.A, "b"
		if end == nil {
			end, open = c.B, "a"
		}
		if c.A != nil && c.B != nil || c.Kind.Cordless() {
			continue
		}
		say := l.EndWords(*end)
		gaps = append(gaps, Gap{Device: d.ID, Field: open, Cable: c.ID, Question: "Where does the cable in " + say + " lead?",
			Example: "Study plate/2", Matters: "what hangs on it"})
	}
	return gaps
}

// Complete is how much is known of what matters.
type Complete struct {
	RackID lab.ID `json:"rack_id,omitempty"`
	Known  int    `json:"known" required:"true"`
	Of     int    `json:"of" required:"true"`
	Gaps   []Gap  `json:"gaps" required:"true" nullable:"false" description:"In the order of the walk"`
}

// WalkOf lists the gaps of all that a rack holds, from top to bottom.
func WalkOf(l *lab.Lab, r lab.Rack) Complete {
	c := Complete{RackID: r.ID, Gaps: []Gap{}}
	c.add(l, r.Key())
	return c
}

// WalkElsewhere lists the gaps of what is in no rack, by place.
func WalkElsewhere(l *lab.Lab) Complete {
	c := Complete{Gaps: []Gap{}}
	for p := range lab.Each[lab.Place](l) {
		c.add(l, p.Key())
	}
	for d := range lab.Things(l) {
		if d.At == nil {
			c.device(l, d)
		}
	}
	return c
}

func (c *Complete) add(l *lab.Lab, holder lab.Key) {
	for _, d := range l.HeldBy(holder) {
		c.device(l, d)
	}
	if holder.Kind == lab.KindDevice {
		for _, g := range l.GuestsOn(holder.ID) {
			c.device(l, g)
		}
	}
}

func (c *Complete) device(l *lab.Lab, d lab.Device) {
	gaps, known := asked(l, d)
	for i := range gaps {
		gaps[i].Where = rundown.AboutOf(l, d).Where
	}
	c.Gaps = append(c.Gaps, gaps...)
	c.Known += known
	c.Of += known + len(gaps)
	c.add(l, d.Key())
}
