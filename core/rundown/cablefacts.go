package rundown

import (
	"errors"
	"fmt"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

var (
	ofCable = scope(lab.KindCable)
	ofRun   = scope(lab.KindRun)
)

// cableFacts are what can be said of a cable after its ends, and of a run.
func cableFacts() []fact {
	return []fact{
		endFact("a", func(c *lab.Cable) **lab.End { return &c.A }),
		endFact("b", func(c *lab.Cable) **lab.End { return &c.B }),
		measure(ofCable, "length", "length_m", text.Metres, []string{"long", "length"}, "0.25m", "", func(c *lab.Cable) **float64 {
			return &c.LengthM
		}).barely(isIn(text.Metres)),
		colour(ofCable, func(c *lab.Cable) *lab.Colour { return &c.Colour }),
		cableKind(),
		choice(ofCable, "way", "way", func(c *lab.Cable) *lab.Way { return &c.Way }, []option[lab.Way]{
			{lab.OverFaces, "via over", []string{"over", "via the faces", "straight over"}},
			{lab.LeftSide, "via left", []string{"left", "via the left"}},
			{lab.RightSide, "via right", []string{"right", "via the right"}},
			{lab.RoundBack, "via back", []string{"back", "via the back", "round the back"}},
			{lab.ByBrush, "via brush", []string{"brush", "via the brush"}},
		}).optional(),
		reference(ofCable, lab.KindRun, "run", "run_id", []string{"via", "run"}, func(c *lab.Cable) *lab.ID { return &c.Run }).optional(),
		written(ofCable, "label", "label", []string{"label"}, `label "PP1.03"`, func(c *lab.Cable) *string {
			return &c.Label
		}, text.Quote).optional(),
		carries().optional(),
		choice(ofCable, "state", "state", func(c *lab.Cable) *lab.CableState { return &c.State }, []option[lab.CableState]{
			{lab.CableInUse, "", []string{"in use"}},
			{lab.CableSpare, "spare", nil},
			{lab.CableFaulty, "faulty", []string{"broken", "dead"}},
		}),
		remarks(ofCable, func(c *lab.Cable) *[]string { return &c.Remarks }),
		note(ofCable, func(c *lab.Cable) *string { return &c.Notes }),

		measure(ofRun, "length", "length_m", text.Metres, []string{"long", "length"}, "18m", "", func(r *lab.Run) **float64 {
			return &r.LengthM
		}).barely(func(q text.Quantity) bool { return isIn(text.Metres)(q) && q.Unit != "mm" }),
		measure(ofRun, "inside diameter", "inside_mm", text.Length, []string{"inside", "conduit", "duct", "pipe"}, "inside 25mm",
			"inside %s", func(r *lab.Run) **float64 {
				return &r.InsideMM
			}).barely(func(q text.Quantity) bool { return q.Unit == "mm" }), // no way through a house is that short
		reference(ofRun, lab.KindPlace, "place it starts in", "from_place_id", []string{"from"}, func(r *lab.Run) *lab.ID { return &r.From }),
		reference(ofRun, lab.KindPlace, "place it leads to", "to_place_id", []string{"to"}, func(r *lab.Run) *lab.ID { return &r.To }),
		remarks(ofRun, func(r *lab.Run) *[]string { return &r.Remarks }),
		note(ofRun, func(r *lab.Run) *string { return &r.Notes }),

		legend(),
		measure(scope(lab.KindLab), "slack of leads", "slack_mm", text.Length, []string{"slack"}, "slack 100mm", "slack %s",
			func(s *lab.Settings) **float64 {
				return &s.SlackMM
			}).usually("100mm"),
		written(scope(lab.KindLab), "label pattern", "label_pattern", []string{"labels"}, `labels "{panel}.{port:02}"`,
			func(s *lab.Settings) *string {
				return &s.Pattern
			}, text.Quote).usually("{panel}.{port:02}"),

		portMarks(),
	}
}

func cableKind() fact {
	spoken := map[lab.CableKind][]string{lab.Cat5e: {"cat 5e"}, lab.Cat6: {"cat 6"}, lab.Cat6A: {"cat 6a"},
		"single-mode": {"os2", "singlemode"}, lab.Wireless: {"wifi", "radio"},
		"rg6": {"coax"}, "uk": {"uk plug"}, "nema": {"nema plug"}, "type-f": {"schuko", "schuko plug"}}
	var options []option[lab.CableKind]
	for _, k := range lab.CableKinds() {
		options = append(options, option[lab.CableKind]{k, lab.ConnectorWords(string(k)), spoken[k]})
	}
	f := choice(ofCable, "kind", "cable_kind", func(c *lab.Cable) *lab.CableKind { return &c.Kind }, options)
	f.example, f.file = "cat6", "kind"
	return f
}

// colour is a word by itself, such as yellow, or a quoted "#3a6ea5".
func colour[R any](of scope, colourOf func(*R) *lab.Colour) fact {
	at := func(b box) *lab.Colour { return colourOf(b.(*R)) }
	show := func(_ *lab.Lab, b box) string { return string(*at(b)) }
	f := fact{of: of, name: "colour", field: "colour", words: []string{"colour", "color"}, example: "yellow", typedWhole: true,
		show: show,
		matches: func(tokens []text.Token) bool {
			_, ok := lab.ReadColour(tokens[0].Text)
			return len(tokens) == 1 && ok
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			c, ok := lab.ReadColour(strings.TrimSpace(text.Joined(tokens)))
			if !ok {
				return nil, noColour(text.Joined(tokens))
			}
			return c, nil
		},
		set: func(b box, v any) { c, _ := v.(lab.Colour); *at(b) = c },
		write: func(_ *lab.Lab, b box) string {
			c := string(*at(b))
			if strings.HasPrefix(c, "#") {
				return text.Quote(c)
			}
			return c
		}}
	for _, c := range lab.ColourNames() {
		f.choices = append(f.choices, string(c))
	}
	return f
}

func noColour(said string) error {
	return fmt.Errorf("“%s” is not a colour known here; write one such as yellow, blue or grey, or one such as \"#3a6ea5\"", text.Short(said))
}

// carries is what a wireless link carries: 300M.
func carries() fact {
	return fact{of: ofCable, name: "speed", field: "speed_mb", words: []string{"carries", "speed"}, example: "carries 300M",
		// A capital M is for mega, and metres have a small one.
		matches: func(tokens []text.Token) bool { return len(tokens) == 1 && isSpeed(tokens) },
		read:    readOneSpeed,
		set:     func(b box, v any) { n, _ := v.(*int); b.(*lab.Cable).SpeedMb = n },
		show: func(_ *lab.Lab, b box) string {
			if n := b.(*lab.Cable).SpeedMb; n != nil {
				return SpeedText(*n)
			}
			return ""
		},
		pattern: "carries %s"}
}

// readOneSpeed reads a speed in Mbit/s: 300M, 1G.
func readOneSpeed(tokens []text.Token, _ bool) (any, error) {
	if text.IsUnknown(tokens) {
		return nil, nil
	}
	said := text.Plainly(tokens)
	if m := speedWord.FindStringSubmatch(said); m != nil {
		said = m[1]
	}
	if !oneSpeed.MatchString(said) {
		return nil, fmt.Errorf("“%s” is not a speed; write one such as 300M or 1G", text.Short(said))
	}
	list, err := readSpeeds(said)
	if err != nil {
		return nil, err
	}
	return &list[0], nil
}

// legend is what colours mean here: yellow means "to the panel".
func legend() fact {
	at := func(b box) *[]lab.Meaning { return &b.(*lab.Settings).Legend }
	write := func(_ *lab.Lab, b box) string {
		var said []string
		for _, m := range *at(b) {
			c := string(m.Colour)
			if strings.HasPrefix(c, "#") {
				c = text.Quote(c)
			}
			said = append(said, c+" means "+text.Quote(m.Means))
		}
		return strings.Join(said, ", ")
	}
	return fact{of: scope(lab.KindLab), name: "what colours mean", field: "legend", example: `yellow means "to the panel"`, many: true,
		show: write, write: write,
		matches: func(tokens []text.Token) bool { return len(tokens) > 2 && tokens[1].Is("means") },
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list []lab.Meaning
			for phrase := range text.Cut(tokens) {
				if len(phrase) < 3 || !phrase[1].Is("means") {
					return nil, errors.New(`write what a colour means, such as yellow means "to the panel"`)
				}
				c, ok := lab.ReadColour(phrase[0].Text)
				if !ok {
					return nil, noColour(phrase[0].Text)
				}
				list = append(list, lab.Meaning{Colour: c, Means: text.Joined(phrase[2:])})
			}
			return list, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]lab.Meaning)
			*at(b) = more(*at(b), list)
		}}
}

// more appends some; nil starts over.
func more[T any](list, with []T) []T {
	if with == nil {
		return nil
	}
	return append(list[:len(list):len(list)], with...)
}
