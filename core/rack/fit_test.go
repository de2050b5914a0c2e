package rack_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rack"
)

// The sums are those of domain.md, Space, done by hand: a 19-inch rack opens
// 450 mm, a ten-inch one 222 mm; 75 mm stay free behind power leads, 50 mm
// behind other cables.
func TestWhetherAThingFits(t *testing.T) {
	for name, c := range map[string]struct {
		rack, thing string
		want        map[string]string // about: outcome, and what is to spare
	}{
		"447 mm on 9 mm rails is 465 mm in 450": {`rack "R": 24U, 19in, 800mm deep`, `server "x": 447mm wide, 710mm deep, on rails, rail thickness 9mm, rails from 600mm, rails to 850mm`,
			map[string]string{"width": "no -15", "depth": "fits 15", "rails": "fits 50"}},
		"by its ears it goes in":                {`rack "R": 24U, 19in, 800mm deep`, `server "x": 447mm wide, 710mm deep, by its ears`, map[string]string{"width": "fits 3", "depth": "fits 15"}},
		"no power leads behind a switch":        {`rack "R": 24U, 19in, 300mm deep`, `switch "x": 440mm wide, 251mm deep`, map[string]string{"width": "fits 10", "depth": "no -1"}},
		"a 19-inch thing in a ten-inch rack":    {`rack "R": 6U, 10in, 300mm deep`, `switch "x": 440mm wide, 230mm deep`, map[string]string{"width": "no -218", "depth": "fits 20"}},
		"a measure nobody knows":                {`rack "R": 24U, 19in, 800mm deep`, `server "x": 2U high`, map[string]string{"width": "unchecked", "depth": "unchecked"}},
		"rails of unknown thickness":            {`rack "R": 24U, 19in`, `server "x": 440mm wide, on rails`, map[string]string{"width": "unchecked", "depth": "unchecked", "rails": "unchecked"}},
		"too wide whatever its rails":           {`rack "R": 24U, 19in`, `server "x": 451mm wide, on rails`, map[string]string{"width": "no -1", "depth": "unchecked", "rails": "unchecked"}},
		"rails that do not reach the rear post": {`rack "R": 24U, 19in, 900mm deep`, `server "x": 430mm wide, 700mm deep, on rails, rail thickness 10mm, rails from 600mm, rails to 850mm`, map[string]string{"width": "fits 0", "depth": "fits 125", "rails": "no -50"}},
		"a door that does not shut":             {`rack "R": 24U, 19in, 900mm deep, door 30mm`, `switch "x": 440mm wide, 200mm deep, sticks out 35mm`, map[string]string{"width": "fits 10", "depth": "fits 650", "door": "no -5"}},
		"its own measures":                      {`rack "R": 4U, own measures, opening 500mm, 700mm deep`, `other "x": 480mm wide, 600mm deep`, map[string]string{"width": "fits 20", "depth": "fits 50"}},
		"it weighs what is left":                {`rack "R": 24U, 19in, 800mm deep, holds 30kg`, `ups "x": 440mm wide, 500mm deep, 31kg`, map[string]string{"width": "fits 10", "depth": "fits 225", "weight": "no"}},
	} {
		l := labtest.From(t, c.rack+"\n1 "+c.thing)
		checks, ok := rack.FitOf(l, device(t, l, "x"))
		require.True(t, ok)
		got := map[string]string{}
		for _, c := range checks {
			got[c.About] = string(c.Outcome)
			if c.SpareMM != nil {
				got[c.About] += fmt.Sprintf(" %v", *c.SpareMM)
			}
		}
		assert.Equal(t, c.want, got, name)
	}
}

// 320 + 190 + 50 = 560 mm of 450: what is behind it is in the way.
func TestFrontAndRearShareTheDepth(t *testing.T) {
	l := labtest.From(t, `rack "R": 9U, 19in, 450mm deep
8 switch "front": 440mm wide, 320mm deep
8 rear pdu "rear": 190mm deep, 440mm wide
7 rear left half pdu "half": 190mm deep
7 right half switch "beside": 210mm wide, 320mm deep`)
	checks, _ := rack.FitOf(l, device(t, l, "front"))
	behind := checks[len(checks)-1]
	assert.Equal(t, "behind", behind.About)
	assert.Equal(t, rack.NoFit, behind.Outcome)
	assert.Equal(t, -110.0, *behind.SpareMM)
	checks, _ = rack.FitOf(l, device(t, l, "beside"))
	assert.Equal(t, "behind", checks[len(checks)-1].About, "the rear's left half is behind the front's right half")
}

func TestWhereAThingWouldFit(t *testing.T) {
	l := labtest.From(t, `rack "Deep": 4U, 19in, 900mm deep
4 switch "a"
3 drawer "b"
2 blanking panel
1 server "c", running: 700mm deep
rack "Shallow": 4U, 19in, 450mm deep
rack "Unknown": 2U
rack "Front": 3U, 19in, 800mm deep
1-3 rear power strip "d": 100mm deep`)
	wide, deep := 440.0, 700.0
	thing := rack.Thing{Title: "it", Kind: lab.Server, Spec: lab.Spec{WidthMM: &wide, DepthMM: &deep}}
	places := rack.Where(l, thing, 2, rack.WholePart)
	require.Len(t, places, 4)
	by := map[string]rack.Places{}
	for _, p := range places {
		by[p.Rack] = p
	}
	deepRack := by["Deep"]
	assert.Equal(t, rack.Unchecked, deepRack.Outcome, "its rear is free, and nobody knows how deep a and b are")
	assert.Equal(t, "2-4", deepRack.Spots[0].Range, "behind c, 700 + 700 + 50 mm are too much, and a panel is nothing to meet")
	assert.Equal(t, lab.Rear, deepRack.Spots[0].Face)
	assert.Equal(t, "2-3", deepRack.Clear[0].Range)
	assert.Equal(t, []string{"b", "blanking panel"}, titles(deepRack.Clear[0]), "what runs stays")
	assert.Equal(t, rack.NoFit, by["Shallow"].Outcome)
	assert.Empty(t, by["Shallow"].Spots)
	assert.Equal(t, rack.Unchecked, by["Unknown"].Outcome)
	front := by["Front"]
	assert.Equal(t, rack.NoFit, front.Outcome, "700 + 100 + 50 mm are more than 800")
	assert.Equal(t, []string{"Shallow", "Front"}, []string{places[2].Rack, places[3].Rack}, "what takes it comes first")
}

func titles(c rack.Clear) []string {
	list := append([]string{}, c.Titles...)
	if len(list) > 1 && list[0] > list[1] {
		list[0], list[1] = list[1], list[0]
	}
	return list
}

func TestTheSideShowsDepthsAndTheirRoom(t *testing.T) {
	l := labtest.From(t, `rack "R": 9U, 19in, 450mm deep
8 switch "deep": 401mm deep, sticks out 20mm
7 switch "just": 400mm deep
6 ups "heavy": 380mm deep
5 server "unknown"`)
	got := map[string]string{}
	for r := range lab.Each[lab.Rack](l) {
		for _, a := range rack.SideOf(l, r) {
			d, _ := lab.Find[lab.Device](l, a.Device)
			got[d.Name] = fmt.Sprintf("%s, %v behind", a.Outcome, a.RoomMM)
		}
	}
	// 401 + 50 and 380 + 75 are more than 450 mm; 400 + 50 are just that.
	assert.Equal(t, map[string]string{"deep": "no, 50 behind", "just": "fits, 50 behind", "heavy": "no, 75 behind",
		"unknown": "unchecked, 75 behind"}, got)
}
