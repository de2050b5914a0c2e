package server_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func addressed(t *testing.T) site {
	t.Helper()
	s := newSite(t)
	text := `rack "R": 12U
12 router "gate": 4 ports rj45 1G
10 server "anvil": 1 ports rj45 1G
9 server "thrush": 1 ports rj45 1G
vlan 20 "servers"
vlan 30 "guests"
subnet 10.20.0.0/24 vlan 20, gateway .1, handed out .100-.178 by gate, names end in "quarry.home.arpa"
subnet fd20:20::/64 vlan 20
subnet 10.0.0.0/16
gate 10.20.0.1
anvil 10.20.0.12
anvil fd20:20::12
name library -> anvil
from servers to internet: all
from guests to servers: none
line fibre: 100M down, into gate/1
`
	a := s.ask("POST", "/api/v1/rundown", fmt.Sprintf(`{"base_revision":%d,"text":%s}`, s.revision(), quoted(t, text)))
	require.Equal(t, 200, a.status, a.body)
	return s
}

// subnet is the id of a subnet by its prefix.
func subnet(t *testing.T, s site, cidr string) string {
	t.Helper()
	for _, is := range s.ask("GET", "/api/v1/reports/subnets", "").json["subnets"].([]any) {
		if one := is.(map[string]any); one["cidr"] == cidr {
			return one["id"].(string)
		}
	}
	t.Fatal("no subnet " + cidr)
	return ""
}

func TestTheRulerIsSentAsItIsDrawn(t *testing.T) {
	s := addressed(t)
	r := s.ask("GET", "/api/v1/network/ruler?subnet="+subnet(t, s, "10.20.0.0/24"), "")
	require.Equal(t, 200, r.status, r.body)
	assert.Len(t, r.json["lengths"], 8)
	assert.Equal(t, "10.20.0.2", r.json["next_free"])
	assert.Contains(t, r.body, `{"length":0,"at":12,"address":"10.20.0.12","n":1,"had":[{"address":"10.20.0.12",`)
	assert.Contains(t, r.body, `"names":["anvil.quarry.home.arpa","library.quarry.home.arpa"]`)
	six := s.ask("GET", "/api/v1/network/ruler?subnet="+subnet(t, s, "fd20:20::/64"), "")
	assert.Empty(t, six.json["lengths"])
	assert.Contains(t, six.body, `"address":"fd20:20::12"`)
	large := subnet(t, s, "10.0.0.0/16")
	assert.EqualValues(t, 256, s.ask("GET", "/api/v1/network/ruler?subnet="+large, "").json["each"])
	in := s.ask("GET", "/api/v1/network/ruler?subnet="+large+"&within=10.0.7.0/24", "")
	assert.Equal(t, "10.0.0.0/16", in.json["up"])
	refused(t, s.ask("GET", "/api/v1/network/ruler?subnet="+large+"&within=10.1.7.0/24", ""), 400, "within", "is no part of")
	refused(t, s.ask("GET", "/api/v1/network/ruler?subnet="+large+"&within=half", ""), 400, "within", "write one such as 10.20.5.0/24")
	assert.Equal(t, 404, s.ask("GET", "/api/v1/network/ruler?subnet=none", "").status)
}

