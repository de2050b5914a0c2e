package report

import (
	"bytes"
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

const addressed = `lab "Q", currency GBP
rack "R": 9U
9 router "gate": 4 ports rj45 1G
8 server "anvil": 2 ports rj45
vlan 20 "servers"
vlan 30 "guests"
subnet 10.20.0.0/24: vlan 20, gateway .1, handed out .100-.178
subnet 10.30.0.0/29: vlan 30, gateway .1, handed out .2-.6
subnet 10.77.0.0/24: for "the parents"
subnet fd20::/64: vlan 20
gate 10.20.0.1
gate 10.30.0.1
anvil 10.20.0.12
anvil 10.20.0.150 reserved on 2
line "fibre line": fibre, 900M down, 200M up, fixed address, into gate/1, first, 38 a month
line "mobile line": mobile, 60M down, into gate/2, if it fails, 12.50 a month
line "their line": 100M down, at "the parents"
open "fibre line" tcp 443 to anvil
open "fibre line" udp 51820
open "mobile line": none
from guests to internet: some "web", down 30M, up 3M, by "fibre line" only
from guests to servers: none
`

// ran is what a report answers of a lab, and what it prints.
func ran[T any](t *testing.T, l *lab.Lab, name string) (answer T, printed string) {
	t.Helper()
	r, ok := Named(name)
	require.True(t, ok)
	is, err := r.Of(Ask{Lab: l, Built: l, Day: "2026-11-27"})
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, r.Print(&out, is))
	return is.(T), out.String()
}

// Of 10.20.0.0/24 254 may be had: 79 of them are handed out, .1 and .12 are had besides,
// which leaves 173. .150 is reserved, and among the 79.
func TestHowFullSubnetsAre(t *testing.T) {
	r, printed := ran[Subnets](t, labtest.From(t, addressed), "subnets")
	or := func(n *int64) string {
		if n == nil {
			return "?"
		}
		return fmt.Sprint(*n)
	}
	var say []string
	for _, u := range r.Subnets {
		say = append(say, fmt.Sprint(u.CIDR, " ", u.Name, ": ", or(u.Size), " ", u.Used, " ", u.Reserved, " ",
			or(u.Handed), " ", or(u.Free), " ", u.InRange, " ", u.Next))
	}
	assert.Equal(t, []string{
		"10.20.0.0/24 servers: 254 3 1 79 173 1 10.20.0.2",
		"10.30.0.0/29 guests: 6 1 0 5 0 0 ",
		"10.77.0.0/24 the parents: 254 0 0 0 254 0 10.77.0.1",
		"fd20::/64 servers: ? 0 0 0 ? 0 fd20::1",
	}, say)
	assert.Nil(t, r.Subnets[2].VLAN, "unknown, and not zero")
	assert.Equal(t, 20, *r.Subnets[3].VLAN)
	data, err := json.Marshal(r.Subnets[1])
	require.NoError(t, err)
	assert.Contains(t, string(data), `"next_free":null`, "there is none")
	assert.Contains(t, printed, "10.30.0.0/29  30    6          1     0         5           0          none\n")
	assert.Contains(t, printed, "fd20::/64     20    very many  0     0         0           very many  fd20::1\n")
	assert.Contains(t, printed, "10.77.0.0/24        254 ")
}

func TestTheLinesOutsideInOrder(t *testing.T) {
	r, printed := ran[Lines](t, labtest.From(t, addressed), "lines")
	require.Len(t, r.Lines, 3)
	fibre, mobile, theirs := r.Lines[0], r.Lines[1], r.Lines[2]
	assert.Equal(t, []any{"fibre line", 900, 200, 1, lab.FibreLine, lab.FixedLine, "gate/1", "£38"},
		[]any{fibre.Name, *fibre.DownMb, *fibre.UpMb, *fibre.Order, fibre.Medium, fibre.Address, fibre.Into, fibre.Price})
	assert.Equal(t, []string{"tcp 443 to anvil", "udp 51820"}, fibre.Opens, "where one leads is not known")
	assert.Equal(t, []any{"mobile line", 60, 2, "gate/2", "£12.50"}, []any{mobile.Name, *mobile.DownMb, *mobile.Order,
		mobile.Into, mobile.Price})
	assert.Nil(t, mobile.UpMb, "unknown, and not zero")
	assert.True(t, mobile.Closed)
	assert.Empty(t, mobile.Opens)
	assert.Equal(t, "the parents", theirs.Site)
	assert.Nil(t, theirs.Order, "it is none of this house")
	assert.Equal(t, "£50.50", r.Month, "38 and 12.50; of the third it is not known")
	require.Len(t, r.Without, 2, "one for each line of this house")
	assert.Equal(t,
		"Without fibre line everybody shares mobile line, 60 Mb/s down; guests at most 30; guests may take fibre line only, and gets nothing.",
		r.Without[0].Say)
	assert.Equal(t, 60, *r.Without[0].DownMb)
	assert.Nil(t, r.Without[0].UpMb)
	assert.Equal(t, []int{900, 200}, []int{*r.Without[1].DownMb, *r.Without[1].UpMb})
	assert.Contains(t, printed, "mobile line  60 Mb/s   ?         2               gate/2\n")
	assert.Contains(t, printed, "their line   100 Mb/s  ?         at the parents  \n")
	assert.Contains(t, printed, "\n\nWithout fibre line everybody")
	none, _ := ran[Lines](t, labtest.From(t, "line a: 1M down"), "lines")
	assert.Empty(t, none.Month, "no price is known")
	assert.Equal(t, "a", none.Lines[0].Name)
}

func TestWhoReachesWhomAsATable(t *testing.T) {
	r, printed := ran[Reach](t, labtest.From(t, addressed), "reach")
	cells := map[string]ReachCell{}
	for _, c := range r.Cells {
		cells[c.From+" to "+c.To] = c
	}
	out := cells["guests to internet"]
	assert.Equal(t, []any{lab.ReachSome, true, "over gate", "web", 30, 3, "fibre line"},
		[]any{out.Said, out.Can, out.Why, out.What, *out.DownMb, *out.UpMb, out.Only})
	assert.NotEmpty(t, out.Rule)
	unsaid := cells["servers to guests"]
	assert.Equal(t, lab.ReachNotSaid, unsaid.Said)
	assert.Empty(t, unsaid.Rule)
	assert.Nil(t, unsaid.DownMb)
	assert.Equal(t, lab.EndpointKind(lab.KindVLAN), unsaid.FromIs.Kind)
	assert.Equal(t, lab.Internet, out.ToIs.Kind)
	assert.Empty(t, out.ToIs.ID)
	assert.Len(t, r.Cells, 12, "of two VLANs, a subnet in none, and what is outside, each to each other")
	assert.Regexp(t, `guests +servers +none +holds +nothing goes round it`, printed)
	assert.Regexp(t, `guests +internet +some +yes +over gate`, printed)
	assert.Regexp(t, `servers +10\.77\.0\.0/24 +not said +no`, printed)
}
