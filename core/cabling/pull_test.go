package cabling_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
)

func TestThePullSheetOfAServer(t *testing.T) {
	l := labtest.From(t, strings.Replace(house, "1G/2.5G/10G, 9kg", "1G/2.5G/10G front, 9kg", 1)+`core/1 - silo/1 1m yellow cat6, label "S1"
fast/1 - silo/2 blue cat6
core/2 - anvil/1 via right
PP1/9 - fast/2 via over
PP1/10 - fast/3
core/in1 - silo/in1
`)
	w := cabling.Of(l)
	sheet, ok := w.PullSheetOf(at(t, l, "silo", "1").Device)
	require.True(t, ok)
	var steps []string
	for _, s := range sheet.Steps {
		steps = append(steps, fmt.Sprintf("%s %s %s > %s", s.Face, s.Port, s.Label, s.To))
	}
	assert.Equal(t, []string{"front 1 S1 > core/1", "front 2  > fast/1", "rear in1  > core/in1"}, steps)
	assert.Equal(t, 9.0, *sheet.WeightKG)
	assert.Len(t, sheet.Across, 2, "the two leads from the panel to fast")
	assert.True(t, slices.ContainsFunc(sheet.Across, func(a cabling.InTheWay) bool { return !a.Sure }), "of one nobody said which way it goes")
	assert.False(t, sheet.Alone)
	assert.Equal(t, []cabling.Dark{{Device: at(t, l, "core", "1").Device, Title: "core", Keeps: 1},
		{Device: at(t, l, "fast", "1").Device, Title: "fast", Keeps: 0}}, sortedDark(sheet.Dark))
	r, _ := lab.Find[lab.Rack](l, must(t, l, "R"))
	ease := w.EaseOf(r)
	assert.Equal(t, 5, ease.Devices)
	assert.Len(t, ease.Alone, 2, "the panel and fast; leads lie across core, anvil and silo")
	assert.Equal(t, "With PP1 next to fast, or 2 leads between them moved to the side, 2 more devices come out alone", ease.Advice)
}

// A panel is no end of a link, and still every link through it is lost.
func TestWhatGoesDarkWithoutAPanel(t *testing.T) {
	l := labtest.From(t, house+`core/3 - PP1/3
PP1/3 = plate/1
plate/1 - ap/1
core/4 - PP1/4
PP1/5 = plate/2
core/6 - silo/1
PP1/7 - fast/1
PP1/7 rear - silo/2
far ap/air - ap/air wireless
`)
	sheet, ok := cabling.Of(l).PullSheetOf(at(t, l, "PP1", "1").Device)
	require.True(t, ok)
	said := map[string]int{}
	for _, d := range sheet.Dark {
		said[d.Title] = d.Keeps
	}
	assert.Equal(t, map[string]int{"ap": 1, "core": 1, "fast": 0, "silo": 1}, said)
	assert.Equal(t, "fast", sheet.Dark[0].Title, "what goes dark comes first")
}

func sortedDark(list []cabling.Dark) []cabling.Dark {
	slices.SortFunc(list, func(a, b cabling.Dark) int { return strings.Compare(a.Title, b.Title) })
	return list
}

const powered = `rack "R": 20U
20 switch "core": 8 ports 1G poe+, 2 ports 1G
19 server "anvil": 2 psus, 4kg
18 server "heron"
10 shelf "board": 2kg
  single-board computer "finch": 1 port 1G, 1kg
  hub "lamp": 3 ports usb
9 mini pc "loose": 3kg
8 drawer "leads"
  box "spares box"
5 pdu "bar": 4 outlets c13
3 ups "damp": 4 outlets c13
1 ups "dry": 2 outlets c13
place "Loft"
  access point "ap": class 4
  camera "eye"
damp/1 - bar/in1
bar/1 - anvil/in1
dry/1 - anvil/in2
bar - heron
bar/3 - core
core/1 - ap
core/2 - eye/?
core/9 - finch/1
dry/2 - finch
`

// A shelf comes out with what is on it: its leads, its weight, its links.
func TestThePullSheetOfAShelf(t *testing.T) {
	l := labtest.From(t, powered)
	w := cabling.Of(l)
	sheet := func(name string) cabling.PullSheet {
		d, ok := rundown.DeviceNamed(l)(name)
		require.True(t, ok)
		s, _ := w.PullSheetOf(d)
		return s
	}
	board := sheet("board")
	assert.Equal(t, []string{"finch", "lamp"}, board.With)
	assert.Equal(t, []any{3.0, true}, []any{*board.WeightKG, board.AtLeast}, "2 and 1 kg, and the hub was never weighed")
	var steps []string
	for _, s := range board.Steps {
		steps = append(steps, s.Of+"/"+s.Port+" > "+s.To)
	}
	assert.Equal(t, []string{"finch/1 > core/9", "finch/in1 > dry/out2"}, steps)
	assert.Equal(t, "core", board.Dark[0].Title)
	assert.True(t, board.Alone)

	leads := sheet("leads")
	assert.Equal(t, []string{"loose"}, leads.Carries, "it is loose in the unit above the drawer")
	assert.False(t, leads.Alone)
	r, _ := lab.Find[lab.Rack](l, must(t, l, "R"))
	alone := w.EaseOf(r).Alone
	for d := range lab.Each[lab.Device](l) {
		if d.At != nil && d.At.Where == lab.InUnits {
			s, _ := w.PullSheetOf(d.ID)
			assert.Equal(t, s.Alone, slices.Contains(alone, d.ID), "the two agree on %s", d.Title())
		}
	}
}
