package cabling_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

// byWords finds a cable by its label, or by where it goes from and to.
func byWords(t *testing.T, l *lab.Lab, words string) lab.Cable {
	t.Helper()
	for c := range lab.Each[lab.Cable](l) {
		if l.CableWords(c) == words {
			return c
		}
	}
	t.Fatalf("no cable %s", words)
	return lab.Cable{}
}

func TestPortsAsTheyAreDrawn(t *testing.T) {
	l := labtest.From(t, strings.Replace(house, "24 ports rj45 1G\n", "24 ports rj45 1G, port 2 \"porch\" note \"stiff\"\n", 1)+
		"core/1 - PP1/1 yellow, label \"A\"\nPP1/1 = plate/1 cat6\nPP1/2 = ?\n")
	w := cabling.Of(l)
	jacks := w.Jacks(at(t, l, "PP1", "1").Device)
	require.Len(t, jacks, 48, "the panel's 24 fronts and rears")
	front, back, open := jacks[0], jacks[1], jacks[3]
	assert.Equal(t, cabling.Jack{Port: "1", Face: lab.Front, Connector: "rj45", Family: lab.Copper, Cable: byWords(t, l, "A").ID,
		Hex: "#dba53a", Trail: byWords(t, l, "A").ID, To: "core/1"}, front)
	assert.True(t, back.Rear)
	assert.Equal(t, lab.Rear, back.Face)
	assert.Equal(t, "plate/1 rear", back.To)
	assert.Equal(t, front.Trail, back.Trail, "one trail goes through")
	assert.Equal(t, []any{"porch", "stiff", "", true}, []any{open.Name, open.Note, open.To, open.Cable != ""}, "where it goes is unknown")

	sw := w.Jacks(at(t, l, "core", "1").Device)
	assert.Equal(t, []any{"s1", 1, 0}, []any{sw[24].Port, sw[24].Group, sw[24].Index}, "each group is counted from 0")
	assert.Equal(t, []any{"in1", lab.Inlet, lab.Rear}, []any{sw[28].Port, sw[28].Family, sw[28].Face})
	assert.Empty(t, w.Jacks("nobody"))
}

func TestLeadsAsTheElevationDrawsThem(t *testing.T) {
	l := labtest.From(
		t, house+"core/1 - PP1/1 yellow via left\ncore/2 - ap/1\nsilo/1 - fast/1 \"#112233\"\nPP1/1 = plate/1\ncore/3 - core/4\n")
	w := cabling.Of(l)
	var rack lab.Rack
	for rack = range lab.Each[lab.Rack](l) {
		break
	}
	var said []string
	for _, s := range w.DrawnIn(w.DevicesIn(rack.ID)).Strips {
		said = append(said, fmt.Sprintf("%s %s %s %s", l.EndWords(s.A), l.EndWords(s.B), s.Hex, s.Way))
		assert.NotEmpty(t, s.Trail)
	}
	assert.Equal(t, []string{"PP1/1 core/1 #dba53a left", "core/3 core/4  ", "silo/1 fast/1 #112233 "}, said,
		"what leaves the rack is not among them")
}

// Every port and lead of one trail goes by one name, so that it lights up
// wherever it is drawn; also where the trail is a circle.
func TestOneTrailHasOneName(t *testing.T) {
	l := labtest.From(t, house+"core/1 - PP1/1\nPP1/1 = PP1/5\nPP1/5 - silo/1\nPP1/8 - PP1/9\nPP1/8 = PP1/9\nPP1/10 = ?\n")
	w := cabling.Of(l)
	names := map[lab.ID][]string{}
	for d := range lab.Each[lab.Device](l) {
		for _, j := range w.Jacks(d.ID) {
			if j.Trail != "" {
				e := lab.End{Device: d.ID, Port: j.Port, Rear: j.Rear}
				names[j.Trail] = append(names[j.Trail], l.EndWords(e))
			}
		}
	}
	var said []string
	for _, ports := range names {
		said = append(said, strings.Join(ports, " "))
	}
	assert.ElementsMatch(t, []string{
		"PP1/1 PP1/1 rear PP1/5 PP1/5 rear core/1 silo/1",
		"PP1/8 PP1/8 rear PP1/9 PP1/9 rear",
		"PP1/10 PP1/10 rear",
	}, said)
}

func TestWhatACableMeansIsHeldAgainstTheLegend(t *testing.T) {
	l := labtest.From(t, house+`nas "box": 2 ports rj45
camera "eye": 1 ports rj45
console server "lines": 2 ports serial
server "bolt": 1 ports rj45 called "mgmt", 1 ports rs232
core/1 - PP1/1 label "panel"
PP1/1 = plate/1
plate/1 - eye/1 label "camera"
core/2 - box/1 label "storage"
core/3 - bolt/mgmt label "oob"
lines/serial1 - bolt/serial1 label "line"
core/in1 - ? c13, label "power"
core/s1 - anvil/s1 om3, label "light"
core/4 - silo/1 label "server"
core/5 - ap/1 label "air"
`)
	for meaning, fits := range map[string]string{
		"to the panel":      "panel, camera",
		"Cameras":           "panel, camera",
		"storage, NAS":      "storage",
		"access points":     "air",
		"servers":           "server, light, oob, line",
		"management":        "oob, line",
		"everything mauve":  "-",
		"fibre":             "-",
		"power":             "-",
		"to the loft":       "panel, camera, air, storage, oob, line",
		"anvil's, 10G":      "light",
		"10G to anvil":      "light",
		"feed from silo":    "server",
		"the guest network": "-",
	} {
		is := cabling.Meant(l, meaning)
		if fits == "-" {
			assert.Nil(t, is, "%s is nothing that can be checked", meaning)
			continue
		}
		require.NotNil(t, is, meaning)
		var said []string
		for c := range lab.Each[lab.Cable](l) {
			if c.Label != "" && is(c) {
				said = append(said, c.Label)
			}
		}
		assert.ElementsMatch(t, strings.Split(fits, ", "), said, meaning)
	}
}

