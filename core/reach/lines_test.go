package reach_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/reach"
	"levelstaff/core/rundown"
)

// built is the house with what further lines say.
func built(t *testing.T, more string) *lab.Lab {
	t.Helper()
	p := rundown.Load(labtest.From(t, house), rundown.Parse(more), rundown.Options{NewID: labtest.IDs("z")})
	require.Empty(t, p.Mistakes)
	return p.Lab
}

func TestWhatIsSaidOfALineThatIsOut(t *testing.T) {
	for _, c := range []struct{ name, more, line, want string }{
		{"the other carries", "", "fibre line", "Without fibre line everybody shares mobile line, 60 Mb/s down."},
		{"the one that waits", "", "mobile line", "Without mobile line everybody shares fibre line, 900 Mb/s down."},
		{"none is left", "line \"mobile line\": out", "fibre line", "Without fibre line nothing gets outside."},
		{"its speed is unknown", "line \"mobile line\": down ?", "fibre line", "Without fibre line everybody shares mobile line, of unknown speed."},
		{"two at once", "line \"second\": 600M down, into gate/3, with \"fibre line\"", "mobile line",
			"Without mobile line everybody shares fibre line and second, 1500 Mb/s down."},
		{"a cap below holds", "from guests to internet: some, down 30M", "fibre line",
			"Without fibre line everybody shares mobile line, 60 Mb/s down; guests at most 30."},
		{"a cap above says nothing", "from guests to internet: some, down 300M", "fibre line",
			"Without fibre line everybody shares mobile line, 60 Mb/s down."},
		{"bound to it", "from dome to internet: all, by \"fibre line\" only", "fibre line",
			"Without fibre line everybody shares mobile line, 60 Mb/s down; dome may take fibre line only, and gets nothing."},
		{"bound to the other", "from dome to internet: all, by \"fibre line\" only", "mobile line",
			"Without mobile line everybody shares fibre line, 900 Mb/s down."},
		{"none for them anyway", "from guests to internet: none\nfrom eyes to internet: none", "fibre line",
			"Without fibre line everybody shares mobile line, 60 Mb/s down."},
		{"one elsewhere does not help", "line \"mobile line\": out\nline \"parents' line\": 100M down, at \"Parents' house\"", "fibre line",
			"Without fibre line nothing gets outside."},
	} {
		t.Run(c.name, func(t *testing.T) {
			l := built(t, c.more)
			r := reach.Of(l)
			for _, w := range r.Lines() {
				if w.Name == c.line {
					assert.Equal(t, c.want, r.WithoutWords(w))
				}
			}
		})
	}
}

func TestOfLinesWithoutAnOrderItIsNotSaidWhichCarries(t *testing.T) {
	r := reach.Of(labtest.From(t, "line a: 100M down\nline b: 50M down\nline c: 20M down"))
	for _, w := range r.Lines() {
		assert.Equal(t, "Without "+w.Name+" it is not said which of the others carries.", r.WithoutWords(w))
	}
	r = reach.Of(labtest.From(t, "line a: 100M down\nline b: 50M down"))
	assert.Equal(t, "Without a everybody shares b, 50 Mb/s down.", r.WithoutWords(r.Lines()[0]), "only one is left")
}

func TestWhatIsBehindATunnel(t *testing.T) {
	const tunnel = "tunnel \"parents\": gate to \"Parents' house\", joins 10.20.0.0/24 and 10.77.0.0/24\nsubnet 10.77.0.0/24\n"
	for _, c := range []struct{ name, more, cell, want string }{
		{"from here", tunnel, "servers to 10.77.0.0/24", "not_said true: over gate and its tunnel"},
		{"from there", tunnel, "10.77.0.0/24 to servers", "not_said true: over gate and its tunnel"},
		{"what it does not join", tunnel, "dome to 10.77.0.0/24", "not_said false: gate has no leg in dome (50)"},
		{"nor from there", tunnel, "10.77.0.0/24 to dome", "not_said false: gate has no leg in dome (50)"},
		{"where it goes outside", tunnel, "10.77.0.0/24 to internet", "not_said false: it is behind the tunnel parents, and goes outside there"},
		{"by its name", tunnel + "from servers to tunnel parents: all", "servers to parents", "all true: over gate"},
		{"by its name, from there", tunnel + "from tunnel parents to servers: all", "parents to servers", "all true: over gate"},
		{"by its name, what it does not join", tunnel + "from guests to tunnel parents: all", "guests to parents", "all false: parents joins no subnet of it"},
		{"which ends in what is no gateway", "tunnel \"odd\": anvil to elsewhere, joins 10.20.0.0/24\nfrom servers to tunnel odd: all", "servers to odd",
			"all false: odd ends in anvil, which is not the gateway of 10.20.0.0/24"},
		{"which joins nobody knows what", "tunnel \"odd\": gate to elsewhere\nfrom servers to tunnel odd: all", "servers to odd", "all true: over gate"},
		{"between two of them", tunnel + "tunnel \"odd\": gate to elsewhere\nfrom tunnel parents to tunnel odd: all", "parents to odd",
			"all false: that is between other sites, and none of this house"},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.want, cellsOf(t, c.more)[c.cell])
		})
	}
}

