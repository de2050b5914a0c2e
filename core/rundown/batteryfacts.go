package rundown

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// batteryFacts are what can be said of batteries, of when things go after the mains have
// failed, and of what energy costs.
func batteryFacts() []fact {
	device, of := scope(lab.KindDevice), scope(lab.KindLab)
	toHold := []string{"target", "to hold", "must hold", "should hold", "until the generator"}
	return slices.Concat([]fact{
		whenItGoes().under(PowerUse),
		measure(device, "takes to stop", "stops_s", text.Seconds, []string{"stops in", "stops within",
			"shuts down in", "takes to stop"}, "stops in 90s",
			"stops in %s", func(d *lab.Device) **float64 { return &d.StopsS }).under(PowerUse).optional(),
		anotherDevice("watched by", "watched_by_id", []string{"watched by", "watcher"}, func(d *lab.Device) *lab.ID { return &d.WatchedBy }),
		watchedWay().under(PowerUse),
		measure(device, "is to hold", "to_hold_min", text.Minutes, toHold, "target 20min", "target %s",
			func(d *lab.Device) **float64 { return &d.ToHoldMin }).under(PowerUse).optional(),

		prices(),
		standing(),
		measure(of, "every UPS is to hold", "to_hold_min", text.Minutes, toHold, "target 20min", "target %s",
			func(s *lab.Settings) **float64 { return &s.ToHoldMin }).optional(),

		flag(scope(lab.KindPlace), "shut", "shut", "shut", []string{"closed", "no air", "unventilated", "closet"},
			func(p *lab.Place) *bool { return &p.Shut }),
		measure(scope(lab.KindPlace), "too loud at", "most_db", text.Sound, []string{"at most", "no louder than", "quieter than"}, "at most 35dB",
			"at most %s", func(p *lab.Place) **float64 { return &p.MostDB }).optional(),
	})
}

// ofBattery are what can be said of a battery as a part.
func ofBattery(of scope) []fact {
	return []fact{
		measure(of, "energy", "energy_wh", text.Energy, []string{"energy"}, "216Wh", "", func(p *lab.Part) **float64 {
			return &p.EnergyWh
		}).barely(isIn(text.Energy)),
		chemistry(of),
		day(of, "put in", "put_in", []string{"put in", "since", "from", "new in"}, "put in 2022-05",
			func(p *lab.Part) *lab.When { return &p.PutIn }).under(""),
		flag(of, "a pack outside", "outside", "outside", []string{"outside pack", "external", "external pack", "beside it"},
			func(p *lab.Part) *bool { return &p.Outside })}
}

// silent lets the fact of a noise read that there is none.
func silent(f fact) fact {
	f.phrases = []string{"silent", "noiseless"}
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if slices.Contains(f.phrases, plainWords(tokens)) {
			return 0.0, nil
		}
		return read(tokens, lax)
	}
	return f
}

// chemistries are the common ones, as they are written and what else they are called.
var chemistries = [][]string{
	{"lead", "lead acid", "sealed lead", "sealed lead acid", "agm", "gel", "lead gel", "lead agm"},
	{"lithium iron phosphate", "lifepo4", "lfp", "life po4"},
	{"lithium ion", "li ion", "lithium"},
	{"nickel metal hydride", "nimh"},
}

// chemistry is said by itself where it is a common one: lead; another one with its word.
func chemistry(of scope) fact {
	f := written(of, "chemistry", "chemistry", []string{"chemistry"}, "chemistry lead",
		func(p *lab.Part) *string { return &p.Chemistry }, text.Quote)
	common := map[string]string{}
	for _, c := range chemistries {
		for _, said := range c {
			common[said] = c[0]
			f.phrases = append(f.phrases, said)
		}
	}
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if c := common[plainWords(tokens)]; c != "" {
			return c, nil
		}
		return read(tokens, lax)
	}
	write := f.write
	f.write = func(l *lab.Lab, b box) string {
		if c := b.(*lab.Part).Chemistry; common[c] == c && c != "" {
			return c
		}
		return write(l, b)
	}
	return f
}

// runtimes are how long a UPS holds what load: 500W for 14min, 35min.
func runtimes[R any](of scope, at func(*R) *[]lab.Runtime) fact {
	show := func(_ *lab.Lab, b box) string {
		var said []string
		for _, r := range *at(b.(*R)) {
			said = append(said, runtimeText(r))
		}
		return strings.Join(said, ", ")
	}
	return fact{of: of, name: "holds", field: "runtimes", example: "500W for 14min", many: true, maybe: true, show: show, write: show,
		matches: func(tokens []text.Token) bool { _, is := readRuntime(tokens); return is },
		read: func(tokens []text.Token, _ bool) (any, error) {
			return readEach(tokens, func(tokens []text.Token) (lab.Runtime, error) {
				if r, is := readRuntime(tokens); is {
					return r, nil
				}
				return lab.Runtime{}, errors.New("say what load it holds for how long, such as 500W for 14min")
			})
		},
		set: func(b box, v any) {
			list := at(b.(*R))
			addEach(list, v, func(was, is lab.Runtime) (lab.Runtime, bool) {
				return is, was.W == nil && is.W == nil || was.W != nil && is.W != nil && *was.W == *is.W
			})
			*list = lab.ByLoad(*list)
		}}
}

