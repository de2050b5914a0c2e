package rundown

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

var ofCircuit = scope(lab.KindCircuit)

// powerFacts are what can be said of circuits, and of how devices are fed.
func powerFacts() []fact {
	device := scope(lab.KindDevice)
	return []fact{
		part(scope(lab.KindLab), func(s *lab.Settings) **float64 { return &s.ForHours }),

		measure(ofCircuit, "breaker", "amps", text.Amps, []string{"breaker", "rated", "fused at"}, "16A", "", func(c *lab.Circuit) **float64 {
			return &c.Amps
		}).barely(isIn(text.Amps)),
		measure(ofCircuit, "voltage", "volts", text.Volts, []string{"voltage"}, "230V", "", func(c *lab.Circuit) **float64 {
			return &c.Volts
		}).barely(isIn(text.Volts)).usually("the mains voltage of the lab"),
		poles(),
		part(ofCircuit, func(c *lab.Circuit) **float64 { return &c.Hours }),
		reference(ofCircuit, lab.KindPlace, "place", "place_id", []string{"in"}, func(c *lab.Circuit) *lab.ID { return &c.Place }).optional(),
		remarks(ofCircuit, func(c *lab.Circuit) *[]string { return &c.Remarks }),
		note(ofCircuit, func(c *lab.Circuit) *string { return &c.Notes }),

		reference(device, lab.KindCircuit, "circuit", "circuit_id", []string{"on circuit", "circuit", "on breaker", "breaker"},
			func(d *lab.Device) *lab.ID {
				return &d.Circuit
			}).under(PowerUse).optional(),
		flag(device, "starts drives one by one", "starts_one_by_one", "starts drives one by one",
			[]string{"starts its drives one by one", "staggered", "staggered spin up", "drives start one by one", "drives start one after another"},
			func(d *lab.Device) *bool { return &d.OneByOne }).under(PowerUse),
		flag(device, "in bypass", "bypass", "in bypass", []string{"on bypass", "bypass", "bypassed"}, func(d *lab.Device) *bool {
			return &d.Bypass
		}).under(PowerUse),
		measured(device, "measured behind it", "measured_behind", true,
			func(d *lab.Device) **lab.Measurement { return &d.Behind }).under(PowerUse),
		measured(device, "measured", "measured", false, func(d *lab.Device) **lab.Measurement { return &d.Measured }).under(PowerUse),
		runTimes().under(PowerUse),
	}
}

// ratingFacts are what a feeder is made for, on its sheet or of a device.
func ratingFacts[R any](of scope, at func(*R) *lab.Spec) []fact {
	get := func(f func(*lab.Spec) **float64) func(*R) **float64 { return func(r *R) **float64 { return f(at(r)) } }
	rated := func(name, jsonField string, d text.Dimension, pattern string, at func(*R) **float64) fact {
		f := measure(of, name, jsonField, d, nil, "rated "+d.Example, pattern, at).under(PowerUse).optional()
		f.matches = func(tokens []text.Token) bool {
			q, n := text.ReadQuantity(afterRated(tokens))
			return n > 0 && n == len(afterRated(tokens)) && n < len(tokens) && isIn(d)(q)
		}
		read := f.read
		f.read = func(tokens []text.Token, lax bool) (any, error) { return read(afterRated(tokens), lax) }
		return f
	}
	efficiency := measure(of, "efficiency", "efficiency", text.Percent, []string{"efficient", "efficiency"}, "92% efficient", "%s efficient",
		get(func(s *lab.Spec) **float64 { return &s.Efficiency }))
	return []fact{
		runtimes(of, func(r *R) *[]lab.Runtime { return &at(r).Runtimes }).under(PowerUse),
		rated("apparent power it gives", "rated_va", text.VoltAmps, "rated %s", get(func(s *lab.Spec) **float64 { return &s.RatedVA })).
			barely(isIn(text.VoltAmps)),
		rated("power it gives", "rated_w", text.Watts, "rated %s", get(func(s *lab.Spec) **float64 { return &s.RatedW })),
		rated("current it is made for", "rated_a", text.Amps, "rated %s", get(func(s *lab.Spec) **float64 { return &s.RatedA })),
		measure(of, "voltage it takes", "takes_v", text.Volts, []string{"input", "runs on"}, "input 19V", "input %s",
			get(func(s *lab.Spec) **float64 { return &s.TakesV })).under(PowerUse).optional(),
		measure(of, "voltage it gives", "gives_v", text.Volts, []string{"gives", "output"}, "gives 19V", "gives %s",
			get(func(s *lab.Spec) **float64 { return &s.GivesV })).under(PowerUse).optional(),
		hundredths(efficiency).under(PowerUse).optional(),
		powerFactor(of, get(func(s *lab.Spec) **float64 { return &s.Factor })),
		measure(of, "draw while it starts", "boot_w", text.Watts, []string{"boot", "at boot", "starting", "booting", "while it starts"},
			"400W boot", "%s boot",
			get(func(s *lab.Spec) **float64 { return &s.BootW })).under(PowerUse).optional(),
	}
}

