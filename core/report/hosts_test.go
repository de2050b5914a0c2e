package report

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/labtest"
)

const hosting = `server "anvil": 32GB, 16 cores, runs hypervisor "Cairn" 9.1, keeps 4GB, 90W
server "thrush": 16GB, 8 cores, runs hypervisor
server "unsaid": runs containers
cluster "pair": anvil, thrush, 3 guests, 2GB given
on anvil: vm "choir": 8 vcpu, 12GB, uses 2GB, household, starts 3, 60s after the one before
on anvil: vm "game": 8GB, toy, restarts elsewhere
on choir: container "library": 2GB
on unsaid: 5 containers
service "songs": in choir
`

// reported is the text of a report.
func reported(t *testing.T, name string, with map[string]string) string {
	t.Helper()
	l := labtest.From(t, hosting)
	r, ok := Named(name)
	require.True(t, ok)
	answer, err := r.Of(Ask{Lab: l, Built: l, Day: "2026-11-28", With: with})
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, r.Print(&out, answer))
	return out.String()
}

func TestHostsAsText(t *testing.T) {
	assert.Equal(t, `Host    Fitted  Kept  Given  Used  Left   Cores  vCPUs  Guests
anvil   32 GB   4 GB  20 GB  2 GB  8 GB   16     8      2
unsaid  ?       ?     ?      ?     ?      ?      ?      5
thrush  16 GB   ?     0 GB   0 GB  16 GB  8      0      0

Without anvil 1 of 2 start elsewhere.
`, reported(t, "hosts", nil))
}

func TestAHostThatIsGoneAsText(t *testing.T) {
	assert.Equal(t, `Guest  Goes to     By    Why not
choir  thrush      hand  
game   stays dark        takes 8 GB; thrush has 4 GB left

Without anvil 1 of 2 start elsewhere.
`, reported(t, "without", map[string]string{"host": "anvil"}))
	assert.Equal(t, "Nothing runs on thrush.\n", reported(t, "without", map[string]string{"host": "thrush"}))
	assert.Contains(t, reported(t, "without", map[string]string{"host": "unsaid", "planned": "true"}), "no other host runs the same")
}

func TestRoomAndChecksAsText(t *testing.T) {
	assert.Equal(t, `Host    Fit  Why
anvil   2    
unsaid  ?    the memory of unsaid is not known
thrush  4    
`, reported(t, "room_for", map[string]string{"memory_bytes": "4294967296"}))
	assert.Contains(t, reported(t, "room_for", nil), "anvil   0    8 GB is left, and it takes 10 GB", "the mean of 12 and 8 GB")
	assert.Equal(t, `Host    Fits  Why not
anvil   yes   
unsaid  no    unsaid runs containers and no VMs
thrush  yes   
`, reported(t, "fits", map[string]string{"guest": "choir"}))
	assert.Equal(t, `Guest  Lives in  Given  Newest copy  Elsewhere
game   anvil     8 GB                restarts elsewhere by itself
`, reported(t, "guest", map[string]string{"guest": "game"}))
}

// 90 W times 12 of the 20 GB that guests take there is 54 W.
func TestAGuestsShareOfTheWatts(t *testing.T) {
	l := labtest.From(t, hosting)
	r, _ := Named("guest")
	of := func(name string) GuestCard {
		answer, err := r.Of(Ask{Lab: l, Built: l, Day: "2026-11-28", With: map[string]string{"guest": name}})
		require.NoError(t, err)
		return answer.(GuestCard)
	}
	choir := of("choir")
	require.NotNil(t, choir.Watts)
	assert.InDelta(t, 54, *choir.Watts, 0.01)
	assert.Equal(t, "as number 3, 60 s after the one before", choir.Starts)
	assert.Equal(t, []string{"songs"}, choir.Holds)
	assert.Nil(t, of("library").Watts, "it is in the share of choir")
	assert.Equal(t, "choir, anvil", of("library").Lives)
}
