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
