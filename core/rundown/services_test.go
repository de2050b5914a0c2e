package rundown_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

const runsOn = `vlan 10 "home"
vlan 20 "servers"
subnet 10.20.0.0/24 vlan 20
rack "R": 24U
  1-2 server "anvil", 96GB, 16 cores: 4 bays, 2x 1TB ssd, slot 3 card "radio": 2 ports rj45
  3 server "thrush", 32GB, 8 cores
  4 switch "core": 8 ports rj45
  5 single-board computer "crust", 8GB
pool "vault" on anvil: mirror of bay 1-2
dataset "stuff" on vault
share "bulk" of stuff by nfs
template "small": 2 vcpu, 2GB
`

// How people say what runs where, and how that is written again.
func TestServicesAsTheyAreSpoken(t *testing.T) {
	const choir = "on anvil: vm \"choir\": 8 vcpu, 24GB\n"
	for _, c := range []struct{ said, written string }{
		{`anvil: runs hypervisor "Tarn" 9.1 until 2027-06, keeps 6GB`,
			` slot 3 card radio, runs hypervisor, system "Tarn", system version 9.1, supported until 2027-06, keeps 6GB`},
		{`anvil: runs a hypervisor, keeps back 6 gigs`, `, runs hypervisor, keeps 6GB`},
		{`anvil: runs Tarn 9.1`, `, system "Tarn", system version 9.1`},
		{`anvil: runs containers`, `, runs containers`},
		{`anvil: runs a container engine`, `, runs containers`},
		{`anvil: runs a plain system "Moss" version "12 long" supported until 2028`,
			`, runs plain, system "Moss", system version "12 long", supported until 2028`},
		{`on anvil: vm "choir": 8 cores, 24GB ram, uses 14GB, disk 80GB on vault, household`, `vm "choir": 8 vcpu, 24GB, uses 14GB, household`},
		{`on anvil: vm "choir": 8 cores and 24 gigs of ram`, `vm "choir": 8 vcpu, 24GB`},
		{`on anvil: vm choir, 24GB, stopped`, `vm "choir", resting: 24GB`},
		{`on anvil: virtual machine "choir": memory ?`, `vm "choir"`},
		{`on anvil: vm "choir": uses 14GB 2026-11-20`, `vm "choir": uses 14GB 2026-11-20`},
		{`vm "choir" on anvil: 24GB`, `vm "choir": 24GB`},
		{`on anvil: vm "choir": vlan 20 10.20.0.31, vlan 10`, `vm "choir": vlan 20 10.20.0.31, vlan 10`},
		{`on anvil: vm "choir": starts 3, 60s after the one before`, `vm "choir": starts 3, waits 60s`},
		{`on anvil: vm "choir": starts third, waits 2 minutes`, `vm "choir": starts 3, waits 120s`},
		{`on anvil: vm "choir": from "small", pinned`, `vm "choir": from "small", pinned`},
		{`on anvil: vm "choir": restarts elsewhere by itself`, `vm "choir": restarts elsewhere`},
		{`on anvil: vm "choir": moved by hand`, `vm "choir": moved by hand`},
		{`on anvil: vm "choir": has slot 3`, `vm "choir": has slot 3`},
		{`on anvil: vm "choir": has the usb "radio stick"`, `vm "choir": has "radio stick"`},
		{`on anvil: vm "choir": port 8080, udp 53`, `vm "choir": tcp 8080, udp 53`},
		{`on anvil: vm "choir": also runs a container engine`, `vm "choir": runs containers`},
		{`on anvil: vm "edge": 2GB, firewall, routes`, `vm "edge": 2GB, also firewall, routes`},
		{choir + `on choir: container "library": 2GB, port 8080`, `container "library": 2GB, tcp 8080`},
		{choir + `on choir: container "out"` + "\n" + `on choir: container "fetch", network of out`, `container "fetch": network of out`},
		{choir + `on anvil: vm "late": starts after choir`, `vm "late": starts after choir`},
		{`on crust: 14 containers, use 5.5GB`, `14 containers: uses 5.5GB`},
		{`on crust: about 14 containers`, `14 containers`},
		{`on crust: 14 containers in one engine, 5.5 of 16 gigs`, `14 containers: uses 5.5GB, in one engine`},
		{`14 containers on crust`, `14 containers`},
		{`crust: containers`, `single-board computer "crust": runs containers`},
		{`crust: a hypervisor, keeps 2 for itself`, `single-board computer "crust": runs hypervisor, keeps 2GB`},
		{`on anvil: vm books 32 gigs`, `vm "books": 32GB`},
		{`on anvil: vm choir books, 32 gigs, 1.5 used`, `vm "choir books": 32GB, uses 1.5GB`},
		{choir + `on choir: container vpn` + "\n" + `on choir: container fetch, only through vpn`, `container "fetch": network of vpn`},
		{`cluster "pair": anvil and thrush, about 20 guests, 200GB together`, `cluster "pair": hosts anvil, thrush, 20 guests, 200GB given`},
		{`cluster "pair": anvil, thrush, anvil's shared pool`, `cluster "pair": hosts anvil, thrush, shared vault`},
		{choir + `service "songs": in choir, port 443, https, household, used by "the choir", "Ada"`,
			`service "songs": in choir, tcp 443, https, household, used by "the choir", used by "Ada"`},
		{choir + `service songs on choir, tcp 443`, `service "songs": in choir, tcp 443`},
		{`service "songs"`, `service "songs"`},
		{`cluster "pair": anvil, thrush, shared vault`, `cluster "pair": hosts anvil, thrush, shared vault`},
		{`cluster "pair": hosts anvil and thrush, 20 guests, 60GB given`, `cluster "pair": hosts anvil, thrush, 20 guests, 60GB given`},
		{choir + `service "songs": in choir` + "\n" + `stack "music": choir, songs, for "Sunday"`,
			`stack "music": of "choir", "songs", for "Sunday"`},
		{`template "large": 8 cores, 16GB ram, 64GB disk, system "Moss"`, `template "large": 8 vcpu, 16GB, disk 64GB, system "Moss"`},
	} {
		t.Run(c.said, func(t *testing.T) {
			p := load(t, lab.New(), runsOn+c.said+"\n", rundown.Options{All: true})
			require.Empty(t, p.Mistakes)
			written := rundown.Print(p.Lab)
			assert.Contains(t, inOneLine(written)+"\n", c.written+"\n")
			again := load(t, lab.New(), written, rundown.Options{All: true})
			require.Empty(t, again.Mistakes, written)
			assert.Equal(t, written, rundown.Print(again.Lab))
		})
	}
}