func runtimeText(r lab.Runtime) string {
	if r.W == nil {
		return text.Minutes.Text(r.Minutes)
	}
	return text.Watts.Text(*r.W) + " for " + text.Minutes.Text(r.Minutes)
}

// readRuntime reads: 500W for 14min, 500 watts 14 minutes, 14min at 500W, holds 35min.
func readRuntime(tokens []text.Token) (r lab.Runtime, is bool) {
	words := slices.DeleteFunc(slices.Clone(tokens), func(t text.Token) bool {
		return t.Kind == text.Word && slices.Contains([]string{"for", "at", "holds", "lasts", "last", "runs"}, t.Plain)
	})
	load, minutes := false, false
	for len(words) > 0 {
		q, n := text.ReadQuantity(words)
		switch {
		case n == 0:
			return r, false
		case isIn(text.Watts)(q) && !load:
			w, err := q.In(text.Watts, false)
			if err != nil {
				return r, false
			}
			r.W, load = &w, true
		case isIn(text.Minutes)(q) && !minutes:
			m, err := q.In(text.Minutes, false)
			if err != nil {
				return r, false
			}
			r.Minutes, minutes = m, true
		default:
			return r, false
		}
		words = words[n:]
	}
	return r, minutes
}

// waitsFor is when a device goes that waits for another one, by that one's name.
type waitsFor struct{ named }

// late values wait until all of the text is loaded.
func (waitsFor) late() {}

func (w waitsFor) in(s setting) (any, error) {
	id, err := w.named.in(s)
	if err != nil {
		return nil, err
	}
	return &lab.Goes{After: id.(lab.ID)}, nil
}

// whenItGoes is when a device goes after the mains have failed: at 40%, after 5min, last,
// after another one.
func whenItGoes() fact {
	show := func(l *lab.Lab, b box) string {
		g := b.(*lab.Device).Goes
		switch {
		case g == nil:
			return ""
		case g.Last:
			return "last"
		case g.AtPercent != nil:
			return "at " + text.Percent.Text(*g.AtPercent)
		case g.AfterMin != nil:
			return "after " + text.Minutes.Text(*g.AfterMin)
		}
		after, _ := lab.Find[lab.Device](l, g.After)
		return "after " + text.Quote(after.Title())
	}
	return fact{of: scope(lab.KindDevice), name: "goes", field: "goes", example: "goes at 40%", words: []string{"goes",
		"shuts down"}, maybe: true,
		show: show, pattern: "goes %s",
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			return readGoes(tokens)
		},
		set: func(b box, v any) { b.(*lab.Device).Goes, _ = v.(*lab.Goes) }}
}

var errGoes = errors.New("say when it goes: at 40%, after 5min, after another device, or last")

func readGoes(tokens []text.Token) (any, error) {
	if len(tokens) == 1 && tokens[0].Is("last") {
		return &lab.Goes{Last: true}, nil
	}
	if len(tokens) == 1 && (tokens[0].Is("first") || tokens[0].Is("at once")) || text.Plainly(tokens) == "at once" {
		none := 0.0
		return &lab.Goes{AfterMin: &none}, nil
	}
	if len(tokens) < 2 || !tokens[0].Is("at") && !tokens[0].Is("after") && !tokens[0].Is("below") {
		return nil, errGoes
	}
	rest := tokens[1:]
	q, n := text.ReadQuantity(rest)
	switch {
	case n == len(rest) && isIn(text.Percent)(q):
		v, err := q.In(text.Percent, false)
		return &lab.Goes{AtPercent: &v}, err
	case n == len(rest) && isIn(text.Minutes)(q):
		v, err := q.In(text.Minutes, false)
		return &lab.Goes{AfterMin: &v}, err
	case n > 0 || !tokens[0].Is("after"):
		return nil, errGoes
	}
	return waitsFor{named{lab.KindDevice, strings.TrimSpace(text.Joined(rest))}}, nil
}

// anotherDevice is a fact that names a device.
func anotherDevice(name, jsonField string, words []string, at func(*lab.Device) *lab.ID) fact {
	f := reference(scope(lab.KindDevice), lab.KindDevice, name, jsonField, words, at)
	f.example = words[0] + ` "finch"`
	return f.under(PowerUse).optional()
}

// watchedWay is what a UPS is watched over: usb, network or serial.
func watchedWay() fact {
	at := func(b box) *lab.Watching { return &b.(*lab.Device).WatchedOver }
	f := fact{of: scope(lab.KindDevice), name: "watched over", field: "watched_over", example: "watched over usb",
		words:   []string{"watched over"},
		pattern: "watched over %s", maybe: true, show: func(_ *lab.Lab, b box) string { return string(*at(b)) },
		read: func(tokens []text.Token, _ bool) (any, error) {
			way := lab.Watching(text.Plainly(tokens))
			switch {
			case text.IsUnknown(tokens):
				return nil, nil
			case !slices.Contains(lab.WaysToWatch(), way):
				return nil, fmt.Errorf("“%s” is not what a UPS is watched over; write usb, network or serial", text.Short(text.Joined(tokens)))
			}
			return way, nil
		},
		set: func(b box, v any) { *at(b), _ = v.(lab.Watching) }}
	for _, way := range lab.WaysToWatch() {
		f.choices = append(f.choices, string(way))
	}
	return f
}