// powerFactor is a number without a unit: power factor 0.95.
func powerFactor[R any](of scope, at func(*R) **float64) fact {
	f := measure(of, "power factor", "power_factor", text.Dimension{}, []string{"power factor", "pf"},
		"power factor 0.95", "power factor %s", at)
	f.read = func(tokens []text.Token, _ bool) (any, error) {
		if text.IsUnknown(tokens) {
			return nil, nil
		}
		v, err := strconv.ParseFloat(text.Joined(tokens), 64)
		if err != nil {
			return nil, fmt.Errorf("“%s” is not a power factor; write one such as 0.95", text.Short(text.Joined(tokens)))
		}
		return v, nil
	}
	return f.under(PowerUse).optional()
}

// afterRated is what comes behind a word for a rating.
func afterRated(tokens []text.Token) []text.Token {
	if len(tokens) > 0 && (tokens[0].Is("rated") || tokens[0].Is("rating")) {
		tokens = tokens[1:]
	}
	if len(tokens) > 0 && (tokens[0].Is("at") || tokens[0].Is("for")) {
		tokens = tokens[1:]
	}
	if n := len(tokens); n > 0 && (tokens[n-1].Is("rated") || tokens[n-1].Is("rating")) {
		tokens = tokens[:n-1]
	}
	return tokens
}

// hundredths is a fact that is said in parts of a hundred and kept as a fraction of 1.
func hundredths(f fact) fact {
	number, set := f.number, f.set
	f.number = func(b box) *float64 {
		v := number(b)
		if v != nil {
			n := *v * 100
			return &n
		}
		return nil
	}
	f.set = func(b box, v any) {
		if n, ok := v.(float64); ok {
			v = n / 100
		}
		set(b, v)
	}
	f.show = func(_ *lab.Lab, b box) string {
		if v := f.number(b); v != nil {
			return text.Percent.Text(float64(int(*v*100+0.5)) / 100)
		}
		return ""
	}
	return f
}

// part is how much of a breaker may run for hours: 80% for hours.
func part[R any](of scope, at func(*R) **float64) fact {
	return hundredths(measure(of, "part that may run for hours", "continuous_fraction", text.Percent,
		[]string{"for hours", "continuous", "may run for hours"}, "80% for hours", "%s for hours", at)).optional()
}

// flag is a fact that is true or not; it is said where it is.
func flag[R any](of scope, name, jsonField, write string, also []string, at func(*R) *bool) fact {
	yes := append([]string{write}, also...)
	return fact{of: of, name: name, field: jsonField, example: write, phrases: yes, choices: []string{"no", write}, maybe: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			said := text.Plainly(tokens)
			switch {
			case slices.Contains(yes, said), said == "yes":
				return true, nil
			case text.IsUnknown(tokens), said == "no":
				return nil, nil
			}
			return nil, fmt.Errorf("“%s” is not %s; write that, or no", text.Short(text.Joined(tokens)), write)
		},
		set: func(b box, v any) { *at(b.(*R)), _ = v.(bool) },
		show: func(_ *lab.Lab, b box) string {
			if *at(b.(*R)) {
				return write
			}
			return ""
		}}
}

