package exchange_test

import (
	"bytes"
	"io"
	"os/exec"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/exchange"
)

const running = `server "anvil": 32GB
server "idle": 8GB
on anvil: vm "choir": 8GB
on choir: container "library": 2GB
on choir: container "a \"quoted\" <one>"
on anvil: container "out"
on anvil: container "fetch": network of out
on anvil: vm "old": 4GB, stopped
service "songs": in library
service "printing": in anvil
service "nowhere"
`

func TestWhatRunsWhereAsAFlowchart(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, exchange.WriteRunsMermaid(&out, labtest.From(t, running)))
	assert.Equal(t, `flowchart TB
  subgraph n1["anvil"]
    subgraph n2["choir, 8GB"]
      subgraph n3["library, 2GB"]
        n4(["songs"])
      end
      n5["a #quot;quoted#quot; #lt;one#gt;"]
    end
    n6["out"]
    n7["fetch"]
    n8["old, 4GB, resting"]
    n9(["printing"])
  end
  n10(["nowhere"])
  n7 -. "network of" .-> n6
`, out.String())
}

// Graphviz takes it, and finds each thing once.
func TestWhatRunsWhereIsAGraph(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, exchange.WriteRunsDOT(&out, labtest.From(t, running)))
	cmd := exec.Command("gc", "-n", "-e", "-C")
	cmd.Stdin = &out
	said, err := cmd.CombinedOutput()
	require.NoError(t, err, "Debian's graphviz reads it")
	assert.Regexp(t, `(?s)10\s+1\s+3 `, string(said), "6 guests, 3 services, and the boxes of anvil, choir and library")
}

// Guests go out and come back, with their hosts, and are not among the devices.
func TestGuestsGoBothWays(t *testing.T) {
	l := labtest.From(t, "vlan 20\nsubnet 10.20.0.0/24: vlan 20\n"+`server "anvil": 32GB
server "thrush": 16GB
template "small": 2 vcpu, 2GB
on anvil: vm "choir": 8 vcpu, 24GB, uses 1.1GB, vlan 20 10.20.0.31, household, starts 3, waits 60s, for "34 singers"
on choir: container "library": 2GB, tcp 8080
on anvil: vm "made" from "small"
`)
	for _, of := range []*exchange.Listing{exchange.Guests, exchange.Devices} {
		var out bytes.Buffer
		require.NoError(t, of.WriteCSV(&out, l))
		assert.Equal(t, of == exchange.Guests, bytes.Contains(out.Bytes(), []byte("choir")))
		assert.Equal(t, of == exchange.Devices, bytes.Contains(out.Bytes(), []byte("thrush")))
		sheet, err := of.Read(t.Context(), l, out.Bytes(), exchange.Taking{}, labtest.IDs("x"))
		require.NoError(t, err)
		assert.Empty(t, sheet.Changes, "the same that was written")
	}
	sheet, err := exchange.Guests.Read(t.Context(), l,
		[]byte("name,kind,where,memory,vlan\nchoir,vm,on thrush,16GB,\nnew,container,on choir,1GB,\n"),
		exchange.Taking{Guess: true}, labtest.IDs("x"))
	require.NoError(t, err)
	for _, r := range sheet.Rows {
		require.NotEqual(t, exchange.RowRefused, r.Verb, r.Say)
	}
	now, err := l.Apply(sheet.Changes)
	require.NoError(t, err)
	choir := labtest.Named[lab.Device](t, now, "choir")
	assert.Equal(t, int64(16<<30), *choir.Given)
	assert.Equal(t, labtest.Named[lab.Device](t, now, "thrush").ID, choir.At.Device)
	assert.Equal(t, choir.ID, labtest.Named[lab.Device](t, now, "new").At.Device)
}

// What comes in no kinds takes none from who hands the file in.
func TestAKindForWhatHasNone(t *testing.T) {
	l := labtest.From(t, running)
	for _, of := range exchange.Listings() {
		if !slices.Contains([]string{"services", "clusters", "stacks", "templates", "runs"}, of.List) {
			continue
		}
		sheet, err := of.Read(t.Context(), l, []byte("name\nlark\n"), exchange.Taking{Kind: "server"}, labtest.IDs("x"))
		require.NoError(t, err, of.List)
		assert.Equal(t, exchange.RowRefused, sheet.Rows[0].Verb, of.List)
		assert.Contains(t, sheet.Rows[0].Say, of.List+" are of no kinds, such as “server”; leave that out")
	}
}

// Services, names, clusters, stacks and templates go out and come back as tables.
func TestServicesGoBothWays(t *testing.T) {
	l := labtest.From(t, running+`template "small": 2 vcpu, 2GB
cluster "pair": anvil, idle, 4 guests
stack "music": choir, songs, for "Sunday"
tunnel "front door": from anvil outwards
songs.home.arpa -> choir -> songs:8080, sign-in by "keys", certificate until 2027-01-26
songs.example -> tunnel "front door" -> choir:443, open to the world, without sign-in
name "hymns" -> "songs.home.arpa"
other.home.arpa -> choir, only vlan 10,20
`)
	for _, of := range exchange.Listings() {
		if !slices.Contains([]string{"services", "names", "clusters", "stacks", "templates"}, of.List) {
			continue
		}
		for _, write := range []func(io.Writer, *lab.Lab) error{of.WriteCSV, of.WriteXLSX} {
			var out bytes.Buffer
			require.NoError(t, write(&out, l))
			sheet, err := of.Read(t.Context(), l, out.Bytes(), exchange.Taking{}, labtest.IDs("x"))
			require.NoError(t, err, of.List)
			assert.NotEmpty(t, sheet.Rows, of.List)
			for _, r := range sheet.Rows {
				assert.NotEqual(t, exchange.RowRefused, r.Verb, "%s: %s", of.List, r.Say)
			}
			assert.Empty(t, sheet.Changes, of.List)
		}
	}
}