func TestAnAddressIsGivenMovedAndTaken(t *testing.T) {
	s := addressed(t)
	thrush := idOf(t, s, "devices", "thrush")
	give := func(more string) answer {
		return s.ask("POST", "/api/v1/network/addresses", fmt.Sprintf(`{"base_revision":%d,"device_id":%q%s}`, s.revision(), thrush, more))
	}
	of := func() string { return s.ask("GET", "/api/v1/devices/"+thrush+"/addresses", "").body }
	require.Equal(t, 200, give(`,"address":"10.20.0.2","how":"reserved","mac":"02-4E-00-00-20-02","name":"weather","port":"1"`).status)
	assert.Contains(t, of(), `"address":"10.20.0.2","device_id":"`+thrush+
		`","title":"thrush","kind":"server","port":"1","how":"reserved","mac":"02:4e:00:00:20:02","name":"weather"`)
	require.Equal(t, 200, give(`,"was":"10.20.0.2","address":"10.20.0.40"`).status)
	assert.Contains(t, of(), `"address":"10.20.0.40"`)
	assert.Contains(t, of(), `"how":"reserved"`, "what else is said of it stays")
	assert.Equal(t, 409, give(`,"was":"10.20.0.2","address":"10.20.0.41"`).status)
	refused(t, give(`,"address":"10.20.0.300"`), 422, "address", "is not an address")
	refused(t, give(`,"address":"10.20.0.3","port":"9"`), 422, "port", "has no port “9”")
	refused(t, give(`,"address":"10.20.0.3","name":"two words"`), 422, "addresses", "write “two-words”")
	refused(t, give(``), 422, "address", "Say which address")
	require.Equal(t, 200, give(`,"was":"10.20.0.40"`).status)
	assert.Contains(t, of(), `"addresses":[]`)
}

func TestASubnetIsRenumberedAfterALook(t *testing.T) {
	s := addressed(t)
	body := func(cidr string) string {
		return fmt.Sprintf(`{"base_revision":%d,"subnet_id":%q,"cidr":%q}`, s.revision(), subnet(t, s, "10.20.0.0/24"), cidr)
	}
	look := s.ask("POST", "/api/v1/network/renumber/check", body("10.21.0.0/24"))
	require.Equal(t, 200, look.status, look.body)
	assert.Len(t, look.json["edits"], 3, "the subnet, gate and anvil")
	refused(t, s.ask("POST", "/api/v1/network/renumber/check", body("10.21.0.0/33")), 422, "cidr", "is not a subnet")
	refused(t, s.ask("POST", "/api/v1/network/renumber", body("10.21.0.0/29")), 422, "cidr", "has no place for")
	require.Equal(t, 200, s.ask("POST", "/api/v1/network/renumber", body("10.21.0.0/24")).status)
	assert.Contains(t, s.ask("GET", "/api/v1/files/address_plan.csv", "").body, "10.21.0.12,anvil,,fixed,,,10.21.0.0/24,20")
}

func TestNamesZonesAndWhoReachesADevice(t *testing.T) {
	s := addressed(t)
	names := s.ask("GET", "/api/v1/network/names", "")
	assert.Contains(t, names.body, `"name":"library","whole":"library.quarry.home.arpa","through":[],`+
		`"addresses":["10.20.0.12","fd20:20::12"],"to":"anvil","end":""`)
	assert.Contains(t, names.body, `"zones":["quarry.home.arpa",`)
	zone := s.ask("GET", "/api/v1/files/zones/quarry.home.arpa", "")
	require.Equal(t, 200, zone.status)
	assert.Contains(t, zone.body, "library.quarry.home.arpa.\t3600\tIN\tA\t10.20.0.12\n")
	assert.Contains(t, s.ask("GET", "/api/v1/files/zones/0.20.10.in-addr.arpa", "").body, "PTR\tanvil.quarry.home.arpa.")
	assert.Equal(t, 404, s.ask("GET", "/api/v1/files/zones/example.org", "").status)
	assert.Contains(t, s.ask("GET", "/api/v1/files/hosts", "").body,
		"10.20.0.12\tanvil.quarry.home.arpa anvil library.quarry.home.arpa library\n")
	of := s.ask("GET", "/api/v1/devices/"+idOf(t, s, "devices", "anvil")+"/addresses", "")
	assert.Contains(t, of.body, `"reaches":[{"from":"servers","to":"internet","said":"all","can":true,"why":"over gate"`)
	assert.Contains(t, of.body, `"reached_by":[{"from":"guests","to":"servers","said":"none"`)
	assert.Equal(t, 404, s.ask("GET", "/api/v1/devices/nobody/addresses", "").status)
}