// inOneLine joins lines that go on.
func inOneLine(text string) string {
	for n := 16; n > 6; n-- {
		text = strings.ReplaceAll(text, ",\n"+strings.Repeat(" ", n), ", ")
	}
	return text
}

// A guest's disk and what it mounts are records of their own, and are known again.
func TestDisksAndMountsOfGuests(t *testing.T) {
	const line = `on anvil: vm "choir": 24GB, 80GB on vault, mounts "bulk"`
	l := fresh(t, runsOn+line+"\n")
	written := rundown.Print(l)
	assert.Contains(t, written, `dataset "choir disk" on vault: 80GB, disk of choir`)
	assert.Contains(t, written, `share "bulk" of "stuff": by nfs, to choir`)
	p := load(t, l, line, rundown.Options{})
	require.Empty(t, p.Mistakes)
	assert.Empty(t, p.Changes, "the same said again")
	p = load(t, l, `choir: 100GB on vault`, rundown.Options{})
	require.Empty(t, p.Mistakes)
	assert.Contains(t, rundown.Print(p.Lab), `dataset "choir disk" on vault: 100GB, disk of choir`)
}

// A guest moves, is renamed and goes as a device does; the one that was known is meant.
func TestAGuestMovesByItsLine(t *testing.T) {
	l := fresh(t, runsOn+"on anvil: vm \"choir\": 24GB, vlan 20 10.20.0.31\non choir: container \"library\"\n")
	choir := guest(t, l, "choir")
	p := load(t, l, "on thrush: vm \"choir\"", rundown.Options{})
	require.Empty(t, p.Mistakes)
	moved := guest(t, p.Lab, "choir")
	assert.Equal(t, choir.ID, moved.ID)
	assert.Equal(t, guest(t, l, "thrush").ID, moved.At.Device)
	host, ok := p.Lab.HostOf(guest(t, p.Lab, "library"))
	assert.True(t, ok)
	assert.Equal(t, "thrush", host.Name)
	assert.Equal(t, []lab.Leg{{VLAN: 20, Addresses: moved.Addresses}}, moved.Legs())
}

