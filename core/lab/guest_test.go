package lab_test

import (
	"net/netip"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

func onHost(host lab.ID, order int) *lab.Spot {
	return &lab.Spot{Where: lab.OnDevice, Device: host, Order: order}
}

// running is a lab of two hosts and a switch with a VM, a container in it and one beside.
func running(t *testing.T, more ...lab.Record) *lab.Lab {
	t.Helper()
	records := []lab.Record{
		lab.Place{ID: "house", Name: "House"},
		lab.Device{ID: "anvil", Name: "anvil", Kind: lab.Server, State: lab.Running},
		lab.Device{ID: "thrush", Name: "thrush", Kind: lab.MiniPC, State: lab.Running},
		lab.Device{ID: "core", Name: "core", Kind: lab.Switch, State: lab.Running},
		lab.Device{ID: "choir", Name: "choir", Kind: lab.VM, State: lab.Running, At: onHost("anvil", 2)},
		lab.Device{ID: "library", Name: "library", Kind: lab.Container, State: lab.Running, At: onHost("choir", 1)},
		lab.Device{ID: "out", Name: "out", Kind: lab.Container, State: lab.Running, At: onHost("anvil", 1)},
	}
	l, err := lab.New().Apply(puts(lab.New(), append(records, more...)...))
	require.NoError(t, err)
	return l
}

func TestWhatAGuestCannotBe(t *testing.T) {
	l := running(t)
	minus, much, none, four, many := int64(-1), int64(9<<40), 0, 4, 70_000
	guest := func(change func(*lab.Device)) lab.Device {
		d := lab.Device{ID: "new", Name: "new", Kind: lab.Container, State: lab.Running, At: onHost("anvil", 9)}
		change(&d)
		return d
	}
	for _, c := range []struct {
		says, field, say string
		is               lab.Device
	}{
		{"a guest on a switch", "at.device_id", "a switch runs no guests", guest(func(d *lab.Device) { d.At = onHost("core", 1) })},
		{"a guest in itself", "at.device_id", "cannot stand on itself", guest(func(d *lab.Device) { d.At = onHost("new", 1) })},
		{"a VM in a container", "at.device_id", "cannot run in “out”, which is a container", guest(func(d *lab.Device) {
			d.Kind, d.At = lab.VM, onHost("out", 1)
		})},
		{"a guest in a rack", "at.where", "runs on a host", guest(func(d *lab.Device) { d.At = &lab.Spot{Where: lab.InPlace, Place: "house"} })},
		{"less than no memory", "given_bytes", "out of range", guest(func(d *lab.Device) { d.Given = &minus })},
		{"more than any machine has", "given_bytes", "out of range", guest(func(d *lab.Device) { d.Given = &much })},
		{"no vCPUs", "vcpus", "1 to 1024 vCPUs, not 0", guest(func(d *lab.Device) { d.VCPUs = &none })},
		{"a port past the last", "listens", "between 1 and 65535, not 70000", guest(func(d *lab.Device) {
			d.Listens = []lab.Listening{{Over: lab.TCP, Port: many}}
		})},
		{"a port twice", "listens", "listed twice", guest(func(d *lab.Device) {
			d.Listens = []lab.Listening{{Over: lab.TCP, Port: 80}, {Over: lab.TCP, Port: 80}}
		})},
		{"its own network", "network_of_id", "cannot share the network of itself", guest(func(d *lab.Device) { d.NetworkOf = "new" })},
		{"the network of a device", "network_of_id", "shares the network of another guest", guest(func(d *lab.Device) { d.NetworkOf = "anvil" })},
		{"a VM in another's network", "network_of_id", "only a container", guest(func(d *lab.Device) { d.Kind, d.NetworkOf = lab.VM, "out" })},
		{"pinned and moved", "elsewhere", "say one of the two", guest(func(d *lab.Device) { d.Pinned, d.Elsewhere = true, lab.ByItself })},
		{"waits for itself", "starts_after_ids", "would wait for itself", guest(func(d *lab.Device) { d.After = []lab.ID{"new"} })},
		{"several by one name", "guest_count", "one guest by its name", guest(func(d *lab.Device) { n := 3; d.Count = &n })},
		{"handed nothing", "handed_through", "name just one", guest(func(d *lab.Device) { d.Handed = []lab.Handed{{}} })},
		{"handed in two ways", "handed_through", "name just one", guest(func(d *lab.Device) { d.Handed = []lab.Handed{{Slot: 1, Port: "1"}} })},
		{"handed twice to one", "handed_through", "there twice", guest(func(d *lab.Device) { d.Handed = []lab.Handed{{Slot: 1}, {Slot: 1}} })},
		{"what only a guest has", "device_kind", "only a VM or a container has", lab.Device{ID: "new", Name: "new", Kind: lab.Server,
			State: lab.Running, Guesting: lab.Guesting{VCPUs: &four}}},
	} {
		t.Run(c.says, func(t *testing.T) {
			_, err := l.Apply(puts(l, c.is))
			var refused *lab.Refusal
			require.ErrorAs(t, err, &refused)
			assert.True(t, slices.ContainsFunc(refused.Faults, func(f lab.Fault) bool {
				return f.Field == c.field && strings.Contains(f.Say, c.say)
			}), refused.Error())
		})
	}
}

// A start order that leads back is refused through any number of others.
func TestAStartOrderInACircleIsRefused(t *testing.T) {
	after := func(id, of lab.ID) lab.Device {
		return lab.Device{ID: id, Name: string(id), Kind: lab.VM, State: lab.Running, At: onHost("anvil", 5),
			Guesting: lab.Guesting{After: []lab.ID{of}}}
	}
	l := running(t, after("a", "choir"), after("b", "a"))
	choir, _ := lab.Find[lab.Device](l, "choir")
	choir.After = []lab.ID{"b"}
	_, err := l.Apply(puts(l, choir))
	assert.ErrorContains(t, err, "would wait for itself: it is started after “b”")
}

func TestGuestsAndTheirHosts(t *testing.T) {
	l := running(t)
	names := func(list []lab.Device) (names []string) {
		for _, d := range list {
			names = append(names, d.Name)
		}
		return names
	}
	assert.Equal(t, []string{"out", "choir"}, names(l.GuestsOn("anvil")), "in their order")
	assert.Equal(t, []string{"library"}, names(l.GuestsOn("choir")))
	library, _ := lab.Find[lab.Device](l, "library")
	host, ok := l.HostOf(library)
	assert.True(t, ok)
	assert.Equal(t, "anvil", host.Name)
	host, ok = l.HostOf(host)
	assert.True(t, ok, "what is no guest is its own")
	assert.Equal(t, "anvil", host.Name)
	library.At = nil
	_, ok = l.HostOf(library)
	assert.False(t, ok)
	things := 0
	for d := range lab.Things(l) {
		assert.False(t, d.IsGuest())
		things++
	}
	assert.Equal(t, 3, things)
	assert.Empty(t, l.HeldBy(lab.Key{Kind: lab.KindDevice, ID: "anvil"}), "guests stand on nothing")
	assert.Equal(t, 2, l.LastOrder(onHost("anvil", 0)))
}

func TestLegsOfAGuest(t *testing.T) {
	first, second, loose := netip.MustParseAddr("10.10.0.5"), netip.MustParseAddr("10.10.0.6"), netip.MustParseAddr("10.9.0.1")
	d := lab.Device{Kind: lab.VM,
		Marks: []lab.PortMark{{Port: "vlan 20", Untagged: "20"}, {Port: "vlan 10", Untagged: "10"}},
		Addressed: lab.Addressed{Addresses: []lab.Address{{Address: first, Port: "vlan 10"}, {Address: loose}, {Address: second,
			Port: "vlan 10"}}}}
	assert.Equal(t, []lab.Leg{{VLAN: 20}, {VLAN: 10, Addresses: []lab.Address{d.Addresses[0], d.Addresses[2]}},
		{Addresses: []lab.Address{d.Addresses[1]}}},
		d.Legs())
	assert.Empty(t, lab.Device{Kind: lab.VM}.Legs())
}

// What a template says counts where the guest says nothing.
func TestAGuestHasWhatItsTemplateHas(t *testing.T) {
	two, four, gb := 2, 4, int64(1<<30)
	l := running(t, lab.Template{ID: "small", Name: "small", VCPUs: &two, Given: &gb})
	made := l.MadeOf(lab.Device{Kind: lab.VM, Guesting: lab.Guesting{Template: "small", VCPUs: &four}})
	assert.Equal(t, 4, *made.VCPUs)
	assert.Equal(t, gb, *made.Given)
	assert.Nil(t, l.MadeOf(lab.Device{Kind: lab.VM}).Given)
}

// With a host go none of its guests: they run on no host then. A cluster of which one host
// is left is none, and a stack loses its members one by one.
func TestWhatBecomesOfGuestsWithoutTheirHost(t *testing.T) {
	l := running(t, lab.Cluster{ID: "pair", Name: "pair", Hosts: []lab.ID{"anvil", "thrush"}},
		lab.Service{ID: "songs", Name: "songs", In: "library", State: lab.Running},
		lab.Stack{ID: "music", Name: "music", Guests: []lab.ID{"choir", "library"}, Services: []lab.ID{"songs"}})
	now, err := l.Apply(l.Removal(lab.Key{Kind: lab.KindDevice, ID: "library"}))
	require.NoError(t, err)
	songs, _ := lab.Find[lab.Service](now, "songs")
	assert.Empty(t, songs.In, "nobody says what it runs in any more")
	music, _ := lab.Find[lab.Stack](now, "music")
	assert.Equal(t, []lab.ID{"choir"}, music.Guests)
	assert.Equal(t, []lab.ID{"songs"}, music.Services)

	now, err = l.Apply(l.Removal(lab.Key{Kind: lab.KindDevice, ID: "thrush"}))
	require.NoError(t, err)
	_, ok := lab.Find[lab.Cluster](now, "pair")
	assert.False(t, ok, "one host is no cluster")
}

func TestWhatAClusterCannotBe(t *testing.T) {
	l := running(t, lab.Cluster{ID: "pair", Name: "pair", Hosts: []lab.ID{"anvil", "thrush"}},
		lab.Device{ID: "wren", Name: "wren", Kind: lab.Server, State: lab.Running})
	for say, c := range map[string]lab.Cluster{
		"a cluster is 2 to 200 hosts, not 1":       {Hosts: []lab.ID{"wren"}},
		"name each once":                           {Hosts: []lab.ID{"wren", "wren"}},
		"“core” is a switch and runs no guests":    {Hosts: []lab.ID{"wren", "core"}},
		"“choir” is a VM and runs no guests":       {Hosts: []lab.ID{"wren", "choir"}},
		"“anvil” is in the cluster “pair” already": {Hosts: []lab.ID{"wren", "anvil"}},
	} {
		c.ID, c.Name = "new", "new"
		_, err := l.Apply(puts(l, c))
		assert.ErrorContains(t, err, say)
	}
}