func TestEverySubnetIsBehindWhatItIsWithin(t *testing.T) {
	s := addressed(t)
	tree := func(view string) (say []string, a answer) {
		a = s.ask("GET", "/api/v1/network/subnets"+view, "")
		require.Equal(t, 200, a.status, a.body)
		for _, b := range a.json["branches"].([]any) {
			is := b.(map[string]any)
			say = append(say, fmt.Sprint(is["prefix"], " ", is["depth"]))
		}
		return say, a
	}
	say, built := tree("")
	assert.Equal(t, []string{"10.0.0.0/16 0", "10.20.0.0/24 0", "fd20:20::/64 0"}, say)
	assert.NotContains(t, built.json, "built")
	require.Equal(t, 201, s.ask("POST", "/api/v1/drafts", `{"id":"wide","name":"Wide"}`).status)
	a := s.ask("POST", "/api/v1/lines?view=draft:wide", fmt.Sprintf(`{"base_revision":%d,"line":"subnet 10.20.0.64/26"}`, s.revision()))
	require.Equal(t, 200, a.status, a.body)
	say, drafted := tree("?view=draft:wide")
	assert.Equal(t, []string{"10.0.0.0/16 0", "10.20.0.0/24 0", "10.20.0.64/26 1", "fd20:20::/64 0"}, say)
	assert.Len(t, drafted.json["built"], 3, "as built, to compare")
	say, _ = tree("")
	assert.Len(t, say, 3, "a draft changes nothing that is built")
}

func TestATableOfAddressesIsLookedAtAndTaken(t *testing.T) {
	s := addressed(t)
	send := func(path, text string) answer {
		return s.ask("POST", "/api/v1/files/"+path, fmt.Sprintf(`{"base_revision":%d,"text":%s}`, s.revision(), quoted(t, text)))
	}
	const table = "address,device,how,mac\n10.20.0.40,thrush,reserved,02-4e-00-00-20-40\n10.20.0.12,anvil,fixed,\n"
	look := send("address_plan.csv/check", table)
	require.Equal(t, 200, look.status, look.body)
	assert.Contains(t, look.body, "thrush: 10.20.0.40 reserved mac 02:4e:00:00:20:40")
	assert.NotContains(t, s.ask("GET", "/api/v1/files/address_plan.csv", "").body, "10.20.0.40", "a look changes nothing")
	require.Equal(t, 200, send("address_plan.csv", table).status)
	assert.Contains(t, s.ask("GET", "/api/v1/files/reservations.csv", "").body,
		"10.20.0.40,thrush,,reserved,02:4e:00:00:20:40,,10.20.0.0/24,20\n")
	assert.NotContains(t, s.ask("GET", "/api/v1/files/reservations.csv", "").body, "10.20.0.12")
	before := s.revision()
	refused(t, send("address_plan.csv", "address,device\n10.20.0.41,thrush\n10.20.0.300,anvil\n"), 422, "text:3", "Nothing was loaded")
	refused(t, send("address_plan.csv", "who,what\nthrush,10.20.0.41\n"), 422, "text", "columns address and device")
	refused(t, send("reservations.csv", ""), 422, "text", "Nothing was loaded")
	assert.Equal(t, before, s.revision(), "all or none")
	book := s.ask("GET", "/api/v1/files/address_plan.xlsx", "")
	assert.Equal(t, 200, book.status)
	assert.Equal(t, "PK", book.body[:2])
}

// What anybody can reach is in the lab, and not in what is shared.
func TestWhatIsSharedHasNoPublicAddresses(t *testing.T) {
	s := addressed(t)
	anvil := idOf(t, s, "devices", "anvil")
	a := s.ask("POST", "/api/v1/network/addresses",
		fmt.Sprintf(`{"base_revision":%d,"device_id":%q,"address":"5.45.96.7"}`, s.revision(), anvil))
	require.Equal(t, 200, a.status, a.body)
	assert.Contains(t, s.ask("GET", "/api/v1/files/lab.json", "").body, "5.45.96.7")
	shared := s.ask("GET", "/api/v1/files/lab.json?share=true", "").body
	assert.NotContains(t, shared, "5.45.96.7")
	assert.Contains(t, shared, "10.20.0.12")
}

