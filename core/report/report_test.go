package report

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rack"
)

func TestWhatIsNotWeighedIsNotAZero(t *testing.T) {
	fifty := 50.0
	for want, w := range map[string]rack.Weight{
		"? of 50 kg, 2 of 2 not weighed":            {Things: 2, Unweighed: []lab.ID{"a", "b"}, HoldsKG: &fifty},
		"? kg, 1 of 1 not weighed":                  {Things: 1, Unweighed: []lab.ID{"a"}},
		"at least 4.1 of 50 kg, 1 of 2 not weighed": {Things: 2, KnownKG: 4.1, Unweighed: []lab.ID{"a"}, HoldsKG: &fifty},
		"4.1 of 50 kg":                              {Things: 1, KnownKG: 4.1, HoldsKG: &fifty},
		"0 kg":                                      {},
	} {
		assert.Equal(t, want, carries(w))
	}
}

// Each report is asked of an empty lab and of a small one: it answers with its
// own sort of answer, and its text says what is in it.
func TestEveryReportAnswersAndPrints(t *testing.T) {
	small := labtest.From(t, `lab "Q", currency GBP
rack "R": 9U
9 switch "core": 24 ports rj45 1G, 2 ports rj45 10G, 4kg, paid 40 used 2024-03
8 patch panel "PP1": 24 ports rj45
7 server "anvil": 2 ports rj45 2.5G front, 4 bays 3.5in, 4x 8TB hdd, 2x 8-core
spare drive "old": 4TB
run "stairs": 18m, inside 25mm
core/1 - PP1/1
core/2 - anvil/1 0.1m
spare 3x lead 1m cat6
core/2 untagged 20
vlan 20 "servers"
subnet 10.20.0.0/24: vlan 20, gateway .1
line fibre: 100M down
pool "hold" on anvil: raid 5 of bay 1-4
dataset "scores" on hold: 6TB
share "music" of "scores" by nfs to core
on anvil: vm "choir": 2 vcpu, 8GB, uses 3GB
`)
	says := map[string]string{
		"bin": "spares bin", "findings": "needs 0.42 m", "gear": "16", "leads": "core/1 - PP1/1", "money": "2024  £0   £40",
		"openings": "core/3", "ports": "the lab",
		"runs": "stairs", "space": "R", "to_buy": "too short", "ways_in": "leads anywhere", "vlans": "1 of 1",
		"ways": "core to anvil: at most 1 Gb/s.\nHeld down by core/2.", "threads": "core/2 - anvil/1  1         anvil",
		"subnets": "10.20.0.0/24  20    254   1     0         0           253   10.20.0.2",
		"reach":   "servers   internet  not said  no", "lines": "Without fibre nothing gets outside.",
		"feeds": "core   device", "losses": "no power leads", "battery": "no UPS", "shutdown": "no UPS", "cost": "anvil   ?", "heat": "R      ?",
		"pools": "RAID 5 of 4 x 8 TB  32 TB  24 TB = 21.8 TiB", "copies": "no copy  all of it", "shares": "anvil, core",
		"layouts": "Name a device", "data_lost": "all of it",
		"hosts": "anvil  ?       ?     8 GB   3 GB  ?     16     2      1", "without": "Name a host",
		"room_for": "the memory of anvil is not known", "fits": "Name a guest", "guest": "Name a guest",
		"needs": "choir       runs on  anvil", "request": "Name where the reader is", "reached": "no services yet", "exposure": "no services yet",
		"if_gone": "Name what goes", "worst": "anvil  device  0", "circles": "nothing waits for itself", "start": "choir",
		"poe":  "gives power",
		"slow": "2.5 Gb/s  Move the lead from core/2 to core/25.",
	}
	for _, r := range All() {
		for _, l := range []*lab.Lab{lab.New(), small} {
			with := map[string]string{}
			if r.Name == "ways" {
				with = map[string]string{"from": "core", "to": "anvil"}
				if l != small {
					continue // it has nothing to ask for: see below
				}
			}
			answer, err := r.Of(Ask{Lab: l, Built: l, Day: "2026-11-26", With: with})
			require.NoError(t, err, r.Name)
			assert.IsType(t, r.Answer, answer, r.Name)
			var out bytes.Buffer
			require.NoError(t, r.Print(&out, answer))
			assert.NotEmpty(t, out.String(), r.Name)
			if l == small {
				require.Contains(t, says, r.Name, "a new report: say here what its text has in it")
				assert.Contains(t, out.String(), says[r.Name], r.Name)
			}
		}
	}
	_, ok := Named("weather")
	assert.False(t, ok)
}

func TestAReportSaysWhichParameterIsWrong(t *testing.T) {
	l := labtest.From(t, `switch "core": 4 ports
server "anvil": 1 port`)
	for _, of := range []struct {
		report string
		with   map[string]string
		param  string
		say    string
	}{
		{"openings", map[string]string{"speed_mb": "fast"}, "speed_mb", ""},
		{"ways", map[string]string{"to": "anvil"}, "from", "Name the device the way leads from."},
		{"ways", map[string]string{"from": "core"}, "to", "Name the device the way leads to."},
		{"ways", map[string]string{"from": "core", "to": "anvik"}, "to", `There is no device "anvik", by name or ID.`},
		{"ways", map[string]string{"from": "core", "to": "CORE"}, "to", "A way leads from one device to another one, and these are the same."},
		{"ways", map[string]string{"from": "core", "to": "anvil", "vlan": "4095"}, "vlan", `A VLAN is a number from 1 to 4094, not "4095".`},
		{"ways", map[string]string{"from": "core", "to": "anvil", "vlan": "twenty"}, "vlan", `A VLAN is a number from 1 to 4094, not "twenty".`},
	} {
		r, ok := Named(of.report)
		require.True(t, ok)
		_, err := r.Of(Ask{Lab: l, With: of.with})
		var wrong *Wrong
		require.ErrorAs(t, err, &wrong)
		assert.Equal(t, of.param, wrong.Param)
		assert.Contains(t, wrong.Say, of.say)
	}
}

func TestWhyThereIsNoWay(t *testing.T) {
	l := labtest.From(t, `switch "core": 8 ports
server "anvil": 1 port
server "mill": 1 port
server "lone": 1 port
core/1 - anvil/1
core/2 - mill/1
core/1 untagged 20
core/2 untagged 30`)
	why := func(from, to, vlan string) string {
		r, _ := Named("ways")
		answer, err := r.Of(Ask{Lab: l, With: map[string]string{"from": from, "to": to, "vlan": vlan}})
		require.NoError(t, err)
		w := answer.(WidestWay)
		assert.Nil(t, w.SpeedMb)
		assert.Empty(t, w.Hops)
		return w.Why
	}
	assert.Equal(t, "No link leads there.", why("anvil", "lone", ""))
	assert.Equal(t, "VLAN 20 does not reach mill.", why("anvil", "mill", "20"))
	assert.Equal(t, "VLAN 20 does not reach mill.", why("mill", "anvil", "20"))
	assert.Equal(t, "VLAN 40 reaches neither mill nor anvil.", why("mill", "anvil", "40"))
}
