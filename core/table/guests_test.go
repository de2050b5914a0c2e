package table_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/table"
)

const guests = `server "anvil": 32GB
server "thrush": 16GB
template "small": 2 vcpu, 2GB
on anvil: vm "choir": 8 vcpu, 24GB, household
on choir: container "library": 2GB
on thrush: vm "made" from "small", toy
service "songs": in library
service "books": in library, household
`

// VMs and containers are a table of their own, with the host that they run on in the end
// and what their template says.
func TestTheTableOfGuests(t *testing.T) {
	l := labtest.From(t, guests)
	ix := table.Guests().New(l)
	for filter, want := range map[string]string{"": "choir, library, made", "host:anvil": "choir, library", "memory>=4GB": "choir",
		"memory=2GB": "library, made", "worth:toy": "made", "kind:container": "library", "services:books": "library", "vcpus>1": "choir, made"} {
		shown, err := ix.Show(table.Ask{Filter: filter, Columns: []string{"name"}, Sort: "name"})
		require.NoError(t, err, filter)
		var names []string
		for _, r := range shown.Rows {
			names = append(names, r.Cells[0])
		}
		assert.Equal(t, want, strings.Join(names, ", "), filter)
	}
	shown, err := ix.Show(table.Ask{Columns: []string{"host", "given_bytes"}, Group: "host"})
	require.NoError(t, err)
	require.Len(t, shown.Groups, 2)
	assert.Equal(t, "26GB", shown.Groups[0].Sums[1])
	devices, err := table.Of(lab.KindDevice).New(l).Show(table.Ask{Columns: []string{"name"}})
	require.NoError(t, err)
	assert.Equal(t, 2, devices.Of, "they are no devices there")
}
