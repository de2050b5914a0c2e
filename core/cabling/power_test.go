package cabling_test

import (
	"fmt"
	"sort"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/cabling"
	"levelstaff/core/labtest"
)

// What gives what its power over which leads, by the ports of both.
func TestWhatFeedsWhat(t *testing.T) {
	const things = `? power strip "bar": 4 outlets uk
? power strip "old"
? ups "keep": 2 outlets c13 battery, 1 outlet c13 filtered
? server "anvil": 2 supply bays, 2 ports usb-a, 1 port rj45 1G
? router "gate": 1 port rj45 1G
? single-board computer "finch": 1 port rj45 1G draws class 2
? usb supply "charger": 2 outlets usb-a
? sensor "damp": 1 port usb-b
? switch "core": 4 ports rj45 1G poe at
? poe injector "needle": 2 ports rj45 1G
? access point "ap": 1 port rj45 1G
? camera "eye": 2 ports rj45 1G
? patch panel "PP": 4 ports rj45
`
	for line, want := range map[string][]string{
		"bar/out1 - anvil/in1":                        {"bar/out1 anvil/in1 lead"},
		"anvil/in1 - bar/out1":                        {"bar/out1 anvil/in1 lead"},
		"bar/? - anvil/in2":                           {"bar/?1 anvil/in2 lead"}, // in one of its outlets
		"old/? - anvil/?":                             {"old/?1 anvil/?1 lead"},
		"old/? - gate/in1":                            {"old/?1 gate/in1 lead"},
		"bar/out1 - anvil/in1 faulty":                 nil,
		"keep/out1 - bar/in1\nkeep/out3 - anvil/in1":  {"keep/out1 bar/in1 lead", "keep/out3 anvil/in1 lead"},
		"charger/out1 - finch/in1":                    {"charger/out1 finch/in1 lead"},
		"anvil/usb1 - damp/usb1":                      {"anvil/usb1 damp/usb1 usb"},
		"anvil/usb1 - finch/in1":                      {"anvil/usb1 finch/in1 usb"},
		"core/1 - ap/1":                               {"core/1 ap/1 poe"},
		"core/1 - PP/1\nPP/1 = ap/1":                  {"core/1 ap/1 poe"},
		"core/1 - gate/1":                             nil, // it has a supply, and says no class
		"core/1 - finch/1":                            {"core/1 finch/1 poe"},
		"core/1 - anvil/1":                            nil,
		"needle/1 - eye/1":                            {"needle/1 eye/1 poe"},
		"needle/1 - eye/1\nneedle/2 - core/1":         {"needle/1 eye/1 poe"},
		"core/1 - eye/1\ncore/2 - eye/2":              {"core/1 eye/1 poe", "core/2 eye/2 poe"},
		"core/1 - ap/1 faulty":                        nil,
		"bar/out1 - anvil/in1\nbar/out2 - anvil/in2":  {"bar/out1 anvil/in1 lead", "bar/out2 anvil/in2 lead"},
		"core port 1 broken\ncore/1 - ap/1":           nil,
		"anvil port in1 broken\nbar/out1 - anvil/in1": nil,
	} {
		t.Run(line, func(t *testing.T) {
			l := labtest.From(t, things+line+"\n")
			w := cabling.Of(l)
			var said []string
			for _, f := range w.Feeds() {
				said = append(said, fmt.Sprintf("%s/%s %s/%s %s", w.DeviceAt(f.From).Title(), f.Out, w.DeviceAt(f.To).Title(), f.In, f.By))
			}
			sort.Strings(said)
			assert.Equal(t, want, said)
		})
	}
}

// What a feed comes from tells whether a battery holds it.
func TestTheOutletOfAFeed(t *testing.T) {
	w := cabling.Of(labtest.From(t, `? ups "keep": 1 outlet c13 battery, 1 outlet c13 filtered
? server "a": 2 supply bays
keep/out1 - a/in1
keep/out2 - a/in2
`))
	var said []string
	for _, f := range w.Feeds() {
		out := w.OutPort(f)
		said = append(said, fmt.Sprintf("%s %v %v %s", out.Key, out.Battery, out.Filtered, w.InPort(f).Key))
	}
	sort.Strings(said)
	assert.Equal(t, []string{"out1 true false in1", "out2 false true in2"}, said)
}
