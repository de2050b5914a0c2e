package rundown_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
)

const behindProxy = `rack r: 10U, 19in
? server "anvil"
? server "nas.local"
on anvil: vm "way in": 1GB
on anvil: vm "library": 1GB
on anvil: vm "twin": 1GB
service "twin" in library
tunnel "front door": from anvil outwards
service "choir library" in library, tcp 8080
`

// ownLine is what the lab prints about the only name, or the choir library, after a line.
func ownLine(t *testing.T, line, head string) (said string, mistakes []string) {
	t.Helper()
	p := rundown.Load(labtest.From(t, behindProxy), rundown.Parse(line), rundown.Options{NewID: labtest.IDs("own")})
	for _, m := range p.Mistakes {
		mistakes = append(mistakes, m.Say)
	}
	printed := rundown.Print(p.Lab)
	again := rundown.Load(p.Lab, rundown.Parse(printed), rundown.Options{NewID: labtest.IDs("again"), All: true, Forget: true})
	require.Empty(t, again.Mistakes, printed)
	require.Empty(t, again.Changes, "what is printed is read again as it was")
	for _, l := range strings.Split(strings.ReplaceAll(printed, ",\n        ", ", "), "\n") {
		if rest, ok := strings.CutPrefix(l, head); ok {
			said = rest
		}
	}
	return said, mistakes
}

func TestANameLeadsOnThroughWhatPassesItOn(t *testing.T) {
	for line, want := range map[string]string{
		`a.example -> "way in" -> library:8080, certificate until 2027-01-26, sign-in by "keys"`://
		`-> way in -> library port 8080, sign-in by "keys", certificate until 2027-01-26`,
		`name a.example -> tunnel "front door" -> "way in":443, open to the world, with sign-in`: `-> "front door" -> way in port 443, open to the world, with sign-in`,
		`a.example -> 10.20.0.3:8443`:                                 `-> 10.20.0.3 port 8443`,
		`a.example -> library on port 8080`:                           `-> library port 8080`,
		`a.example -> the library`:                                    `-> library`,
		`a.example -> vm twin`:                                        `-> vm "twin"`,
		`a.example -> service twin port 80`:                           `-> service "twin" port 80`,
		`a.example -> "choir library"`:                                `-> "choir library"`,
		`a.example: open to the world, no password`:                   `open to the world, without sign-in`,
		`a.example -> library, only vlan 10 and 20`:                   `-> library, only vlan 10,20`,
		`a.example -> library, this host only`:                        `-> library, only its host`,
		`a.example -> library, inside only`:                           `-> library, only the lab`,
		`a.example -> library, through a tunnel, cert until Jan 2027`: `-> library, through a tunnel, certificate until 2027-01`,
		`a.example -> elsewhere.example`:                              `-> "elsewhere.example"`,
		`a.example -> library, sign-in by "keys", without sign-in`:    `-> library, without sign-in`,
		`a.example -> library, only vlan 10, open to the world`:       `-> library, open to the world`,
		`a.example -> library, open to the world, only vlan 10`:       `-> library, only vlan 10`,
		`a.example -> "way in" -> twin`:                               ``, // which twin is not said
	} {
		said, mistakes := ownLine(t, line, `name "a.example": `)
		if want == "" {
			assert.Equal(t, []string{"“twin” may be vm \"twin\" or service \"twin\"; write which"}, mistakes, line)
			continue
		}
		assert.Empty(t, mistakes, line)
		assert.Equal(t, want, said, line)
	}
	said, _ := ownLine(t, `service "choir library": without sign-in, only the lab`, `service "choir library": `)
	assert.Equal(t, "in library, tcp 8080, only the lab, without sign-in", said)
}

func TestWhatIsNoWayOfAName(t *testing.T) {
	for line, want := range map[string]string{
		`a.example -> "way in" -> librry:8080`:              "there is no device called “librry”: did you mean “library”?",
		`a.example -> "way in" -> library:99999`:            "“99999” is not a port; it is between 1 and 65535",
		`a.example -> library:0`:                            "“0” is not a port; it is between 1 and 65535",
		`a.example -> library:8080 -> library:8080`:         "the way goes round: it comes to the same place twice; end it where it is answered",
		`a.example -> "way in" ->`:                          "say where it leads, such as -> library:8080",
		`a.example -> "way in" -> name a.example`:           "the way goes round: it comes to the same place twice; end it where it is answered",
		`name "a b" -> "way in"`:                            "“a b”",
		`a.example -> tunnel "back door"`:                   "there is no tunnel called “back door”",
		"a.example -> \"no\nsuch\"":                         "",
		`a.example -> library, only vlan 9999`:              "a VLAN's number is 1 to 4094, not 9999",
		`a.example -> library, certificate until 31.2.2027`: "there is no day “31.2.2027”",
	} {
		p := rundown.Load(labtest.From(t, behindProxy), rundown.Parse(line), rundown.Options{NewID: labtest.IDs("own")})
		if assert.NotEmpty(t, p.Mistakes, line) {
			assert.Contains(t, p.Mistakes[0].Say, want, line)
		}
	}
}

// A device may have a dot in its name, and then its lines are about it.
func TestADottedNameMayBeADevices(t *testing.T) {
	p := rundown.Load(labtest.From(t, behindProxy), rundown.Parse("nas.local: 24kg\nnas.local -> anvil"),
		rundown.Options{NewID: labtest.IDs("own")})
	assert.Empty(t, p.Mistakes)
	assert.Empty(t, slices.Collect(lab.Each[lab.Name](p.Lab)))
	assert.Len(t, slices.Collect(lab.Each[lab.Cable](p.Lab)), 1)
	p = rundown.Load(labtest.From(t, ""), rundown.Parse("rack r: 10U\n? server \"nas.local\"\nnas.local: 24kg\nbox.local -> nas.local"),
		rundown.Options{NewID: labtest.IDs("own")})
	assert.Empty(t, p.Mistakes)
	assert.Len(t, slices.Collect(lab.Each[lab.Name](p.Lab)), 1)
}

// What a name leads through may go: what is behind that is nothing then.
func TestAHopOfANameGoes(t *testing.T) {
	l := rundown.Load(labtest.From(t, behindProxy), rundown.Parse("a.example -> tunnel \"front door\" -> \"way in\" -> library:8080"),
		rundown.Options{NewID: labtest.IDs("own")}).Lab
	for gone, want := range map[string]string{"library": "-> \"front door\" -> way in", "way in": "-> \"front door\""} {
		id, _ := rundown.DeviceNamed(l)(gone)
		after, err := l.Apply(l.Removal(lab.Key{Kind: lab.KindDevice, ID: id}))
		require.NoError(t, err)
		assert.Contains(t, rundown.Print(after), "name \"a.example\": "+want+"\n")
	}
	tunnel, _ := l.Named(lab.KindTunnel, "front door")
	after, err := l.Apply(l.Removal(lab.Key{Kind: lab.KindTunnel, ID: tunnel}))
	require.NoError(t, err)
	assert.Contains(t, rundown.Print(after), "name \"a.example\"\n")
}
