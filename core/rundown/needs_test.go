package rundown_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

const needing = `rack "R": 9U
3 server "anvil": 4 bays 3.5in, 4x 8TB hdd
pool "vault" on anvil: mirror
dataset "choir scores" on vault
on anvil: vm "choir"
on anvil: vm "names 1"
on anvil: vm "names 2"
on anvil: vm "mail"
service "choir library" in choir
service "data base" in choir
service "mail" in mail
line "fibre line"
`

// What needs what is said by a line with a verb between two names.
func TestNeedsAsTheyAreSaid(t *testing.T) {
	base := fresh(t, needing)
	for line, want := range map[string]string{
		`"choir library" needs "data base"`:                     `"choir library" needs "data base"`,
		`choir library needs data base`:                         `"choir library" needs "data base"`,
		`"choir library" wants "names 1"`:                       `"choir library" wants "names 1"`,
		`"choir" depends on "names 1" or "names 2"`:             `"choir" needs "names 1" or "names 2"`,
		`choir requires names 1`:                                `"choir" needs "names 1"`,
		`service "choir library" needs dataset "choir scores"`:  `"choir library" needs "choir scores"`,
		`service mail needs vm mail`:                            `service "mail" needs vm "mail"`,
		`choir needs line "fibre line", note "for the weather"`: `"choir" needs line "fibre line"  # for the weather`,
		`"choir library" needs vault # its pictures`:            `"choir library" needs "vault"  # its pictures`,
		`the choir library needs the data base`:                 `"choir library" needs "data base"`,
		`"choir library" needs pool anvil/vault`:                `"choir library" needs "vault"`,
	} {
		p := typed(t, base, line)
		require.Empty(t, p.Mistakes, line)
		assert.Len(t, all[lab.Need](p.Lab), 1, line)
		assert.Contains(t, rundown.Print(p.Lab), "\n"+want+"\n", line)
		assert.Equal(t, p.Lab.All(), again(t, p.Lab).All(), line)
	}
}

func TestWhatNoNeedCanBe(t *testing.T) {
	base := fresh(t, needing)
	for line, say := range map[string]string{
		`"choir" needs "choir"`:              "a thing cannot need itself",
		`"choir" needs "names 1" or names 1`: "name each alternative once",
		`"choir" needs "mail"`:               `“mail” may be service "mail" or vm "mail"; write which`,
		`"choir" needs "data bass"`:          "there is no service, guest, device, pool or dataset called “data bass”",
		`"nobody" needs "data base"`:         "there is no service, guest, device, pool or dataset called “nobody”",
		`"choir" needs service "names 1"`:    "there is no service called “names 1”",
		`"choir" needs "names 1" or`:         "name a service, a guest, a device, a pool or a dataset",
	} {
		p := typed(t, base, line)
		require.NotEmpty(t, said(p), line)
		assert.Contains(t, said(p)[0], say, line)
		assert.Empty(t, all[lab.Need](p.Lab), line)
	}
}

// What one would buy or do is a remark, as it was.
func TestWhatNeedsAHandIsARemark(t *testing.T) {
	base := fresh(t, needing)
	for _, line := range []string{"anvil needs a new fan", "anvil: needs to be moved", "vm choir needs more memory",
		`rack "R" needs 2 more fans`} {
		p := typed(t, base, line)
		require.Empty(t, p.Mistakes, line)
		assert.Len(t, p.Kept, 1, line)
		assert.Empty(t, all[lab.Need](p.Lab), line)
	}
}

// The same need said again is the same one: whether it is needed or wanted is what the
// last line says.
func TestANeedSaidAgain(t *testing.T) {
	l := fresh(t, needing+"\"choir\" needs \"names 1\"\n\"choir\" needs \"names 2\" or \"names 1\"\n")
	require.Len(t, all[lab.Need](l), 2)
	p := rundown.Load(l, rundown.ParseLine(`choir wants names 1 or names 2`), rundown.Options{NewID: ids("y")})
	require.Empty(t, p.Mistakes)
	is := all[lab.Need](p.Lab)
	require.Len(t, is, 2)
	assert.Equal(t, []bool{false, true}, []bool{is[0].Wants, is[1].Wants})

	// With what it needs goes an alternative, with the last one the need.
	key := func(name string) lab.Key { return named(t, p.Lab, name).Key() }
	without, err := p.Lab.Apply(p.Lab.Removal(key("names 1")))
	require.NoError(t, err)
	require.Len(t, all[lab.Need](without), 1)
	assert.Equal(t, []lab.Key{key("names 2")}, all[lab.Need](without)[0].Any)
	without, err = p.Lab.Apply(p.Lab.Removal(key("choir")))
	require.NoError(t, err)
	assert.Empty(t, all[lab.Need](without), "nothing needs anything any more")
}
