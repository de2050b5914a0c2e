package rundown

import (
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// lineKind is what is known of the lines about one kind of record. All but the
// first two, or the first and head, may be left out: such a line has a word, a
// name and the kind's facts, its record is found by its name, and it is printed
// with the others of its kind.
type lineKind struct {
	kind lab.RecordKind
	// word is what its lines begin with, or several words. A line that begins with
	// it is of this kind and no other.
	word string
	// also are other words for it.
	also []string
	// only tells whether a line that begins with the word is of the kind, where the
	// word may begin others.
	only func(tokens []text.Token) bool
	// before are the fields that stand between the word and the name, or that a
	// line without a name begins with.
	before []string
	// told tells a line of the kind by more than what it begins with, whatever that is.
	told func(tokens []text.Token) bool
	// head reads what its lines begin with where that is no one word, and tells
	// how many tokens that takes; 0 where the line is of another kind.
	head func(t *thing, tokens []text.Token) (int, *text.Mistake)
	// same is what its lines and its records are told by where that is not the
	// name; false where a line does not say it.
	same func(t *thing) (lab.Unique, bool)
	// of is the field of what its records are on or of, where their names are their own
	// only within that.
	of string
	// holds: devices may stand on the lines below.
	holds bool
	// load finds the records that lines speak of and puts down what they say.
	load func(ld *loader, lines []*thing)
	// print writes all records of the kind.
	print func(p *printer, k lineKind)
	// complete offers how a line goes on; false where it is of another kind.
	complete func(c *completer, tokens []text.Token) bool
}

// begins tells how many tokens a line takes with the kind's word; 0 where it begins
// otherwise.
func (k lineKind) begins(tokens []text.Token) int {
	for _, word := range append([]string{k.word}, k.also...) {
		n := strings.Count(word, " ") + 1
		if word != "" && len(tokens) >= n && plainWords(tokens[:n]) == word && (k.only == nil || k.only(tokens)) {
			return n
		}
	}
	return 0
}

// nameless reports whether records of the kind have no names of their own.
func (k lineKind) nameless() bool {
	kind, _ := lab.KindOf(k.kind)
	return kind.Name == ""
}

// lineKinds are the kinds of line there are, in the order in which a reader
// wants them. They are loaded in the order of the kinds of record, so that a
// line may name what comes further down. Of those without a word the last ones
// are asked first: what is nothing else is a device.
func lineKinds() []lineKind {
	return []lineKind{
		{kind: lab.KindLab, word: "lab"},
		{kind: lab.KindSheet, word: "sheet"},
		{kind: lab.KindRun, word: "run"},
		{kind: lab.KindRack, word: "rack", also: []string{"cabinet"}, holds: true, print: (*printer).holders},
		{kind: lab.KindPlace, word: "place", holds: true, print: (*printer).holders},
		{kind: lab.KindCircuit, word: "circuit", also: []string{"breaker", "fuse"}},
		{kind: lab.KindDevice, head: deviceHead, load: (*loader).devices, print: (*printer).loose, complete: (*completer).device},
		{kind: lab.KindVLAN, word: "vlan", before: []string{"number"}, same: vlanOf},
		{kind: lab.KindWireless, word: "wireless", also: []string{"ssid"}},
		{kind: lab.KindSubnet, word: "subnet", also: []string{"network"}, only: namesPrefix, before: []string{"cidr"}, load: (*loader).subnets},
		{kind: lab.KindVirtualRouter, word: "virtual router"},
		{kind: lab.KindRoute, word: "route", before: []string{"cidr", "via", "virtual_router_id", "device_id"}, load: (*loader).pairs},
		{kind: lab.KindLine, word: "line"},
		{kind: lab.KindOpening, word: "open", only: opensLine, before: []string{"line_id", "port_from", "device_id"}, load: (*loader).pairs},
		{kind: lab.KindTunnel, word: "tunnel"},
		{kind: lab.KindRemoteAccess, word: "remote access"},
		{kind: lab.KindRule, word: "from", before: []string{"from", "to"}, load: (*loader).pairs},
		{kind: lab.KindName, word: "name"},
		{kind: lab.KindPool, word: "pool", of: "device_id", load: (*loader).owned},
		{kind: lab.KindDataset, word: "dataset", also: []string{"data set"}, of: "on", load: (*loader).owned},
		{kind: lab.KindShare, word: "share", of: "dataset_id", load: (*loader).owned},
		{kind: lab.KindCopy, word: "copy of", also: []string{"backup of"}, before: []string{"dataset_id", "from", "to"}, load: (*loader).pairs},
		{kind: lab.KindTemplate, word: "template"},
		{kind: lab.KindService, word: "service"},
		{kind: lab.KindCluster, word: "cluster"},
		{kind: lab.KindStack, word: "stack"},
		{kind: lab.KindNeed, told: saysNeed, before: []string{"of", "any_of"}, load: (*loader).pairs},
		{kind: lab.KindPart, head: partHead, load: (*loader).parts, print: (*printer).apart},
		{kind: lab.KindCable, head: strandHead, load: (*loader).cables, print: (*printer).cables, complete: (*completer).cables},
	}
}
