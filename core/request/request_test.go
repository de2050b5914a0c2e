package request_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/request"
	"levelstaff/core/rundown"
)

// house has a library behind a proxy in servers, and a name server for all but outside.
const house = `rack "R": 24U
24 router "gate": 4 ports rj45 1G
23 switch "core": 24 ports rj45 1G, untagged 10, port 24 tagged 20,30, port 23 tagged 20
22 server "anvil": 4 ports rj45
20 single-board computer "finch": 1 ports rj45
vlan 10 "house"
vlan 20 "servers"
vlan 30 "guests"
wireless "Quarry guests": vlan 30
subnet 10.10.0.0/24 vlan 10, gateway .1, names end in "quarry.home.arpa"
subnet 10.20.0.0/24 vlan 20, gateway .1, names end in "quarry.home.arpa"
subnet 10.30.0.0/24 vlan 30, gateway .1
gate 10.10.0.1
gate 10.20.0.1
gate 10.30.0.1
finch 10.10.0.5
line "fibre line": 900M down, 200M up, fixed address, into gate/1
gate/4 - core/24
core/23 - anvil/1
core/20 - finch/1
on anvil: vm "way in": 2GB, vlan 20 10.20.0.35
on anvil: vm "names 1": 1GB, vlan 20 10.20.0.34
on anvil: vm "names 2": 1GB, vlan 20 10.20.0.36
on anvil: vm "library": 4GB, vlan 20 10.20.0.31
service "choir library": in library, tcp 8080, https
service "gateway page": in way in, tcp 443, https
name servers of vlan 10: names 1, names 2
name servers of vlan 30: names 1
tunnel "front door": from "way in" outwards
library.quarry.home.arpa -> "way in" -> library:8080, sign-in by "keys"
from house to servers: all
from servers to internet: all
remote access "phones": into gate, reaches servers
`

func built(t *testing.T, more string) *lab.Lab {
	t.Helper()
	p := rundown.Load(labtest.From(t, house), rundown.Parse(more), rundown.Options{NewID: labtest.IDs("z")})
	require.Empty(t, p.Mistakes)
	return p.Lab
}

// from finds a place by what it is called.
func from(t *testing.T, l *lab.Lab, title string) request.Place {
	t.Helper()
	q := request.Of(l)
	for _, p := range q.Places() {
		if p.Title == title {
			return p
		}
	}
	id, ok := rundown.DeviceNamed(l)(title)
	require.True(t, ok, title)
	return q.PlaceOf(lab.EndpointOf(lab.Key{Kind: lab.KindDevice, ID: id}))
}

// said is a way in a line: the steps, then why it stops and what lets it through.
func said(t *testing.T, l *lab.Lab, place, asked string) string {
	t.Helper()
	to, ok := request.Of(l).Target(asked)
	require.True(t, ok, asked)
	w := request.Of(l).Way(from(t, l, place), to)
	var steps []string
	for _, s := range w.Steps {
		title := s.Title
		if s.Port > 0 && s.Kind != request.AtService && s.Kind != request.NameServer {
			title = fmt.Sprintf("%s:%d", title, s.Port)
		}
		steps = append(steps, title)
	}
	say := strings.Join(steps, " > ")
	if !w.Arrives {
		say += " | " + w.Why + " | " + w.Fix
		if w.Put != nil {
			say += " | " + rundown.LineOf(l, w.Put)
		}
		assert.Equal(t, w.Steps[len(w.Steps)-1].Title, w.StopsAt())
	} else {
		assert.Empty(t, w.StopsAt()+w.Why+w.Fix)
	}
	return say
}