// What is said of a device is before what is said of the networks that it is in.
func TestWhatADeviceReaches(t *testing.T) {
	l := built(t, `from servers to internet: all
from servers to guests: none
from guests to servers: some "pictures"
from anvil to guests: all
from house to anvil: none
from eyes to house: all
`)
	say := func(cells []reach.Cell) []string {
		var list []string
		for _, c := range cells {
			list = append(list, l.EndpointWords(c.From)+" to "+l.EndpointWords(c.To)+" "+string(c.Said))
		}
		return list
	}
	of := func(name string) reach.OfDevice {
		id, ok := rundown.DeviceNamed(l)(name)
		require.True(t, ok)
		d, _ := lab.Find[lab.Device](l, id)
		return reach.Of(l).OfDevice(d)
	}
	anvil := of("anvil")
	assert.Equal(t, []string{"anvil to guests all", "servers to internet all"}, say(anvil.Out), "its own word before that of its network")
	assert.Equal(t, []string{"house to anvil none", "guests to servers some"}, say(anvil.In))
	finch := of("finch")
	assert.Equal(t, []string{"house to anvil none"}, say(finch.Out))
	assert.Equal(t, []string{"eyes to house all"}, say(finch.In))
	silo := of("silo")
	assert.Empty(t, silo.Out, "it has no address, and no cable")
	assert.Empty(t, silo.In)
}

// A remote access is a row and no column: there is no way to it.
func TestARemoteAccessIsNoDestination(t *testing.T) {
	rows, columns := map[string]bool{}, map[string]bool{}
	l := built(t, "remote access \"phones\": into gate, reaches servers\n")
	for _, c := range reach.Of(l).Table() {
		rows[l.EndpointWords(c.From)], columns[l.EndpointWords(c.To)] = true, true
	}
	assert.True(t, rows["phones"])
	assert.False(t, columns["phones"])
	l = built(t, "remote access \"phones\": into gate\nfrom servers to phones: none\n")
	said := 0
	for _, c := range reach.Of(l).Table() {
		if l.EndpointWords(c.To) == "phones" {
			said++
		}
	}
	assert.Equal(t, 1, said, "but for what a rule says")
}

// A line that is used when others fail comes after all that have a place, and lines used
// together share one.
func TestTheOrderOfLines(t *testing.T) {
	for text, want := range map[string]string{
		"line a: 1M down, if it fails\nline b: 1M down, first":                          "b1 a2",
		"line a: 1M down, first\nline b: 1M down, third\nline c: 1M down, second":       "a1 c2 b3",
		"line a: 1M down, first\nline b: 1M down, with a\nline c: 1M down, if it fails": "a1 b1 c2",
		"line a: 1M down, if it fails\nline b: 1M down, with a\nline c: 1M down, first": "c1 a2 b2",
		"line a: 1M down, if it fails\nline b: 1M down, if it fails":                    "a2 b2",
		"line a: 1M down":                  "a1",
		"line a: 1M down\nline b: 1M down": "a0 b0",
		"line a: 1M down, first\nline b: 1M down, second, at \"the mill\"":                   "a1",
		"line a: 1M down, out, first\nline b: 1M down, second\nline c: 1M down, if it fails": "a1 b2 c3",
	} {
		l := labtest.From(t, text)
		r := reach.Of(l)
		var say []string
		for _, w := range r.Lines() {
			say = append(say, fmt.Sprint(w.Name, r.Order(w)))
		}
		assert.Equal(t, want, strings.Join(say, " "), text)
	}
}

func TestWhetherAnythingOutsideCanBegin(t *testing.T) {
	for text, want := range map[string]string{
		"":                                "false there is no line outside",
		"line a: 1M down, shared address": "false the address of a is shared by the provider, so nothing outside can begin; a tunnel has to begin from inside",
		"line a: 1M down, shared address\nline b: 1M down, public address, at \"the mill\"": "false the address of a is shared by the provider, " +
			"so nothing outside can begin; begin from inside: b at the mill has an address of its own",
		"line a: 1M down, shared address\nline b: 1M down, public address":      "true ",
		"line a: 1M down, shared address\nline b: 1M down, public address, out": "false the address of a is shared by the provider, so nothing outside can begin; a tunnel has to begin from inside",
		"line a: 1M down": "true ", // of which it is not said is not held against it
	} {
		ok, why := reach.Of(labtest.From(t, text)).ComesIn()
		assert.Equal(t, want, fmt.Sprint(ok, " ", why), text)
	}
}
