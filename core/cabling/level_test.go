package cabling_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

func TestWhereAFastDeviceCouldBePluggedIn(t *testing.T) {
	l := labtest.From(t, house+"fast/1 - PP1/1 0.5m cat6\nPP1/1 = plate/1 18m cat6\nfast/2 - silo/1\n")
	var said []string
	for _, o := range cabling.Of(l).Openings(10_000) {
		if !strings.HasPrefix(o.Title, "core/") || o.Port == "s1" || o.Port == "1" {
			said = append(said, o.Title+" "+o.To+" "+o.Speed.Words())
		}
	}
	assert.Equal(t, []string{"core/s1  10 Gb/s", "fast/3  10 Gb/s", "fast/4  10 Gb/s", "fast/5  10 Gb/s", "fast/6  10 Gb/s",
		"fast/7  10 Gb/s", "fast/8  10 Gb/s", "core/1  1 Gb/s", "plate/1 fast/1 1 Gb/s"}, said)
}

func TestUsedAndFreePorts(t *testing.T) {
	l := labtest.From(t, strings.Replace(house, `sfp+ 1G/10G`, `sfp+ 1G/10G, port 24 broken, port 23 reserved "dome"`, 1)+
		"core/1 - PP1/1\ncore/2 - PP1/2\n")
	level := cabling.Of(l).LevelOf([]lab.ID{at(t, l, "core", "1").Device})
	require.Len(t, level, 3, "copper, cages, an inlet")
	assert.Equal(t, cabling.PortLevel{Family: lab.Copper, Connector: "rj45", Name: "RJ45", SpeedMb: 1000, Used: 2, Free: 20, Broken: 1,
		Reserved: 1}, level[0])
	assert.Equal(t, 4, level[1].Free)
	assert.Equal(t, []string{"RJ45", "SFP+ cage", "power inlet"}, []string{level[0].Name, level[1].Name, level[2].Name})
}

// core has 24 and 4, fast has 8, and gate one that is known by its cable; what
// does not run, a panel, and power count for nothing.
func TestPortsThatOthersArePluggedInto(t *testing.T) {
	l := labtest.From(t, strings.Replace(house, `sfp+ 1G/10G`, `sfp+ 1G/10G, port 24 broken, port 23 reserved "dome", port 1 reserved "PP1"`,
		1)+`? power strip "strip": 2 outlets c13
? switch "old", spare: 8 ports rj45
? router "gate"
core/1 - PP1/1
fast/1 - silo/1
gate/lan - core/2 cat6
gate/plug - strip/out1 c13
`)
	w := cabling.Of(l)
	links := w.LinkPortsOf(w.Devices())
	assert.Equal(t, cabling.LinkPorts{Used: 4, Of: 37, Kept: 2, Unlisted: 1}, links)
	assert.Equal(t, 31, links.Free())
}

func TestWaysIn(t *testing.T) {
	l := labtest.From(t, house+`kvm switch "desk kvm": 4 ports kvm
console server "lines": 2 ports serial, port serial2 tcp 7002
server "bolt": 1 ports rs232, 1 ports vga, port 9 "x", 9 ports rj45, port 1 "mgmt", remote "10.0.0.9"
patch panel "video": 2 ports hdmi
nas "box": 1 ports hdmi
display "screen": 1 ports hdmi
"desk kvm"/kvm3 - bolt/vga1 kvm
lines/serial2 - bolt/serial1 serial
box/hdmi1 - video/hdmi1
video/hdmi1 = screen/hdmi1
`)
	var said []string
	for _, w := range cabling.Of(l).WaysIn() {
		said = append(said, strings.TrimSpace(fmt.Sprintf("%s: %s %s %s %d %s", w.Title, w.Kind, w.By, w.Input, w.TCP, w.Address)))
	}
	assert.ElementsMatch(t, []string{"bolt: kvm desk kvm kvm3 0", "bolt: console lines serial2 7002", "bolt: management  mgmt 0 10.0.0.9",
		"box: video video hdmi1 0"}, said)
}