func TestTheWayOfARequest(t *testing.T) {
	const library = "library.quarry.home.arpa"
	const out = "library.quarry.example -> tunnel \"front door\" -> \"way in\":443, open to the world, with sign-in\n"
	for _, c := range []struct{ name, more, from, to, want string }{
		{"by its name", "", "house", library, "house > names 1 > way in:443 > library:8080 > choir library"},
		{"without its domain", "", "house", "Library.quarry.home.arpa.", "house > names 1 > way in:443 > library:8080 > choir library"},
		{"as a service", "", "house", "choir library", "house > library:8080 > choir library"},
		{"as a device", "", "house", "finch", "house > finch"},
		{"by a device's own name", "", "house", "finch.quarry.home.arpa", "house > names 1 > finch"},
		{"from a device", "", "finch", library, "finch > names 1 > way in:443 > library:8080 > choir library"},
		{"by remote access", "", "phones", "choir library", "phones > library:8080 > choir library"},
		{"by remote access, which may not", "from phones to servers: none", "phones", "choir library",
			"phones > library:8080 | A rule lets phones reach nothing of servers. | Let phones reach library for “web”, and nothing else there. | " +
				"from phones to library: some \"web\""},
		{"the second name server", "names 1: resting", "house", library, "house > names 2 > way in:443 > library:8080 > choir library"},
		{"no name server", "names 1: resting\nnames 2: faulty", "house", library,
			"house > names 1 | None of names 1 and names 2 answers: names 1 does not run: it is resting. | Start names 1."},
		{"who is asked is not said", "vlan 40 \"eyes\"\nsubnet 10.40.0.0/24 vlan 40, gateway .1\ngate 10.40.0.1", "eyes", library,
			"eyes > a name server > way in:443 > library:8080 > choir library"},
		{"guests may not", "from guests to servers: none", "Quarry guests", library,
			"Quarry guests > names 1 | A rule lets guests reach nothing of servers. | " +
				"Let guests reach names 1 for “names”, and nothing else there. | " +
				"from guests to \"names 1\": some \"names\""},
		{"guests may ask", "from guests to servers: none\nfrom guests to \"names 1\": some \"names\"", "guests", library,
			"guests > names 1 > way in:443 | A rule lets guests reach nothing of servers. | " +
				"Let guests reach way in for “web”, and nothing else there. | " +
				"from guests to \"way in\": some \"web\""},
		{"guests may", "from guests to servers: none\nfrom guests to \"names 1\": some \"names\"\nfrom guests to \"way in\": some \"web\"",
			"guests",
			library, "guests > names 1 > way in:443 > library:8080 > choir library"},
		{"some of it, in its words", "from guests to servers: some \"names and web\"", "guests", library,
			"guests > names 1 > way in:443 > library:8080 > choir library"},
		{"some that is not it", "from guests to servers: some \"names and the printer\"", "guests", library,
			"guests > names 1 > way in:443 | A rule lets guests reach only “names and the printer” of servers. | " +
				"Let guests reach way in for “web”, and nothing else there. | " +
				"from guests to \"way in\": some \"web\""},
		{"some of the device already", "from guests to servers: some \"names\"\nfrom guests to \"way in\": some \"ssh\"", "guests", library,
			"guests > names 1 > way in:443 | A rule lets guests reach only “ssh” of way in. | " +
				"Let guests reach way in for “web”, and nothing else there. | " +
				"from guests to \"way in\": some \"ssh and web\""},
		{"a proxy that rests", "way in: resting", "house", library,
			"house > names 1 > way in:443 | way in does not run: it is resting. | Start way in."},
		{"a host that is faulty", "anvil: faulty", "house", "choir library",
			"house > library:8080 | anvil does not run: it is faulty. | Start anvil."},
		{"a service that rests", "service \"choir library\": resting", "house", library,
			"house > names 1 > way in:443 > library:8080 > choir library | choir library does not run: it is resting. | Start choir library."},
		{"a wrong port", "name " + library + " -> \"way in\" -> library:8081", "house", library,
			"house > names 1 > way in:443 > library:8081 | Nothing in library listens on 8081. | " +
				"Lead there by another port: choir library on tcp 8080."},
		{"on its own host only", "service \"choir library\": only its host", "house", library,
			"house > names 1 > way in:443 > library:8080 > choir library | choir library listens on its own host only. | " +
				"Lead a name through something in library, or let it listen to others."},
		{"on its own host, from there", "service \"choir library\": only its host", "library", "choir library",
			"library > library:8080 > choir library"},
		{"from outside by a name of the house", "", "internet", library,
			"internet | library.quarry.home.arpa is a name of this house, and means nothing outside. | " +
				"Ask for it by a name in a domain of your own."},
		{"from outside through a tunnel", out, "internet", "library.quarry.example",
			"internet > front door > way in:443 > library:8080 > choir library"}, // goes on as the other library does
		{"from inside through a tunnel", out + "from house to internet: all", "house", "library.quarry.example",
			"house > names 1 > internet > front door > way in:443 > library:8080 > choir library"},
		{"a tunnel that gets nowhere", out + "from servers to internet: none", "internet", "library.quarry.example",
			"internet > front door | front door cannot be opened from way in: a rule lets servers reach nothing of internet. | "},
		{"from outside, nothing open", "books.quarry.example -> library:8080", "internet", "books.quarry.example",
			"internet > library:8080 | Nothing is open that leads to library. | Open tcp 8080 on fibre line for library, or lead the name " +
				"through a tunnel. | open \"fibre line\" tcp 8080 to library"},
		{"from outside, open", "books.quarry.example -> library:8080\nopen \"fibre line\" tcp 8080 to library", "internet",
			"books.quarry.example",
			"internet > library:8080 > choir library"},
		{"from outside, no address of one's own", "books.quarry.example -> library:8080\nline \"fibre line\": shared address", "internet",
			"books.quarry.example", "internet > library:8080 | The address of fibre line is shared by the provider, so nothing outside can begin; " +
				"a tunnel has to begin from inside. | Lead the name through a tunnel that is opened from inside."},
		{"an alias", "name \"books\" -> \"library.quarry.home.arpa\"", "house", "books",
			"house > names 1 > way in:443 > library:8080 > choir library"},
		{"an alias of itself", "name \"a\" -> b\nname \"b\" -> a", "house", "a",
			"house > names 1 | a.quarry.home.arpa leads back to itself. | Let one of b and a lead to a device or an address."},
		{"an address that nobody has", "name \"a\" -> 10.20.0.99", "house", "a",
			"house > names 1 > 10.20.0.99 | No device is written down that has 10.20.0.99. | " +
				"Give the address to a device, or the name another one."},
		{"a name passed on to itself", "x.example -> \"way in\" -> name y.example\ny.example -> \"way in\" -> name x.example",
			"house", "x.example",
			"house > names 1 | x.example is passed on round in a circle: it comes back to x.example. | End the way where it is answered."},
		{"no VLAN gets there", "vlan 50 \"dome\"\non anvil: vm \"mount\": 1GB, vlan 50 10.50.0.4\nservice \"sky\" in mount, tcp 80\n" +
			"core/24 tagged 20,30,50\nsubnet 10.50.0.0/24 vlan 50, gateway .1\ngate 10.50.0.1", "house", "sky",
			"house > mount:80 | No cable carries dome (50) to anvil. | Tag 50 on core/23."},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.want, said(t, built(t, c.more), c.from, c.to))
		})
	}
}

