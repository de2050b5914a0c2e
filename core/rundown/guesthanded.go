package rundown

import (
	"errors"
	"fmt"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// handedSaid is what of its host a guest has, as it is said.
type handedSaid lab.Handed

func (handedSaid) late() {}

// in finds the card, the radio or whatever else goes by the words: a part of the host,
// or a device.
func (h handedSaid) in(s setting) (any, error) {
	if h.Words == "" {
		return []lab.Handed{lab.Handed(h)}, nil
	}
	d, _ := s.of.(lab.Device)
	host, _ := s.lab.HostOf(d)
	words := lab.FoldName(h.Words)
	var found []lab.Part
	for _, p := range s.lab.PartsOf(host.ID) {
		if p.Kind == lab.Card && strings.Contains(" "+lab.FoldName(p.Title()+" "+p.Model)+" ", " "+words+" ") {
			found = append(found, p)
		}
	}
	switch {
	case len(found) == 1 && found[0].Seat > 0:
		return []lab.Handed{{Slot: found[0].Seat}}, nil
	case len(found) == 1:
		return []lab.Handed{{Part: found[0].ID}}, nil
	}
	if id, err := s.named(lab.KindDevice, h.Words); err == nil {
		return []lab.Handed{{Device: id}}, nil
	}
	return []lab.Handed{lab.Handed(h)}, nil
}

// handedFact is what of its host a guest has for itself: has slot 3, has port 2, has
// "radio stick".
func handedFact() fact {
	at := func(b box) *[]lab.Handed { return &b.(*lab.Device).Handed }
	show := func(word string) func(*lab.Lab, box) string {
		return func(l *lab.Lab, b box) string {
			var said []string
			for _, h := range *at(b) {
				said = append(said, word+HandedText(l, h))
			}
			return strings.Join(said, ", ")
		}
	}
	return fact{of: ofGuest, name: "has of its host", field: "handed_through", words: []string{"has", "has the", "with the", "handed",
		"gets", "given the"},
		example: "has slot 3", many: true, adds: true, maybe: true, group: Within, show: show(""), write: show("has "),
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			if len(tokens) > 1 && (tokens[0].Is("the") || tokens[0].Is("a") || tokens[0].Is("usb")) && tokens[1].Kind == text.Quoted {
				tokens = tokens[1:]
			}
			if len(tokens) > 0 && tokens[0].Is("the") {
				tokens = tokens[1:]
			}
			if len(tokens) > 2 && text.Plainly(tokens[:2]) == "card in" {
				tokens = tokens[2:]
			}
			if len(tokens) == 2 && tokens[0].Is("card") && tokens[1].Kind == text.Quoted {
				tokens = tokens[1:]
			}
			if len(tokens) == 0 {
				return nil, errors.New(`say what of its host it has, such as has slot 3 or has "radio stick"`)
			}
			said := text.Joined(tokens)
			if len(tokens) == 2 && (tokens[0].Is("slot") || tokens[0].Is("port")) {
				if tokens[0].Is("port") {
					_, port, _ := strings.Cut("/"+tokens[1].Text, "/")
					if _, key, of := strings.Cut(port, "/"); of {
						port = key
					}
					return handedSaid{Port: port}, nil
				}
				n, err := strconv.Atoi(tokens[1].Text)
				if err != nil || n < 1 {
					return nil, fmt.Errorf("“%s” is not the number of a slot; write one such as has slot 3", text.Short(tokens[1].Text))
				}
				return handedSaid{Slot: n}, nil
			}
			return handedSaid{Words: strings.TrimSpace(said)}, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]lab.Handed)
			addEach(at(b), v, func(was, is lab.Handed) (lab.Handed, bool) { return is, was == is })
			if list == nil {
				*at(b) = nil
			}
		}}
}

// HandedText is what of its host a guest has as a line says it: slot 3.
func HandedText(l *lab.Lab, h lab.Handed) string {
	switch {
	case h.Slot > 0:
		return "slot " + strconv.Itoa(h.Slot)
	case h.Port != "":
		return "port " + h.Port
	case h.Device != "":
		return text.Quote(refsOf(l).numbered(h.Device))
	case h.Part != "":
		p, _ := lab.Find[lab.Part](l, h.Part)
		return text.Quote(p.Title())
	}
	return text.Quote(h.Words)
}