func guest(t *testing.T, l *lab.Lab, name string) lab.Device {
	t.Helper()
	var found []lab.Device
	for d := range lab.Each[lab.Device](l) {
		if d.Name == name {
			found = append(found, d)
		}
	}
	require.Len(t, found, 1, name)
	return found[0]
}

// What is wrong about a guest, a service or a cluster is said where it stands.
func TestMistakesAboutServices(t *testing.T) {
	const base = runsOn + "on anvil: vm \"choir\": 24GB\non choir: container \"library\": 2GB\n"
	for _, c := range []struct{ line, say string }{
		{`on choir: vm "choir"`, "choir"},
		{`on library: vm "deep"`, "cannot run in “library”, which is a container"},
		{`on core: vm "x"`, "cannot run on “core”: a switch runs no guests"},
		{`on anvil: vm "x": -1GB`, "cannot be negative"},
		{`on anvil: vm "x": 10TB`, "out of range"},
		{`on anvil: vm "x": 0 vcpu`, "1 to 1024 vCPUs"},
		{`on anvil: vm "x": tcp 70000`, "between 1 and 65535"},
		{`on anvil: vm "x": port 0`, "between 1 and 65535"},
		{`on anvil: vm "x": starts after x`, "would wait for itself"},
		{`on anvil: vm "x": vlan 5000`, "VLAN"},
		{`on anvil: vm "x": 80GB on "cellar"`, "cellar"},
		{`on anvil: vm "x": mounts "nothing"`, ""},
		{`on anvil: vm "x": network of choir`, "only a container shares the network"},
		{`library: network of library`, "cannot share the network of itself"},
		{`on anvil: vm "x": pinned, restarts elsewhere`, "pinned"},
		{`on nowhere: vm "x"`, "nowhere"},
		{`cluster "alone": anvil`, "a cluster is 2 to 200 hosts, not 1"},
		{`cluster "odd": anvil, core`, "runs no guests"},
		{`cluster "none": anvil, thrsh`, "did you mean “thrush”?"},
		{`stack "s": nobody`, "there is no guest or service called “nobody”"},
		{`service "s": in nobody`, "nobody"},
		{`service "s": tcp 8080, tcp 99999`, "between 1 and 65535"},
		{`anvil: keeps -2GB`, "cannot be negative"},
		{`core: 8 vcpu`, ""},
	} {
		t.Run(c.line, func(t *testing.T) {
			p := load(t, lab.New(), base+c.line+"\n", rundown.Options{All: true})
			if c.say == "" {
				assert.True(t, len(p.Mistakes) > 0 || len(p.Kept) > 0, "refused, or kept as it was said")
				return
			}
			require.NotEmpty(t, p.Mistakes, rundown.Print(p.Lab))
			assert.Contains(t, p.Mistakes[0].Say, c.say)
		})
	}
}

// FuzzGuests: whatever is said of a guest is either refused with a sentence, or is written
// so that it reads back to the same.
func FuzzGuests(f *testing.F) {
	for _, said := range []string{"8 vcpu, 24GB, uses 14GB", "80GB on vault, vlan 20 10.20.0.31", "starts 3, 60s after the one before",
		"has slot 3, pinned",
		"network of out", "tcp 8080, udp 53, port 22", "from small, restarts elsewhere", "firewall, vlan 10, vlan 20 10.20.0.1",
		"mounts bulk, toy, stopped",
		"1.5 used, 5.5 of 16 gigs", "runs containers, system \"Moss\" 12 until 2028", "8 cores and 24 gigs of ram",
		"has the usb \"radio stick\""} {
		f.Add(said)
	}
	f.Fuzz(func(t *testing.T, said string) {
		if strings.ContainsAny(said, "\n\r#") {
			return
		}
		const out = "on anvil: container \"out\"\n"
		p := load(t, lab.New(), runsOn+out+"on anvil: container \"g\": "+said+"\n", rundown.Options{All: true})
		for _, m := range p.Mistakes {
			require.NotEmpty(t, m.Say)
		}
		if len(p.Mistakes) > 0 {
			return
		}
		written := rundown.Print(p.Lab)
		again := load(t, lab.New(), written, rundown.Options{All: true})
		require.Empty(t, again.Mistakes, written)
		require.Equal(t, written, rundown.Print(again.Lab))
	})
}