// poles of a breaker: 3 poles, single phase.
func poles() fact {
	f := tally(ofCircuit, "poles", "poles", []string{"poles", "pole", "phases", "phase"}, "3 poles", "%s poles", func(c *lab.Circuit) **int {
		return &c.Poles
	}).usually("1").optional()
	f.phrases = []string{"single pole", "single phase", "two pole", "three pole", "three phase"}
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if len(tokens) > 0 {
			for i, word := range []string{"single", "two", "three"} {
				if tokens[0].Is(word) {
					return i + 1, nil
				}
			}
		}
		return read(tokens, lax)
	}
	show := f.show
	f.write = func(l *lab.Lab, b box) string {
		switch n := show(l, b); n {
		case "", "1":
			return map[string]string{"1": "single pole"}[n]
		default:
			return n + " poles"
		}
	}
	return f
}

var behindWords = []string{"behind it", "behind", "on its outlets", "at its outlets"}

// measured is a power by a meter: measured 168W 2026-11-20 by "plug meter".
func measured[R any](of scope, name, jsonField string, behind bool, at func(*R) **lab.Measurement) fact {
	example := "measured 168W"
	if behind {
		example = "measured 74W behind it"
	}
	isBehind := func(tokens []text.Token) bool {
		return slices.ContainsFunc(tokens, func(t text.Token) bool { return t.Is("behind") })
	}
	show := func(_ *lab.Lab, b box) string {
		m := *at(b.(*R))
		if m == nil || m.W == nil {
			return ""
		}
		said := text.Watts.Text(*m.W)
		if behind {
			said += " behind it"
		}
		if m.On != "" {
			said += " " + string(m.On)
		}
		if m.By != "" {
			said += " by " + text.Quote(m.By)
		}
		return said
	}
	return fact{of: of, name: name, field: jsonField, example: example, pattern: "measured %s", typedWhole: true, maybe: true, show: show,
		measured: text.Watts,
		number: func(b box) *float64 {
			if m := *at(b.(*R)); m != nil {
				return m.W
			}
			return nil
		},
		matches: func(tokens []text.Token) bool {
			rest, ok := afterMeasured(tokens)
			return ok && len(rest) > 0 && isBehind(tokens) == behind
		},
		read: func(tokens []text.Token, lax bool) (any, error) {
			tokens, _ = afterMeasured(tokens)
			if text.IsUnknown(tokens) || len(tokens) == 0 {
				return nil, nil
			}
			return readMeasured(tokens, lax, example)
		},
		set: func(b box, v any) { *at(b.(*R)), _ = v.(*lab.Measurement) }}
}

// afterMeasured is what stands behind the word for a measurement, or before it.
func afterMeasured(tokens []text.Token) ([]text.Token, bool) {
	i := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("measured") || t.Is("metered") })
	_, figure := text.ReadQuantity(tokens)
	switch {
	case i == 0:
		_, figure = text.ReadQuantity(tokens[1:])
		return tokens[1:], figure > 0 || text.IsUnknown(tokens[1:])
	case i == figure && i > 0: // 168W measured
		return slices.Delete(slices.Clone(tokens), i, i+1), true
	}
	return tokens, false
}

func readMeasured(tokens []text.Token, lax bool, example string) (any, error) {
	q, n := text.ReadQuantity(tokens)
	if n == 0 {
		return nil, fmt.Errorf("say how much was measured, such as %s", example)
	}
	w, err := q.In(text.Watts, lax)
	if err != nil {
		return nil, err
	}
	m := &lab.Measurement{W: &w}
	rest := slices.Clone(tokens[n:])
	if by := slices.IndexFunc(rest, func(t text.Token) bool { return t.Is("by") || t.Is("with") }); by >= 0 {
		m.By = strings.TrimSpace(text.Joined(rest[by+1:]))
		rest = rest[:by]
	}
	rest = slices.DeleteFunc(rest, func(t text.Token) bool {
		return t.Is("on") || t.Is("in") || slices.ContainsFunc(behindWords,
			func(w string) bool { return slices.Contains(strings.Fields(w), t.Plain) })
	})
	if len(rest) > 0 {
		if m.On, err = readWhen(text.Joined(rest)); err != nil {
			return nil, err
		}
	}
	return m, nil
}

