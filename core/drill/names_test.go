package drill_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/drill"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
)

// A library behind a proxy, with two name servers, and a name from outside by a tunnel.
const named = `vlan 20 "servers"
subnet 10.20.0.0/24: vlan 20, names end in "home.arpa"
? server "anvil"
? server "thrush"
? router "gate"
on anvil: vm "way in": 1GB, vlan 20 10.20.0.2
on anvil: vm "library": 1GB, vlan 20 10.20.0.3
on thrush: vm "names 1": 1GB, vlan 20 10.20.0.4
on thrush: vm "names 2": 1GB, vlan 20 10.20.0.5
name servers of vlan 20: names 1, names 2
service "choir library": in library, household, used by "the choir"
line "fibre": 100M down, into gate
tunnel "front door": from gate outwards
library.home.arpa -> "way in" -> library
`

// stops is what stops without something, by hand.
func stops(t *testing.T, text, gone string) (titles []string, why map[string][]string) {
	t.Helper()
	l := labtest.From(t, text)
	id, ok := rundown.DeviceNamed(l)(gone)
	require.True(t, ok)
	why = map[string][]string{}
	for _, h := range drill.Of(l).IfGone(drill.Target{Key: lab.Key{Kind: lab.KindDevice, ID: id}}).Stops {
		titles = append(titles, h.Title)
		why[h.Title] = h.Why
	}
	return titles, why
}

func TestWhatIsReachedThroughAProxyGoesWithIt(t *testing.T) {
	titles, why := stops(t, named, "way in")
	assert.Equal(t, []string{"choir library", "library.home.arpa"}, titles)
	assert.Equal(t, []string{"choir library is reached by library.home.arpa", "library.home.arpa goes through way in", "way in is gone"},
		why["choir library"])

	// Any one of its names will do.
	titles, _ = stops(t, named+"library.example -> tunnel \"front door\" -> library\n", "way in")
	assert.Equal(t, []string{"library.home.arpa"}, titles)

	// Any one name server will do, and both are on one host.
	titles, _ = stops(t, named, "names 1")
	assert.Empty(t, titles)
	titles, why = stops(t, named, "thrush")
	assert.Equal(t, []string{"choir library", "names 1", "names 2", "library.home.arpa"}, titles)
	assert.Equal(t, "library.home.arpa is answered by names 1 or names 2", why["choir library"][1])

	// From outside no name server of the house is asked.
	titles, _ = stops(t, named+"library.example -> tunnel \"front door\" -> library\n", "thrush")
	assert.NotContains(t, titles, "choir library")

	// An alias goes with what it is the same as.
	titles, _ = stops(t, named+"name \"books\" -> \"library.home.arpa\"\n", "way in")
	assert.Equal(t, []string{"choir library", "books", "library.home.arpa"}, titles)
}

// Who still answers for names, by hand: both name servers are on thrush.
func TestWhoStillAnswersForNames(t *testing.T) {
	l := labtest.From(t, named+`vlan 30 "guests"
subnet 10.30.0.0/24: vlan 30
subnet 10.40.0.0/24: name servers names 2 and gate
? single-board computer "finch": 1 port 1G
vlan 50 "dome"
subnet 10.50.0.0/24: vlan 50
name servers of vlan 30: names 1
name servers of vlan 50: finch, spare
? server "spare": resting
`)
	say := func(gone string) (said []string) {
		id, ok := rundown.DeviceNamed(l)(gone)
		require.True(t, ok)
		for _, a := range drill.Of(l).IfGone(drill.Target{Key: lab.Key{Kind: lab.KindDevice, ID: id}}).Names {
			said = append(said, a.Say())
		}
		return said
	}
	assert.Empty(t, say("anvil"))
	assert.Equal(t, []string{"names 2 still answers for names in servers.", "Nothing answers for names in guests."}, say("names 1"))
	assert.Equal(t, []string{"Nothing answers for names in servers and guests.", "gate still answers for names in 10.40.0.0/24."},
		say("thrush"))
	assert.Equal(t, []string{"Nothing answers for names in dome."}, say("finch"), "what rests answers nothing")
	assert.Equal(t, []string{"names 2 still answers for names in 10.40.0.0/24."}, say("gate"))
}

// A name server that has a name itself does not wait for that.
func TestANameServerWithANameStarts(t *testing.T) {
	l := labtest.From(t, named+"service \"names\": in names 1\nnames.home.arpa -> names 1\n")
	assert.Empty(t, drill.Of(l).Circles())
	assert.Empty(t, drill.Of(l).Start().Stuck)
}

// The table of all losses counts what each of them comes to when it is asked about alone.
func TestLossesAndIfGoneAgree(t *testing.T) {
	w := drill.Of(labtest.From(t, named+"? nas \"silo\": 4 bays, 2x 4TB\npool \"hold\" on silo: mirror of bay 1-2\n"+
		"on anvil: vm \"films\": 1GB, 80GB on hold\nservice \"films\": in films, household\n\"choir library\" needs service \"films\"\n"))
	losses := w.Losses()
	require.NotEmpty(t, losses)
	for _, loss := range losses {
		count := map[string]int{}
		for _, h := range w.IfGone(loss.Target).Stops {
			count[h.Kind]++
			if h.Kind == "service" && h.Worth == lab.Household {
				count["household"]++
			}
		}
		assert.Equal(t, map[string]int{"household": loss.Household, "service": loss.Services, "guest": loss.Guests, "device": loss.Dark},
			map[string]int{"household": count["household"], "service": count["service"], "guest": count["guest"], "device": count["device"]},
			loss.Title)
	}
}
