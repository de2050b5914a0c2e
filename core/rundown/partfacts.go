package rundown

import (
	"math"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// partFacts are what can be said of parts, each sort with its own.
func partFacts() []fact {
	var all []fact
	for _, k := range append(lab.PartKinds(), "") { // of a kind not known yet, too
		of := partScope(k)
		all = append(all, partKindFact(of), holderFact(of), seatFact(of), choice(of, "state", "state", func(p *lab.Part) *lab.State {
			return &p.State
		}, stateOptions))
		all = append(all, partsOwn(of, k)...)
		all = append(all,
			written(of, "maker", "maker", []string{"maker"}, `maker "Fell"`, func(p *lab.Part) *string { return &p.Maker }, text.Quote).under(Make),
			written(of, "model", "model", []string{"model"}, `model "R2"`, func(p *lab.Part) *string { return &p.Model }, text.Quote).under(Make),
			written(of, "serial number", "serial", []string{"serial"}, `serial "4K-112"`, func(p *lab.Part) *string {
				return &p.Serial
			}, text.Quote).under(Hidden))
		all = append(all, moneyFacts(of, func(p *lab.Part) *lab.Money { return &p.Money })...)
		all = append(all, remarks(of, func(p *lab.Part) *[]string { return &p.Remarks }), note(of, func(p *lab.Part) *string { return &p.Notes }))
	}
	return all
}

func partsOwn(of scope, k lab.PartKind) []fact {
	size := func(d text.Dimension) fact {
		return wholeMeasure(of, "size", "size_bytes", d, []string{"size"}, d.Example, "", func(p *lab.Part) **int64 {
			return &p.SizeBytes
		}).barely(isIn(d))
	}
	leads := func(name string) fact {
		return tally(of, name, "power_leads", []string{"power leads", "leads"}, "2 power leads", "%s power leads", func(p *lab.Part) **int {
			return &p.PowerLeads
		})
	}
	draws := measure(of, "design power", "design_w", text.Watts, []string{"design"}, "95W", "", func(p *lab.Part) **float64 {
		return &p.DesignW
	}).barely(isIn(text.Watts))
	memoryType := written(of, "memory type", "memory_type", []string{"type"}, "type ddr4", func(p *lab.Part) *string {
		return &p.MemoryType
	}, text.Quote)
	socket := written(of, "socket type", "socket_type", []string{"for socket"}, "for socket B3", func(p *lab.Part) *string {
		return &p.SocketType
	}, text.Quote)
	switch k {
	case lab.Drive:
		return []fact{size(text.Capacity),
			choice(of, "kind of drive", "medium", func(p *lab.Part) *lab.Medium {
				return &p.Medium
			}, []option[lab.Medium]{{"hdd", "hdd", []string{"hdds", "hard disk", "hard drive", "spinning"}},
				{"ssd", "ssd", []string{"ssds", "flash"}},
				{"tape", "tape", nil}, {"optical", "optical", []string{"dvd", "blu ray"}}}),
			choice(of, "size of its case", "form", func(p *lab.Part) *lab.Form {
				return &p.Form
			}, []option[lab.Form]{{"3.5in", "3.5in", []string{`3.5"`, "3.5 inch"}}, {"2.5in", "2.5in", []string{`2.5"`, "2.5 inch"}},
				{"m.2", "m.2", []string{"m2"}}, {"5.25in", "5.25in", []string{`5.25"`}}, {"1.8in", "1.8in", nil}}),
			oneWord(of, "interface", "interface", "", func(p *lab.Part) *string { return &p.Interface }, lab.Interfaces()),
			oneWord(of, "recording", "recording", "", func(p *lab.Part) *string { return &p.Recording }, []string{"cmr", "smr"}),
			measure(of, "speed", "rpm", text.Turns, []string{"rpm"}, "7200rpm", "", func(p *lab.Part) **float64 {
				return &p.RPM
			}).barely(isIn(text.Turns)),
			measure(of, "reads and writes", "rate_mb", text.Rate, []string{"rate", "sustained", "reads"}, "180MB/s", "",
				func(p *lab.Part) **float64 {
					return &p.RateMB
				}).barely(isIn(text.Rate)).optional(),
			measure(of, "has run", "hours", text.Hours, []string{"hours", "run"}, "32000h", "", func(p *lab.Part) **float64 {
				return &p.Hours
			}).barely(isIn(text.Hours)),
		}
	case lab.Memory:
		return []fact{size(text.Memory), memoryType}
	case lab.Processor:
		return []fact{
			tally(of, "cores", "cores", []string{"cores", "core"}, "8 cores", "%s cores", func(p *lab.Part) **int { return &p.Cores }),
			tally(of, "threads", "threads", []string{"threads"}, "16 threads", "%s threads", func(p *lab.Part) **int { return &p.Threads }),
			measure(of, "base clock", "base_ghz", text.Clock, []string{"clock"}, "2.4GHz", "", func(p *lab.Part) **float64 {
				return &p.BaseGHz
			}).barely(isIn(text.Clock)),
			draws, socket}
	case lab.Card:
		return []fact{
			oneWord(of, "kind of card", "card_kind", "", func(p *lab.Part) *lab.CardKind {
				return &p.CardKind
			}, []lab.CardKind{"gpu", "network", "storage", "other"}),
			written(of, "mode", "mode", []string{"mode"}, "mode raid", func(p *lab.Part) *string { return &p.Mode }, text.Quote),
			slotsWide(of),
			measure(of, "length", "length_mm", text.Length, []string{"long", "length"}, "267mm long", "%s long", func(p *lab.Part) **float64 {
				return &p.LengthMM
			}),
			choice(of, "height", "card_height", func(p *lab.Part) *lab.CardHeight {
				return &p.CardHeight
			}, []option[lab.CardHeight]{{lab.FullHeight, "full height", []string{"full"}},
				{lab.HalfHeight, "half height", []string{"half", "low profile"}}}),
			count(of, "lanes", "lanes", []string{"lanes"}, "8 lanes", "%s lanes", func(p *lab.Part) *int { return &p.Lanes }),
			leads("power leads it wants"), draws, size(text.Memory)}
	case lab.Supply:
		return []fact{
			measure(of, "gives", "gives_w", text.Watts, []string{"gives"}, "550W", "", func(p *lab.Part) **float64 {
				return &p.GivesW
			}).barely(isIn(text.Watts)),
			oneWord(of, "grade", "grade", "grade", func(p *lab.Part) *lab.Grade { return &p.Grade }, lab.Grades()),
			leads("power leads for cards")}
	case lab.Battery:
		return ofBattery(of)
	case lab.Transceiver:
		return []fact{
			written(of, "goes in", "connector", []string{"for"}, "for sfp+", func(p *lab.Part) *string { return &p.Connector }, text.Quote),
			tally(of, "speed in Mbit/s", "speed_mb", []string{"mbit"}, "10000 mbit", "%s mbit", func(p *lab.Part) **int { return &p.SpeedMb }),
			written(of, "offers", "takes", []string{"offers"}, "offers lc", func(p *lab.Part) *string { return &p.Takes }, text.Quote),
			oneWord(of, "fibre", "fibre", "", func(p *lab.Part) *fibreWord {
				return (*fibreWord)(&p.Fibre)
			}, []fibreWord{"multimode", "single-mode"})}
	}
	return nil
}

// slotsWide is how many slots a card covers; one of 2.5 covers a third.
func slotsWide(of scope) fact {
	f := count(of, "slots wide", "wide", []string{"wide", "slots wide"}, "2 wide", "%s wide", func(p *lab.Part) *int { return &p.Wide })
	whole := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if len(tokens) == 1 && strings.HasSuffix(tokens[0].Plain, ".5") {
			if v, err := strconv.ParseFloat(tokens[0].Plain, 64); err == nil && v > 0 {
				return int(math.Ceil(v)), nil
			}
		}
		return whole(tokens, lax)
	}
	return f
}

// fibreWord is the fibre a transceiver is for.
type fibreWord string

// count is a tally of what is 1 or more, and 0 while it is unknown.
func count[R any](of scope, name, jsonField string, words []string, example, pattern string, at func(*R) *int) fact {
	f := tally(of, name, jsonField, words, example, pattern, func(r *R) **int {
		if n := at(r); *n != 0 {
			return &n
		}
		return new(*int)
	})
	f.set = func(b box, v any) {
		n, _ := v.(int)
		*at(b.(*R)) = n
	}
	return f
}
