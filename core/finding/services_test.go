package finding_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/finding"
	"levelstaff/core/labtest"
)

const twoHosts = `vlan 20 "servers"
vlan 30 "cameras"
subnet 10.20.0.0/24: vlan 20
rack "R": 24U
  1 server "anvil": 32GB, 4 cores, runs hypervisor, 2 ports rj45, 4 bays, 2x 1TB ssd
  2 server "thrush": 16GB, 8 cores, runs hypervisor
  3 nas "silo": 4 bays, 2x 4TB
  4 switch "core": 8 ports rj45
core/1 - anvil/1
core/1 tagged 20
anvil/1 tagged 20
core/2 tagged 30
pool "fast" on anvil: mirror of bay 1-2
pool "hold" on silo: mirror of bay 1-2
`

// inServers is a site in web, and something that can pass requests on to it.
const inServers = `on anvil: vm "way in": 1GB, vlan 20 10.20.0.5
on anvil: vm "web": 1GB, vlan 20 10.20.0.6
? router "gate"
gate 10.20.0.1
service "site" in web, tcp 80
`

// open lets the site be reached from outside.
const open = "line \"out\": 10M down, fixed address, into gate\nopen \"out\" tcp 80 to web\n"

// Each line or two makes one check speak.
func TestWhatTheChecksOfServicesSay(t *testing.T) {
	for _, c := range []struct{ check, lines, say string }{
		{"memory-over", "on anvil: vm \"a\": 20GB\non anvil: vm \"b\": 16GB", "anvil has 32 GB and has given 36 GB: 4 GB more than fitted."},
		{"memory-over", "anvil: keeps 6GB\non anvil: vm \"a\": 30GB", "anvil has 32 GB, keeps 6 GB and has given 30 GB: 4 GB more than fitted."},
		{"memory-over", "on anvil: vm \"a\": 4GB\non a: container \"b\": 3GB\non a: container \"c\": 2GB\non a: container \"d\": 9GB, stopped",
			"a is given 4 GB, and what runs in it 5 GB."},
		{"vcpus-over", "on anvil: vm \"a\": 17 vcpu, 1GB", "anvil has given 17 vCPUs and has 4 cores: more than 4 to each."},
		{"toy-beside", "on anvil: vm \"books\": 20GB, household\non anvil: vm \"game\": 10GB, toy",
			"anvil has 2 GB left, and runs toys (game) beside what the household needs (books)."},
		{"names-together", "on anvil: vm \"n1\": 1GB\non anvil: vm \"n2\": 1GB\nvlan 20: name servers n1 and n2",
			"n1 and n2, the name servers of VLAN 20 servers, are all on anvil: while it is down nothing there has a name."},
		{"guest-vlan", "on anvil: vm \"eyes\": 1GB, vlan 30", "eyes has a leg in VLAN 30, and no cable carries that to anvil."},
		{"guest-disk", "on thrush: vm \"a\": 1GB, 80GB on fast",
			"The disk of a is on fast in anvil, and nothing says that thrush reaches it: it mounts no share of it, and shares no such pool."},
		{"guest-disk", "on anvil: vm \"a\": 1GB, 80GB on fast\npool \"fast\" on anvil: 900GB used",
			"The disk of a is on fast, which is 90 % full."},
		{"guest-disk", "silo: resting\non anvil: vm \"a\": 1GB, 80GB on hold", "The disk of a is on hold in silo, which does not run."},
		{"port-twice", "on anvil: vm \"a\": 1GB\nservice \"x\": in a, tcp 80\nservice \"y\": in a, tcp 80", "x and y are both on tcp 80 of a."},
		{"port-twice", "on anvil: vm \"a\": 1GB\non a: container \"x\": tcp 80\non a: container \"y\": tcp 80",
			"x and y are both on tcp 80 of a."},
		{"port-twice", "on anvil: container \"out\": vlan 20, tcp 80\non anvil: container \"in\": network of out, tcp 80",
			"out and in are both on tcp 80 of out."},
		{"handed-twice", "on anvil: vm \"a\": 1GB, has slot 3\non anvil: vm \"b\": 1GB, has slot 3",
			"slot 3 is handed to both a and b; only one can have it."},
		{"not-shared", "on anvil: vm \"a\": 1GB, restarts elsewhere", "a is to restart elsewhere by itself, and anvil is in no cluster."},
		{"not-shared", "cluster \"pair\": anvil, thrush\non anvil: vm \"a\": 1GB, 80GB on fast, restarts elsewhere",
			"a is to restart elsewhere by itself, and its disk is on fast, which is in anvil alone."},
		{"not-shared", "cluster \"pair\": anvil, thrush\non anvil: vm \"a\": 1GB, restarts elsewhere",
			"a is to restart elsewhere by itself, and nothing says that the hosts of pair share storage."},
		{"needs-circle", "on anvil: vm \"a\": 1GB\non thrush: vm \"b\": 1GB\n\"a\" needs \"b\"\n\"b\" needs \"a\"",
			"From dark this does not start: a needs b, and b needs a. " +
				"To open the circle, let a start without b: it wants it, or needs another one too."},
		{"needs-off", "on anvil: vm \"a\": 1GB\non thrush: vm \"b\": 1GB, stopped\nservice \"songs\" in a\n\"songs\" needs \"b\"",
			"songs is said to run, and cannot: songs needs b; b does not run."},
		{"starts-early", "on anvil: vm \"a\": 1GB, starts 1\non anvil: vm \"b\": 1GB, starts 2\nservice \"songs\" in a\nservice \"data\" in b\n\"songs\" needs \"data\"",
			"a starts in turn 1, before b in turn 2, which it needs."},
		{"household-stuck", "on anvil: vm \"a\": 20GB, household",
			"The household needs a, and it can go nowhere when anvil is gone: takes 20 GB; thrush has 16 GB left."},
		{"runs-on-resting", "thrush: resting\non thrush: vm \"a\": 1GB", "a is said to run on thrush, which is resting."},
		{"runs-on-resting", "on anvil: container \"out\": stopped\non anvil: container \"in\": network of out",
			"in shares the network of out, which is resting."},
		{"wrong-engine", "silo: runs containers\non silo: vm \"a\": 1GB", "a is a VM, and silo runs containers and no VMs."},
		{"no-host", "vm \"a\": 1GB", "Nobody said which host a runs on."},
		{"past-support", "anvil: system \"Tarn\", version 9.1, supported until 2026-06",
			"anvil runs Tarn 9.1, which was supported until 2026-06."},
		{"past-support", "on anvil: vm \"a\": supported until 2025", "a runs its system, which was supported until 2025."},
		{"address-twice", "on anvil: vm \"a\": vlan 20 10.20.0.9\non thrush: vm \"b\": vlan 20 10.20.0.9", "10.20.0.9"},
		{"address-outside", "subnet 10.30.0.0/24: vlan 30\non anvil: vm \"a\": vlan 20 10.30.0.9",
			"10.30.0.9 of a is on port vlan 20, which is in VLAN 20"},
		{"name-wrong", inServers + "site.example -> \"way in\" -> 10.20.0.77:80",
			"The name site.example does not get there: No device is written down that has 10.20.0.77. Give the address to a device,"},
		{"name-wrong", inServers + "site.example -> \"way in\" -> web:81",
			"The name site.example does not get there: Nothing in web listens on 81. Lead there by another port: site on tcp 80."},
		{"name-wrong", inServers + "a.example -> \"way in\" -> name b.example\nb.example -> \"way in\" -> name a.example",
			"The name a.example does not get there: a.example is passed on round in a circle"},
		{"past-proxy", inServers + "site.home.arpa -> \"way in\" -> web:80\nold.home.arpa -> web:80",
			"The name old.home.arpa leads straight to site, past way in, which site.home.arpa goes through."},
		{"not-reached", "subnet 10.99.0.0/24: vlan 99\non anvil: vm \"far\": 1GB, vlan 99 10.99.0.5\nservice \"page\" in far, tcp 80",
			"Nobody reaches page; from servers: No router has an address in servers (20)."},
		{"reached-too-far", inServers + "site.home.arpa -> web:80, only vlan 30", "site.home.arpa is meant for VLAN 30, and is reached from servers too."},
		{"reached-too-far", inServers + open +
			"site.example -> web:80, only the lab", "site.example is meant for the lab alone, and is reached from internet too."},
		{"reached-too-far", inServers + "site.example -> web:80, open to the world",
			"site.example is meant to be reached from outside, and is not: There is no line outside."},
		{"open-no-sign-in", inServers + open + "site.example -> web:80, without sign-in",
			"site is reached from anywhere outside by site.example, and nobody has to sign in."},
		{"open-no-sign-in", inServers + open + "site.example -> web:80",
			"site is reached from anywhere outside by site.example, and it is not written down whether one signs in."},
		{"certificate", "site.example -> anvil, certificate until 2026-12-11", "The certificate of site.example ends on 2026-12-11, in 13 days."},
		{"certificate", "service \"x\": certificate until 2026-11-27", "The certificate of x ended on 2026-11-27."},
		{"household-one-leg", "on anvil: vm \"a\": 1GB\nservice \"x\": in a, household",
			"x, which the household lives with, has no stand-by for some one thing, such as anvil."},
	} {
		t.Run(c.check+" "+c.lines, func(t *testing.T) {
			l := labtest.From(t, twoHosts+c.lines)
			said := map[string][]string{}
			for _, f := range finding.All(l, "2026-11-28") {
				check, _, _ := strings.Cut(f.Key, " ")
				said[check] = append(said[check], f.Say)
			}
			if assert.NotEmpty(t, said[c.check]) {
				assert.Contains(t, said[c.check][0], c.say)
			}
		})
	}
}

// What comes in by a tunnel to where a service runs goes through no proxy, and a name for the
// lab alone past none.
func TestATunnelIsNoProxy(t *testing.T) {
	l := labtest.From(t, twoHosts+inServers+"tunnel \"front door\": from web outwards\nsite.example -> tunnel \"front door\" -> web\n"+
		"site.home.arpa -> web:80\n")
	for _, f := range finding.OfWays(l, "2026-11-28") {
		assert.NotContains(t, f.Key, "past-proxy", f.Say)
	}
}

func TestSoundServicesHaveNoFindings(t *testing.T) {
	l := labtest.From(t, twoHosts+`cluster "pair": anvil, thrush, shared hold
anvil: keeps 4GB, system "Tarn", supported until 2030
on anvil: vm "a": 4 vcpu, 8GB, 80GB on hold, household, vlan 20 10.20.0.5, restarts elsewhere
on a: container "web": tcp 80
service "site": in web, tcp 80
on thrush: vm "game": 2GB, toy
on thrush: 14 containers, use 2GB
`)
	assert.Empty(t, finding.OfServices(l, "2026-11-28"))
}