// What each place gets at, by hand: guests get outside and come in by the tunnel.
func TestWhatIsReachedFromWhere(t *testing.T) {
	l := built(t, `from guests to servers: none
from guests to "names 1": some "names"
from guests to internet: all
library.quarry.example -> tunnel "front door" -> "way in":443, without sign-in
service "choir library": only the lab`)
	q := request.Of(l)
	cells := map[string]string{}
	for _, row := range q.Table() {
		for i, c := range row.Cells {
			say := "no"
			if c.Arrives {
				say = strings.TrimSpace(fmt.Sprintf("%s %s", c.By.Name, c.SignIn))
			}
			if c.Straight {
				say += " straight"
			}
			cells[row.Service.Name+" from "+q.Places()[i].Title] = say
		}
	}
	for of, want := range map[string]string{
		"choir library from house":         "library.quarry.home.arpa asked",
		"choir library from guests":        "library.quarry.example none",
		"choir library from Quarry guests": "library.quarry.example none",
		"choir library from phones":        "library.quarry.home.arpa asked",
		"choir library from internet":      "library.quarry.example none",
		"gateway page from guests":         "no",
		"gateway page from house":          "",
		"gateway page from internet":       "no",
	} {
		assert.Equal(t, want, cells[of], of)
	}
	e := q.Exposures()[0]
	assert.True(t, e.Outside)
	assert.Equal(t, lab.SignInNone, e.SignIn, "the weakest way counts")
	assert.Equal(t, "library.quarry.example", e.Name.Name)
	assert.Empty(t, q.Exposures()[1].SignIn, "nothing says so of the gateway page")
}

// A service that is reached by none of its names may be at its own address.
func TestReachedStraight(t *testing.T) {
	l := built(t, "way in: resting")
	q := request.Of(l)
	c := q.Table()[0].Cells[0]
	assert.True(t, c.Arrives && c.Straight)
}

