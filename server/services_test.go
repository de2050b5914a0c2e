package server_test

import (
	"encoding/json"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// served is a lab with two hosts and what runs on them.
func served(t *testing.T) site {
	t.Helper()
	s := newSite(t)
	s.lines(t, `rack "Pantry": 24U`, `20 server "anvil": 32GB, 16 cores, runs hypervisor, keeps 4GB`,
		`19 server "thrush": 16GB, 8 cores, runs hypervisor`,
		`18 switch "core": 8 ports rj45`, `on anvil: vm "choir": 4 vcpu, 12GB, household`, `on anvil: vm "game": 8GB, toy`,
		`on choir: container "library": 2GB, tcp 8080`, `on thrush: vm "stays": 2GB`, `service "songs": in library, tcp 8080, https`)
	return s
}

// report is the answer of a report.
func (s site) report(t *testing.T, path string) map[string]any {
	t.Helper()
	a := s.ask("GET", "/api/v1/reports/"+path, "")
	require.Equal(t, 200, a.status, a.body)
	var is map[string]any
	require.NoError(t, json.Unmarshal([]byte(a.body), &is))
	return is
}

func TestHostsAndWhatBecomesOfTheirGuests(t *testing.T) {
	s := served(t)
	hosts := s.report(t, "hosts")["hosts"].([]any)
	require.Len(t, hosts, 2)
	anvil := hosts[0].(map[string]any)
	const gb = float64(1 << 30)
	for field, want := range map[string]any{"name": "anvil", "fitted_bytes": 32 * gb, "kept_bytes": 4 * gb, "given_bytes": 20 * gb,
		"used_bytes": nil,
		"cores":      16.0, "vcpus": 4.0, "guests": 2.0} {
		assert.Equal(t, want, anvil[field], field)
	}
	for _, asked := range []string{"without?host=anvil", "without?host=" + anvil["id"].(string)} {
		is := s.report(t, asked)
		moves, dark := is["moves"].([]any), is["dark"].([]any)
		require.Len(t, moves, 1)
		require.Len(t, dark, 1)
		assert.Equal(t, []any{"choir", "thrush", "hand"}, []any{moves[0].(map[string]any)["guest"], moves[0].(map[string]any)["to"],
			moves[0].(map[string]any)["by"]})
		assert.Equal(t, []any{"game", "takes 8 GB; thrush has 2 GB left"}, []any{dark[0].(map[string]any)["guest"],
			dark[0].(map[string]any)["why"]})
	}
	room := s.report(t, "room_for?memory_bytes=4294967296&vcpus=2")["hosts"].([]any)
	assert.Equal(t, []any{"anvil", true, 2.0}, []any{room[0].(map[string]any)["name"], room[0].(map[string]any)["fits"],
		room[0].(map[string]any)["how_many"]})
	less := s.report(t, "room_for?memory_bytes=4294967296&without=anvil")["hosts"].([]any)
	require.Len(t, less, 1)
	assert.Equal(t, []any{false, 0.0, "2 GB is left, and it takes 4 GB"}, []any{less[0].(map[string]any)["fits"],
		less[0].(map[string]any)["how_many"], less[0].(map[string]any)["why"]})
	guest := s.report(t, "guest?guest=library")
	assert.Equal(t, []any{"choir, anvil", "household", []any{"songs"}}, []any{guest["lives"], s.report(t, "guest?guest=choir")["matters"],
		guest["services"]})
	fits := s.report(t, "fits?guest=game")["hosts"].([]any)
	assert.Equal(t, true, fits[1].(map[string]any)["fits"], "8 of 14 GB")
}

func TestWhatIsAskedWronglyOfHosts(t *testing.T) {
	s := served(t)
	for path, say := range map[string]string{
		"without?host=nowhere":               `There is no device`,
		"without?host=core":                  "core is not a host: nothing runs on it.",
		"without?host=anvil&planned=perhaps": "neither true nor false",
		"room_for?memory_bytes=-1":           "is not a number from 1",
		"room_for?memory_bytes=many":         "is not a number from 1",
		"room_for?vcpus=99999":               "is not a number from 1 to 1024",
		"fits?guest=anvil":                   "is no VM or container",
		"guest?guest=anvil":                  "is no VM or container",
	} {
		a := s.ask("GET", "/api/v1/reports/"+path, "")
		assert.Equal(t, 400, a.status, path)
		assert.Contains(t, a.body, say, path)
	}
}

// What stops without something is asked for by kind and ID or name, an outlet by its
// device and port.
func TestWhatStopsWithoutSomething(t *testing.T) {
	s := served(t)
	s.lines(t, `service "songs": household, used by "the choir"`, `service "notes" in stays`, `"songs" needs "notes"`, `"stays" needs "game"`,
		`"game" needs "stays"`, `17 pdu "strip": 4 outlets c13`, `core/in1 - strip/out2`)
	titles := func(list any) (said []string) {
		for _, h := range list.([]any) {
			said = append(said, h.(map[string]any)["kind"].(string)+" "+h.(map[string]any)["title"].(string))
		}
		return said
	}
	out := s.report(t, "if_gone?kind=device&id=thrush")
	assert.Equal(t, []string{"service songs", "service notes", "guest stays", "guest game"}, titles(out["stops"]))
	assert.Equal(t, []any{"songs needs notes", "notes runs in stays", "stays runs on thrush", "thrush is gone"},
		out["stops"].([]any)[0].(map[string]any)["why"])
	assert.Equal(t, []any{"the choir"}, out["noticed_by"])
	assert.Equal(t, "Without thrush: 2 services (1 of the household's) and 2 guests stop.", out["say"])
	assert.Empty(t, out["names"], "no network names one of its guests as its name server")
	s.lines(t, `subnet 10.10.0.0/24 vlan 10`, `name servers of 10.10.0.0/24: stays`)
	names := s.report(t, "if_gone?kind=device&id=thrush")["names"].([]any)
	require.Len(t, names, 1)
	assert.Equal(t, "Nothing answers for names in 10.10.0.0/24.", names[0].(map[string]any)["say"])
	assert.Equal(t, []any{"stays"}, names[0].(map[string]any)["gone"])
	worst := s.report(t, "worst")["losses"].([]any)
	strip := ""
	for _, loss := range worst {
		if is := loss.(map[string]any); is["title"] == "strip" {
			strip = is["id"].(string)
		}
	}
	assert.JSONEq(t, s.ask("GET", "/api/v1/reports/if_gone?kind=port&id="+strip+"/out2", "").body,
		s.ask("GET", "/api/v1/if_gone?kind=port&id=strip/out2", "").body)
	assert.Equal(t, []string{"device core"}, titles(s.report(t, "if_gone?kind=port&id=strip/out2")["stops"]))
	assert.Contains(t, s.ask("GET", "/api/v1/files/needs.dot", "").body, `label="needs"`)
	assert.Contains(t, s.ask("GET", "/api/v1/files/needs.mmd", "").body, `-- "runs on" -->`)
	circles := s.report(t, "circles")["circles"].([]any)
	assert.Equal(t, []any{"game needs stays", "stays needs game"}, circles[0].(map[string]any)["says"])
	assert.Equal(t, []string{"service songs", "service notes", "guest stays", "guest game"}, titles(s.report(t, "start")["stuck"]))
	assert.Equal(t, "anvil", worst[0].(map[string]any)["title"], "all of it: what is on thrush needs a guest of anvil")
	for path, say := range map[string]string{
		"kind=weather&id=x":       "is not what may go; it is device,",
		"kind=device&id=nobody":   `There is no device`,
		"kind=service&id=nobody":  `There is no service \"nobody\", by name or ID.`,
		"kind=port&id=strip/out9": `strip has no port \"out9\"`,
		"kind=port&id=strip":      `strip has no port`,
		"kind=service":            `There is no service`,
		"id=" + strip:             `is not what may go`,
	} {
		a := s.ask("GET", "/api/v1/if_gone?"+path, "")
		assert.Equal(t, 400, a.status, path)
		assert.Contains(t, a.body, say, path)
	}
}

// A request is followed from a reader's place, and what stops it says what would let it
// through, as a line that can be typed.
func TestARequestIsFollowed(t *testing.T) {
	s := served(t)
	s.lines(t, `vlan 10 "house"`, `vlan 30 "guests"`, "subnet 10.10.0.0/24 vlan 10, gateway .1", "subnet 10.30.0.0/24 vlan 30, gateway .1",
		`? router "gate"`, "gate 10.10.0.1", "gate 10.30.0.1", "stays 10.10.0.9", `wireless "Guests": vlan 30`, `remote access "phones": into gate`,
		"from guests to house: none", `service "singing" in stays, tcp 8080, https`,
		"songs.home.arpa -> stays:8080, sign-in by \"keys\"")
	way := func(query string) map[string]any {
		var is map[string]any
		a := s.ask("GET", "/api/v1/request?"+query, "")
		require.Equal(t, 200, a.status, a.body)
		require.NoError(t, json.Unmarshal([]byte(a.body), &is))
		return is
	}
	in := way("from=vlan:10&to=songs.home.arpa")
	assert.Equal(t, true, in["arrives"])
	assert.Equal(t, "", in["stops_at"])
	assert.Equal(t, "asked", in["sign_in"])
	last := in["steps"].([]any)[3].(map[string]any)
	assert.Equal(t, "singing", last["title"])
	assert.Equal(t, "service", last["kind"])
	for _, from := range []string{"vlan:30", "vlan:guests", "wireless:Guests"} {
		out := way("from=" + from + "&to=songs.home.arpa")
		assert.Equal(t, false, out["arrives"], from)
		assert.Equal(t, "stays", out["stops_at"])
		assert.Equal(t, "A rule lets guests reach nothing of house.", out["why"])
		assert.Equal(t, "Let guests reach stays for “web”, and nothing else there.", out["fix"])
		assert.Equal(t, `from guests to stays: some "web"`, out["line"])
	}
	s.lines(t, `from guests to stays: some "web"`)
	assert.Equal(t, true, way("from=wireless:Guests&to=songs.home.arpa")["arrives"], "what it says lets it through")
	assert.Equal(t, true, way("from=guest:stays&to=singing")["arrives"])
	assert.Equal(t, "internet", way("from=internet&to=songs.home.arpa")["stops_at"])
	exposed := s.report(t, "exposure")["services"].([]any)[1].(map[string]any)
	assert.Equal(t, []any{"vlan:10", "vlan:30", "wireless:Guests"}, exposed["from"], "phones do not get in: there is no line outside")
	assert.Equal(t, true, exposed["sign_in"])
	reached := s.report(t, "reached")
	assert.Equal(t, []any{"songs.home.arpa"}, reached["services"].([]any)[1].(map[string]any)["names"])
	for query, say := range map[string]string{
		"from=moon&to=songs":              `\"moon\" is not a reader's place; it is such as vlan:30`,
		"from=vlan:77&to=songs":           `There is no VLAN \"77\"`,
		"from=vlan:nowhere&to=songs":      `There is no VLAN \"nowhere\"`,
		"from=wireless:x&to=songs":        `There is no wireless network \"x\"`,
		"from=remote:&to=songs":           `There is no remote access \"\"`,
		"from=device:nobody&to=songs":     `There is no device \"nobody\"`,
		"from=vlan:10&to=nowhere.example": `There is no name, service or device \"nowhere.example\"`,
		"from=vlan:10":                    `There is no name, service or device \"\"`,
		"to=songs":                        `is not a reader's place`,
	} {
		a := s.ask("GET", "/api/v1/request?"+query, "")
		assert.Equal(t, 400, a.status, query)
		assert.Contains(t, a.body, say, query)
	}
}

// A guest moves, is copied, found and undone as a device is; it is no device in the
// tables and files of those.
func TestGuestsGoThroughTheSameHandsAsDevices(t *testing.T) {
	s := served(t)
	assert.Equal(t, 200, s.ask("GET", "/api/v1/tables/guests", "").status)
	assert.Contains(t, s.ask("GET", "/api/v1/tables/guests?filter=host:anvil", "").body, "library")
	assert.NotContains(t, s.ask("GET", "/api/v1/tables/devices", "").body, "choir")
	assert.Contains(t, s.ask("GET", "/api/v1/files/guests.csv", "").body, "library,,container,")
	assert.NotContains(t, s.ask("GET", "/api/v1/files/devices.csv", "").body, "library")
	assert.Contains(t, s.ask("GET", "/api/v1/files/services.csv", "").body, "songs,")
	assert.Contains(t, s.ask("GET", "/api/v1/files/runs.dot", "").body, `label="choir, 12GB"`)
	assert.Contains(t, s.ask("GET", "/api/v1/files/runs.mmd", "").body, `(["songs"])`)
	assert.Contains(t, s.ask("GET", "/api/v1/find?q=songs", "").body, "/services/all?service=")
	assert.Contains(t, s.ask("GET", "/api/v1/find?q=library", "").body, "/services?device=")
	id := s.report(t, "hosts")["hosts"].([]any)[0].(map[string]any)["tower"].([]any)[1].(map[string]any)["id"].(string)
	refused(t, s.ask("PATCH", "/api/v1/devices/"+id, `{"at":{"where":"device","device_id":"`+id+`"}}`), 422, "at.device_id",
		"itself")
	a := s.ask("POST", "/api/v1/lines", `{"base_revision":`+strconv.Itoa(s.revision())+`,"line":"on thrush: vm \"game\""}`)
	require.Equal(t, 200, a.status, a.body)
	assert.Contains(t, a.body, "game moved from on anvil to on thrush")
	a = s.ask("POST", "/api/v1/undo", `{"base_revision":`+strconv.Itoa(s.revision())+`}`)
	require.Equal(t, 200, a.status, a.body)
	assert.Contains(t, s.ask("GET", "/api/v1/tables/guests?filter=host:anvil", "").body, "game")
}
