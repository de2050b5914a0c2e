package rundown

import (
	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// specFacts are what can be said of a spec, on its sheet or of a device.
func specFacts[R any](of scope, at func(*R) *lab.Spec) []fact {
	mm := func(get func(*lab.Spec) **float64) func(*R) **float64 {
		return func(r *R) **float64 { return get(at(r)) }
	}
	whole := func(get func(*lab.Spec) **int) func(*R) **int { return func(r *R) **int { return get(at(r)) } }
	words := func(get func(*lab.Spec) *string) func(*R) *string { return func(r *R) *string { return get(at(r)) } }
	big := func(get func(*lab.Spec) **int64) func(*R) **int64 { return func(r *R) **int64 { return get(at(r)) } }
	high := measure(of, "height", "height_mm", text.Length, []string{"high", "height", "tall"}, "2U high", "%s high",
		mm(func(s *lab.Spec) **float64 {
			return &s.HeightMM
		})).barely(isIn(text.Units)).under(Measures)
	high.show = func(_ *lab.Lab, b box) string {
		if v := at(b.(*R)).HeightMM; v != nil {
			return text.Height(*v)
		}
		return ""
	}
	return []fact{
		written(of, "maker", "maker", []string{"maker", "made by"}, `maker "Fell"`, words(func(s *lab.Spec) *string {
			return &s.Maker
		}), text.Quote).under(Make),
		written(of, "model", "model", []string{"model"}, `model "R2"`, words(func(s *lab.Spec) *string {
			return &s.Model
		}), text.Quote).under(Make),
		takes(of, whole(func(s *lab.Spec) **int { return &s.TakesU })).under(Measures),
		high,
		measure(of, "width", "width_mm", text.Length, []string{"wide", "width"}, "440mm wide", "%s wide", mm(func(s *lab.Spec) **float64 {
			return &s.WidthMM
		})).under(Measures),
		measure(of, "depth", "depth_mm", text.Length, []string{"deep", "depth", "long"}, "320mm deep", "%s deep", mm(func(s *lab.Spec) **float64 {
			return &s.DepthMM
		})).under(Measures),
		measure(of, "weight", "weight_kg", text.Mass, []string{"weighs", "weight", "heavy"}, "4.1kg", "", mm(func(s *lab.Spec) **float64 {
			return &s.WeightKG
		})).barely(isIn(text.Mass)).under(Measures),
		measure(of, "sticks out in front", "front_mm", text.Length, []string{"sticks out", "in front"}, "sticks out 35mm", "sticks out %s",
			mm(func(s *lab.Spec) **float64 {
				return &s.FrontMM
			})).under(Measures),
		measure(of, "load it may carry", "holds_kg", text.Mass, []string{"holds", "carries"}, "holds 15kg", "holds %s",
			mm(func(s *lab.Spec) **float64 {
				return &s.HoldsKG
			})).under(Measures),
		choice(of, "mount", "mount", func(r *R) *lab.Mount { return &at(r).Mount }, []option[lab.Mount]{
			{lab.ByEars, "by its ears", []string{"ears", "by ears"}},
			{lab.OnRails, "on rails", []string{"rails"}},
			{lab.ByNone, "without ears", []string{"no ears", "no rails", "none"}},
		}).under(Measures),
		measure(of, "rails, each", "rail_mm", text.Length, []string{"rail thickness", "thick"}, "rail thickness 9mm", "rail thickness %s",
			mm(func(s *lab.Spec) **float64 {
				return &s.RailMM
			})).under(Measures),
		measure(of, "rails span from", "rail_from_mm", text.Length, []string{"rails from"}, "rails from 600mm", "rails from %s",
			mm(func(s *lab.Spec) **float64 {
				return &s.RailFromMM
			})).under(Measures),
		measure(of, "rails span to", "rail_to_mm", text.Length, []string{"rails to"}, "rails to 850mm", "rails to %s",
			mm(func(s *lab.Spec) **float64 {
				return &s.RailToMM
			})).under(Measures),

		withPoE(groupFact(of, "ports", "ports", "24 ports rj45 1G", isPorts, readPorts, portsText, func(r *R) *[]lab.PortGroup {
			return &at(r).Ports
		}, func(g lab.PortGroup) int { return g.Count }), func(r *R) *[]lab.PortGroup { return &at(r).Ports }).under(Ports),
		management(of, func(s *R) *lab.Management { return &at(s).Managed }).under(Ports),
		measure(of, "PoE budget", "poe_budget_w", text.Watts, []string{"poe budget", "poe", "poe+", "poe++"}, "PoE budget 195W", "PoE budget %s",
			mm(func(s *lab.Spec) **float64 {
				return &s.PoEBudgetW
			})).under(Ports),

		tally(of, "processor sockets", "sockets", []string{"sockets", "socket", "processor sockets"}, "2 sockets", "%s processor sockets",
			whole(func(s *lab.Spec) **int {
				return &s.Sockets
			})).under(Within),
		written(of, "socket type", "socket_type", []string{"socket type"}, "socket type B3", words(func(s *lab.Spec) *string {
			return &s.SocketType
		}), text.Quote).under(Within),
		tally(of, "memory slots", "memory_slots", []string{"memory slots", "dimm slots", "dimms", "ram slots"}, "16 memory slots",
			"%s memory slots", whole(func(s *lab.Spec) **int {
				return &s.MemorySlots
			})).under(Within),
		written(of, "memory type", "memory_type", []string{"memory type", "ram type"}, "memory type ddr4", words(func(s *lab.Spec) *string {
			return &s.MemoryType
		}), text.Quote).under(Within),
		wholeMeasure(of, "memory, most in a slot", "memory_slot_bytes", text.Memory, []string{"a slot"}, "16GB a slot", "%s a slot",
			big(func(s *lab.Spec) **int64 {
				return &s.MemorySlotBytes
			})).under(Within),
		wholeMeasure(of, "memory, most in all", "memory_most_bytes", text.Memory, []string{"memory at most", "takes memory"},
			"256GB memory at most", "%s memory at most", big(func(s *lab.Spec) **int64 {
				return &s.MemoryMostBytes
			})).under(Within),
		groupFact(of, "drive bays", "bays", "8 bays 3.5in", isBays, readBays, baysText, func(r *R) *[]lab.BayGroup {
			return &at(r).Bays
		}, func(g lab.BayGroup) int { return g.Count }).under(Within),
		groupFact(of, "expansion slots", "slots", "2 slots x16", isSlots, readSlots, slotsText, func(r *R) *[]lab.SlotGroup {
			return &at(r).Slots
		}, func(g lab.SlotGroup) int { return g.Count }).under(Within),

		tally(of, "room for supplies", "supply_bays", []string{"supply bays", "psu bays"}, "2 supply bays", "%s supply bays",
			whole(func(s *lab.Spec) **int {
				return &s.SupplyBays
			})).under(PowerUse),
		tally(of, "supplies needed", "supplies_needed", []string{"needed", "supplies needed", "needs"}, "1 needed", "%s supplies needed",
			whole(func(s *lab.Spec) **int {
				return &s.SuppliesNeeded
			})).under(PowerUse),
		measure(of, "each supply gives", "supply_w", text.Watts, []string{"a supply", "each supply"}, "550W a supply", "%s a supply",
			mm(func(s *lab.Spec) **float64 {
				return &s.SupplyW
			})).under(PowerUse),
		oneWord(of, "supply grade", "supply_grade", "grade", func(r *R) *lab.Grade { return &at(r).SupplyGrade }, lab.Grades()).under(PowerUse),
		tally(of, "power leads for cards", "power_leads", []string{"power leads"}, "2 power leads", "%s power leads",
			whole(func(s *lab.Spec) **int {
				return &s.PowerLeads
			})).under(PowerUse),
		groupFact(of, "outlets", "outlets", "8 outlets c13", isOutlets, readOutlets, outletsText, func(r *R) *[]lab.OutletGroup {
			return &at(r).Outlets
		}, func(g lab.OutletGroup) int { return g.Count }).under(PowerUse),
		measure(of, "standby draw", "standby_w", text.Watts, []string{"standby"}, "8W standby", "%s standby", mm(func(s *lab.Spec) **float64 {
			return &s.StandbyW
		})).under(PowerUse),
		measure(of, "idle draw", "idle_w", text.Watts, []string{"idle"}, "120W idle", "%s idle", mm(func(s *lab.Spec) **float64 {
			return &s.IdleW
		})).under(PowerUse),
		measure(of, "typical draw", "typical_w", text.Watts, []string{"typical", "typically", "usually", "normally",
			"on average", "most of the time"}, "160W typical", "%s typical",
			mm(func(s *lab.Spec) **float64 {
				return &s.TypicalW
			})).under(PowerUse),
		measure(of, "most it draws", "most_w", text.Watts, []string{"max", "most", "at most", "flat out", "peak"}, "310W max", "%s max",
			mm(func(s *lab.Spec) **float64 {
				return &s.MostW
			})).under(PowerUse),
		silent(measure(of, "noise", "noise_db", text.Sound, []string{"noise", "loud"}, "38dB", "", mm(func(s *lab.Spec) **float64 {
			return &s.NoiseDB
		})).barely(isIn(text.Sound)).under(PowerUse)),
		measure(of, "noise at its most", "busy_db", text.Sound, []string{"busy", "rendering", "under load",
			"at full load", "spinning"}, "43dB busy",
			"%s busy", mm(func(s *lab.Spec) **float64 {
				return &s.BusyDB
			})).under(PowerUse).optional(),
		measure(of, "works from", "temp_from_c", text.Warmth, []string{"works from", "from"}, "works from 5C", "works from %s",
			mm(func(s *lab.Spec) **float64 {
				return &s.TempFromC
			})).under(PowerUse),
		measure(of, "works up to", "temp_to_c", text.Warmth, []string{"works to", "up to"}, "works to 40C", "works to %s",
			mm(func(s *lab.Spec) **float64 {
				return &s.TempToC
			})).under(PowerUse),
		written(of, "figures are from", "figures_by", []string{"figures by", "figures from"}, `figures by "the label"`,
			words(func(s *lab.Spec) *string {
				return &s.FiguresBy
			}), text.Quote).under(Make),
	}
}

// wayFacts are how one reaches a device, and what is private.
func wayFacts() []fact {
	of := scope(lab.KindDevice)
	return []fact{
		written(of, "remote management", "remote_address", []string{"remote", "ssh"}, `remote "10.20.0.12"`, func(d *lab.Device) *string {
			return &d.Remote
		}, text.Quote).under(WaysIn),
		written(of, "web page", "web_page", []string{"web"}, `web "https://anvil.home.arpa"`, func(d *lab.Device) *string { return &d.Web }, text.Quote).under(WaysIn),
		written(of, "console", "console", []string{"console"}, `console "kvm input 3"`, func(d *lab.Device) *string {
			return &d.Console
		}, text.Quote).under(WaysIn),
		lines(of, "links", "links", "link", `link "https://example.org/manual.pdf"`, func(d *lab.Device) *[]string { return &d.Links }).under(WaysIn),
		written(of, "serial number", "serial", []string{"serial"}, `serial "4K-112"`, func(d *lab.Device) *string {
			return &d.Serial
		}, text.Quote).under(Hidden),
		entries(of).under(Hidden),
		lines(of, "what nobody knows", "never_known", "nobody knows", `nobody knows "weight_kg"`, func(d *lab.Device) *[]string {
			return &d.Never
		}),
	}
}