// watchedOver are the two facts of: watched by finch over usb.
func watchedOver(phrase []text.Token) [][]text.Token {
	if n := len(phrase); n > 4 && phrase[n-2].Is("the") { // over the network
		phrase = slices.Delete(slices.Clone(phrase), n-2, n-1)
	}
	over := slices.IndexFunc(phrase, func(t text.Token) bool { return t.Is("over") || t.Is("by") && t.Col > phrase[1].Col })
	if over < 3 || over != len(phrase)-2 || !phrase[0].Is("watched") || !phrase[1].Is("by") {
		return nil
	}
	way := append([]text.Token{phrase[0]}, phrase[over:]...)
	way[1].Text, way[1].Plain = "over", "over"
	return [][]text.Token{phrase[:over], way}
}

// prices are what energy costs: price 0.31 a kWh, price 0.12 a kWh 00:30-05:30.
func prices() fact {
	at := func(b box) *[]lab.Price { return &b.(*lab.Settings).Prices }
	show := func(_ *lab.Lab, b box) string {
		var said []string
		for _, p := range *at(b) {
			said = append(said, priceText(p))
		}
		return strings.Join(said, ", ")
	}
	return fact{of: scope(lab.KindLab), name: "price of energy", field: "prices", example: "price 0.31 a kWh", many: true,
		adds: true, maybe: true,
		show: show, write: show,
		matches: func(tokens []text.Token) bool {
			return len(tokens) > 1 && (tokens[0].Is("price") || tokens[0].Is("energy") || saysKWh(tokens))
		},
		read: func(tokens []text.Token, _ bool) (any, error) { return readEach(tokens, readPrice) },
		set: func(b box, v any) {
			addEach(at(b), v, func(was, is lab.Price) (lab.Price, bool) { return is, was.From == is.From })
		}}
}

func saysKWh(tokens []text.Token) bool {
	return slices.ContainsFunc(tokens, func(t text.Token) bool { return strings.HasSuffix(t.Plain, "kwh") })
}

func priceText(p lab.Price) string {
	said := "price " + strconv.FormatFloat(p.PerKWh, 'f', -1, 64) + " a kWh"
	if p.From != "" {
		said += " " + p.From + "-" + p.To
	}
	return said
}

func readPrice(tokens []text.Token) (p lab.Price, err error) {
	var amount string
	for _, t := range tokens {
		word := strings.TrimSuffix(strings.TrimSuffix(strings.ToLower(t.Text), "kwh"), "/")
		switch {
		case slices.Contains([]string{"price", "energy", "power", "costs", "a", "an", "per", "kwh", "", "/", "from", "at", "night", "day"}, word):
		case clockRange.MatchString(word):
			m := clockRange.FindStringSubmatch(word)
			from, err1 := clockText(m[1], m[2], m[3])
			to, err2 := clockText(m[4], m[5], m[6])
			if err = errors.Join(err1, err2); err != nil {
				return p, err
			}
			p.From, p.To = from, to
		case amount == "":
			amount = word
		default:
			return p, fmt.Errorf("“%s” is not a price or a time of day; write price 0.12 a kWh 00:30-05:30", text.Short(t.Text))
		}
	}
	p.PerKWh, err = readAmount(amount)
	return p, err
}

// readAmount reads an amount of the lab's currency, to a ten-thousandth.
func readAmount(typed string) (float64, error) {
	const parts = 10000
	v, err := strconv.ParseFloat(strings.Replace(strings.Trim(typed, "£€$"), ",", ".", 1), 64)
	if err != nil || math.IsInf(v, 0) || math.IsNaN(v) {
		return 0, fmt.Errorf("“%s” is not an amount; write one such as 0.31", text.Short(typed))
	}
	if v < 0 {
		return 0, fmt.Errorf("a price is 0 or more, not %s", text.Short(typed))
	}
	return math.Round(v*parts) / parts, nil
}

// standing is what each day costs whatever is used: standing 0.61 a day.
func standing() fact {
	at := func(b box) **float64 { return &b.(*lab.Settings).StandingDay }
	return fact{of: scope(lab.KindLab), name: "standing charge", field: "standing_day", example: "standing 0.61 a day",
		words: []string{"standing", "standing charge"}, pattern: "standing %s a day", maybe: true,
		number: func(b box) *float64 { return *at(b) },
		show: func(_ *lab.Lab, b box) string {
			if v := *at(b); v != nil {
				return strconv.FormatFloat(*v, 'f', -1, 64)
			}
			return ""
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			said := strings.TrimSpace(strings.TrimSuffix(text.Joined(tokens), "a day"))
			return readAmount(said)
		},
		set: func(b box, v any) {
			*at(b) = nil
			if w, ok := v.(float64); ok {
				*at(b) = &w
			}
		}}
}