// Where there are no VLANs, the one network is where readers are, and those of the wireless one.
func TestAPlainHome(t *testing.T) {
	l := labtest.From(t, `? router "box": 4 ports 1G
? server "loaf": 1 port 1G
subnet 192.168.1.0/24, gateway .1
box .1
loaf .4
wireless "Bakery": on box
line "fibre": into box
service "photos": in loaf, tcp 8080
`)
	q := request.Of(l)
	var titles []string
	for i, p := range q.Places() {
		arrives := q.Table()[0].Cells[i].Arrives
		titles = append(titles, fmt.Sprint(p.Title, " ", arrives))
		_, in := q.VLANOf(p)
		assert.False(t, in, p.Title)
	}
	assert.Equal(t, []string{"192.168.1.0/24 true", "Bakery true", "internet false"}, titles)
}

// What is open leads to one service in a guest; of another one there, of which no port is
// written down, nobody knows whether it is reached.
func TestAnUnknownPortIsNotTheOneThatIsOpen(t *testing.T) {
	l := built(t, "service \"dns\": in way in\nopen \"fibre line\" tcp 443 to \"way in\"")
	dns := request.ServiceTarget(labtest.Named[lab.Service](t, l, "dns"))
	w := request.Of(l).Way(from(t, l, "internet"), dns)
	assert.False(t, w.Arrives)
	assert.Equal(t, "It is not written down where dns listens, and gateway page is in way in too.", w.Why)
	assert.Equal(t, "Write down its port, such as service \"dns\": tcp 8080.", w.Fix)
	page := request.ServiceTarget(labtest.Named[lab.Service](t, l, "gateway page"))
	assert.True(t, request.Of(l).Way(from(t, l, "internet"), page).Arrives)
	l = built(t, "service \"choir page\": in names 2\nopen \"fibre line\" tcp 443 to \"names 2\"")
	only := request.ServiceTarget(labtest.Named[lab.Service](t, l, "choir page"))
	assert.True(t, request.Of(l).Way(from(t, l, "internet"), only).Arrives, "there is nothing else it could lead to")
}

// A rule lets through no more than it says: with one that lets some through, whatever got
// there before still does, and nothing else.
func TestARuleThatIsWrittenDownLetsItThrough(t *testing.T) {
	l := built(t, "from guests to servers: none")
	for round := range 5 {
		to, _ := request.Of(l).Target("library.quarry.home.arpa")
		w := request.Of(l).Way(from(t, l, "guests"), to)
		if w.Arrives {
			assert.Len(t, slices.Collect(lab.Each[lab.Rule](l)), 6, "one for the name server, one for the proxy")
			return
		}
		require.NotNil(t, w.Put, w.Why)
		p := rundown.Load(l, rundown.Parse(rundown.LineOf(l, w.Put)), rundown.Options{NewID: labtest.IDs(fmt.Sprint("r", round))})
		require.Empty(t, p.Mistakes)
		require.Len(t, p.Changes, 1)
		l = p.Lab
	}
	assert.Fail(t, "it never arrives")
}

// Fixing what is said, again and again, comes to an end for every place and service, or to
// something that no line puts right.
func FuzzRequest(f *testing.F) {
	f.Add("guests", "library.quarry.home.arpa", "from guests to servers: none")
	f.Add("internet", "x.example", "x.example -> \"way in\" -> name y.example\ny.example -> \"way in\" -> name x.example")
	f.Add("phones", "choir library", "gate: resting")
	f.Fuzz(func(t *testing.T, place, asked, more string) {
		p := rundown.Load(labtest.From(t, house), rundown.Parse(more), rundown.Options{NewID: labtest.IDs("z")})
		q := request.Of(p.Lab)
		to, ok := q.Target(asked)
		if !ok {
			return
		}
		for _, at := range q.Places() {
			w := q.Way(at, to)
			assert.Equal(t, w.Arrives, w.StopsAt() == "")
			assert.Equal(t, w.Arrives, w.Why == "")
			assert.NotEmpty(t, w.Steps)
			if w.Put != nil {
				assert.NotContains(t, rundown.LineOf(p.Lab, w.Put), "\n")
			}
		}
	})
}