var clockRange = regexp.MustCompile(`^([0-9]{1,2})(?:[:.]([0-9]{2}))?(am|pm)?(?:-|–| to | until )([0-9]{1,2})(?:[:.]([0-9]{2}))?(am|pm)?$`)

// runTimes are how long a device runs: on 07:00-23:00, 4h a day most.
func runTimes() fact {
	at := func(b box) *[]lab.RunTime { return &b.(*lab.Device).RunTimes }
	entries := func(b box) []string {
		var list []string
		for _, r := range *at(b) {
			list = append(list, runTimeText(r))
		}
		return list
	}
	show := func(_ *lab.Lab, b box) string { return strings.Join(entries(b), ", ") }
	return fact{of: scope(lab.KindDevice), name: "hours it runs", field: "run_times", example: "on 07:00-23:00",
		many: true, adds: true, maybe: true,
		show: show, write: show,
		matches: func(tokens []text.Token) bool {
			_, err := readRunTime(tokens)
			return !errors.Is(err, errRunTime)
		},
		read: func(tokens []text.Token, _ bool) (any, error) { return readEach(tokens, readRunTime) },
		set: func(b box, v any) {
			addEach(at(b), v, func(was, is lab.RunTime) (lab.RunTime, bool) { return is, was.Level == is.Level && was.From == is.From })
		}}
}

var errRunTime = errors.New("say when it runs, such as on 07:00-23:00, or how long and how hard, such as 4h a day most")

// readRunTime reads one time that a device runs.
func readRunTime(tokens []text.Token) (r lab.RunTime, err error) {
	if n := len(tokens); n > 1 && tokens[n-1].Kind == text.Word {
		for _, level := range []lab.DrawLevel{lab.AtStandby, lab.AtIdle, lab.AtTypical, lab.AtMost} {
			if tokens[n-1].Is(string(level)) || level == lab.AtMost && (tokens[n-1].Is("max") || tokens[n-1].Is("flat")) {
				r.Level, tokens = level, tokens[:n-1]
				break
			}
		}
	}
	if len(tokens) > 1 && (tokens[0].Is("on") || tokens[0].Is("runs") || tokens[0].Is("from")) {
		tokens = tokens[1:]
	}
	if m := clockRange.FindStringSubmatch(strings.ToLower(text.Joined(tokens))); m != nil {
		from, err := clockText(m[1], m[2], m[3])
		if err != nil {
			return r, err
		}
		r.From = from
		r.To, err = clockText(m[4], m[5], m[6])
		return r, err
	}
	q, n := text.ReadQuantity(tokens)
	if n == 0 || !isIn(text.Hours)(q) {
		return r, errRunTime
	}
	switch rest := plainWords(tokens[n:]); rest {
	case "a day", "per day", "each day", "every day", "daily":
		r.Every = lab.EveryDay
	case "a week", "per week", "each week", "every week", "weekly":
		r.Every = lab.EveryWeek
	default:
		return r, errRunTime
	}
	r.Hours, err = q.In(text.Hours, false)
	return r, err
}

// clockText is a time of day as records keep it.
func clockText(hour, minute, half string) (string, error) {
	layout, said := "15:04", hour+":"+minute
	if minute == "" {
		said = hour + ":00"
	}
	if half != "" {
		layout, said = "3:04pm", said+half
	}
	if said == "24:00" {
		said = "00:00"
	}
	t, err := time.Parse(layout, said)
	if err != nil {
		return "", fmt.Errorf("“%s” is not a time of day; write one such as 07:00", text.Short(said))
	}
	return t.Format("15:04"), nil
}

func runTimeText(r lab.RunTime) string {
	said := "on " + r.From + "-" + r.To
	if r.From == "" {
		said = text.Number(r.Hours) + "h a " + string(r.Every)
	}
	if r.Level != "" {
		said += " " + string(r.Level)
	}
	return said
}