func TestWhyAReplacedDeviceLeavesACableOpen(t *testing.T) {
	l := labtest.From(t, house+`? patch panel "PP9": 4 ports rj45
? wall plate "no ports"
core/3 - PP1/3
PP1/3 = plate/1
PP1/9 - core/9
`)
	device := func(name string) lab.Device {
		d, ok := lab.Find[lab.Device](l, at(t, l, name, "1").Device)
		require.True(t, ok)
		return d
	}
	why := func(by string) []string {
		_, carried := cabling.Replace(l, device("PP1"), device(by))
		var said []string
		for _, c := range carried {
			said = append(said, c.From+" "+c.To+c.Why)
		}
		return said
	}
	assert.Equal(t, []string{"3 3", "3 3", "9 PP9 has no port 9"}, why("PP9"), "front and rear")
	assert.Equal(t, []string{"3 3", "3 fast has no rear to plug into", "9 fast has no port 9"}, why("fast"))
	assert.Equal(t, []string{"3 3", "3 3", "9 9"}, why("no ports"), "of whose ports nobody knows anything")
}

// after is what follows the first of a mark.
func after(s, mark string) string {
	_, rest, _ := strings.Cut(s, mark)
	return rest
}

func TestWhichTransceiverWouldFixIt(t *testing.T) {
	for line, say := range map[string]string{
		"core/s1 - silo/1 1m cat6":          "Cat 6 does not fit core/s1, an SFP+ cage; a transceiver with an RJ45 socket would fit",
		"core/s1 - anvil/s1 2m om3":         "OM3 fibre does not fit core/s1, an SFP+ cage; a multimode transceiver with an LC socket would fit",
		"core/s1 - anvil/s1 2m dac":         "",
		"core/1 - silo/1 1m om4":            "OM4 fibre does not fit core/1, an RJ45",
		"core/1 - silo/1 1m":                "",
		"odd/e1 - core/1 1m cat6":           "",
		"core/s1 - anvil/s1 2m single-mode": "single-mode fibre does not fit core/s1, an SFP+ cage; a single-mode transceiver with an LC socket would fit",
	} {
		l := labtest.From(t, house+"hub \"odd\": 1 ports \"e\"\n"+line+"\n")
		for c := range cabling.Of(l).Plugged {
			said, _ := c.Trouble()
			assert.True(t, strings.HasPrefix(after(said, ": "), say) && (say != "" || said == ""), "%s: %s", line, said)
		}
	}
}

// Each lead that lies across is named, and the one change that frees most is
// told.
func TestWhatLiesAcrossAndWhatWouldHelpMost(t *testing.T) {
	l := labtest.From(t, `rack "R": 9U, 800mm deep
9 patch panel "P": 8 ports rj45
8 server "a": 1 ports rj45 front
7 server "b": 1 ports rj45
6 switch "s": 8 ports rj45
5 shelf "board"
on "board" hub "h": 1 ports rj45
P/1 - s/1 via over
P/2 - s/2 via over
P/3 - s/3 via right
h/1 - a/1 via over
`)
	w := cabling.Of(l)
	sheet, ok := w.PullSheetOf(at(t, l, "b", "1").Device)
	require.True(t, ok)
	var across []string
	for _, x := range sheet.Across {
		across = append(across, fmt.Sprint(x.Words, " ", x.Sure))
	}
	assert.ElementsMatch(t, []string{"P/1 - s/1 true", "P/2 - s/2 true", "h/1 - a/1 true"}, across)
	var rack lab.Rack
	for rack = range lab.Each[lab.Rack](l) {
		break
	}
	ease := w.EaseOf(rack)
	assert.Equal(t, 5, ease.Devices)
	var alone []string
	for _, id := range ease.Alone {
		d, _ := lab.Find[lab.Device](l, id)
		alone = append(alone, d.Title())
	}
	assert.ElementsMatch(t, []string{"P", "board"}, alone, "a shelf stays where it is; a, b and s have leads across")
	assert.Equal(t, "With P next to s, or 2 leads between them moved to the side, 1 more device comes out alone", ease.Advice)
	_, ok = w.PullSheetOf("nobody")
	assert.False(t, ok)
}

func TestASweepGoesThroughCablesOnceAndMayEndEarly(t *testing.T) {
	l := labtest.From(t, house+"core/1 - PP1/1 yellow, label \"A\"\nspare lead 1m blue cat6\n")
	w := cabling.Of(l)
	plugged, all := 0, 0
	for range w.Plugged {
		plugged++
	}
	for range w.Leads {
		all++
	}
	assert.Equal(t, []int{1, 2}, []int{plugged, all})
	for c := range w.Leads {
		assert.Equal(t, "A", c.Label, "the oldest comes first")
		break
	}
}