func TestWhoWasFasterIsNotOverwritten(t *testing.T) {
	s := addressed(t)
	thrush, subnet, was := idOf(t, s, "devices", "thrush"), subnet(t, s, "10.20.0.0/24"), s.revision()
	give := func(address string) answer {
		return s.ask("POST", "/api/v1/network/addresses", fmt.Sprintf(`{"base_revision":%d,"device_id":%q,"address":%q}`, was, thrush, address))
	}
	require.Equal(t, 200, give("10.20.0.41").status)
	assert.Equal(t, 409, give("10.20.0.42").status)
	assert.Equal(t, 409, s.ask("POST", "/api/v1/network/renumber",
		fmt.Sprintf(`{"base_revision":%d,"subnet_id":%q,"cidr":"10.21.0.0/24"}`, was, subnet)).status)
	assert.NotContains(t, s.ask("GET", "/api/v1/files/address_plan.csv", "").body, "10.20.0.42")
	assert.Equal(t, 404, s.ask("POST", "/api/v1/network/addresses",
		fmt.Sprintf(`{"base_revision":%d,"device_id":"nobody","address":"10.20.0.43"}`, s.revision())).status)
	assert.Equal(t, 404, s.ask("POST", "/api/v1/network/renumber",
		fmt.Sprintf(`{"base_revision":%d,"subnet_id":"none","cidr":"10.21.0.0/24"}`, s.revision())).status)
}

func TestAnAddressThatTwoHaveIsSentAsSuch(t *testing.T) {
	s := addressed(t)
	for _, who := range []string{"thrush", "gate"} {
		for _, is := range []string{"fd20:20::12", "10.20.0.12"} {
			a := s.ask("POST", "/api/v1/network/addresses", fmt.Sprintf(`{"base_revision":%d,"device_id":%q,"address":%q}`,
				s.revision(), idOf(t, s, "devices", who), is))
			require.Equal(t, 200, a.status, a.body)
		}
	}
	for _, cidr := range []string{"10.20.0.0/24", "fd20:20::/64"} {
		var twice map[string]any
		for _, m := range s.ask("GET", "/api/v1/network/ruler?subnet="+subnet(t, s, cidr), "").json["marks"].([]any) {
			if is := m.(map[string]any); is["twice"] == true {
				require.Nil(t, twice, "one of them")
				twice = is
			}
		}
		require.NotNil(t, twice, cidr)
		assert.EqualValues(t, 3, twice["n"])
		assert.Len(t, twice["had"], 3)
	}
	name := s.ask("GET", "/api/v1/network/names", "").json
	assert.Len(t, name["hosts"], 7, "three of each family at ….12, and gate at ….1")
}

func TestWhereNamesThatLeadNowhereEnd(t *testing.T) {
	s := addressed(t)
	for _, line := range []string{"name round -> about", "name about -> round", "name lost -> gone",
		"name world -> www.example.org", "name bare -> thrush",
		"name servers of 10.20.0.0/24: anvil, gate"} {
		a := s.ask("POST", "/api/v1/lines", fmt.Sprintf(`{"base_revision":%d,"line":%q}`, s.revision(), line))
		require.Equal(t, 200, a.status, a.body)
	}
	names := s.ask("GET", "/api/v1/network/names", "")
	ends := map[string]any{}
	for _, n := range names.json["own"].([]any) {
		is := n.(map[string]any)
		ends[is["name"].(string)] = is["end"]
	}
	assert.Equal(t, map[string]any{"library": "", "round": "circle", "about": "circle", "lost": "nowhere",
		"world": "away", "bare": "nowhere"}, ends)
	assert.Contains(t, names.body, `{"in":"servers","devices":["anvil","gate"]}`, "the first one asked first")
	zone := s.ask("GET", "/api/v1/files/zones/quarry.home.arpa", "").body
	assert.Contains(t, zone, "world.quarry.home.arpa.\t3600\tIN\tCNAME\twww.example.org.\n")
	assert.NotContains(t, zone, "CNAME\tgone")
}
