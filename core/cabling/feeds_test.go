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

// Where ports are that do not say: at the back of what has its back full of
// them, where they are mounted on a strip, in front on all else.
func TestFacesByKind(t *testing.T) {
	for line, want := range map[string]string{
		`server "x": 2 ports 1G, 1 port hdmi`:               "1 rear, 2 rear, hdmi1 front, in1 rear",
		`server "x": 2 ports 1G front`:                      "1 front, 2 front, in1 rear",
		`nas "x": 1 port sfp+ 10G`:                          "s1 rear, in1 rear",
		`mini pc "x": 1 port 1G, 2 ports usb a`:             "1 rear, usb1 front, usb2 front, in1 rear",
		`desktop "x": 1 port 1G`:                            "1 rear, in1 rear",
		`disk shelf "x": 2 psus`:                            "in1 rear, in2 rear",
		`ups "x": 2 outlets c13, 1 port 1G called "net"`:    "net rear, out1 rear, out2 rear, in1 rear",
		`switch "x": 2 ports 1G, 1 sfp`:                     "1 front, 2 front, s1 front, in1 rear",
		`power strip "x": 2 outlets c13`:                    "out1 front, out2 front, in1 front",
		`pdu "x": 1 outlet c13, 1 port inlet called "feed"`: "feed front, out1 front",
		`laptop "x": 1 port 1G`:                             "1 front, in1 rear",
	} {
		l := labtest.From(t, "? "+line+"\n")
		ports := l.PortsOf(deviceOf(t, l, "x"))
		var said []string
		for i := range ports.Len() {
			said = append(said, ports.Key(i)+" "+string(ports.Face(i)))
		}
		assert.Equal(t, want, strings.Join(said, ", "), line)
	}
}

func deviceOf(t *testing.T, l *lab.Lab, name string) lab.Device {
	t.Helper()
	d, ok := lab.Find[lab.Device](l, at(t, l, name, "").Device)
	require.True(t, ok)
	return d
}

// USB outlets take USB leads and no others; what they feed is fed.
func TestUSBOutlets(t *testing.T) {
	const charger = `? usb supply "charger": 2 outlets usb a, 1 outlet usb c
? single-board computer "finch": 1 port usb c, 1 port usb a
? strip "bar": 2 outlets uk
`
	for line, trouble := range map[string]string{
		"charger/out1 - finch/usb1 usb":      "",
		"charger/out3 - finch/usb1 1m usb":   "",
		"charger/out1 - finch/usb1 c13":      "charger/out1 - finch/usb1: C13 power does not fit charger/out1, a USB-A",
		"bar/out1 - finch/usb1 usb":          "bar/out1 - finch/usb1: USB does not fit bar/out1",
		"bar/out1 - charger/in1 uk":          "",
		"charger/out1 - finch/usb1":          "",
		"charger/out2 - finch/usb2 usb, red": "",
	} {
		l := labtest.From(t, charger+line+"\n")
		for c := range cabling.Of(l).Plugged {
			say, _ := c.Trouble()
			assert.True(t, strings.HasPrefix(say, trouble) && (say == "") == (trouble == ""), "%s: %s", line, say)
		}
	}
}

// Serial lines of a computer lead to what is none; of a console server to all;
// with the address that one connects to.
func TestWaysInFromAnythingWithSerialPorts(t *testing.T) {
	l := labtest.From(t, `? console server "whistle": 4 serial, ssh 10.1.9.5, ports 2001 up
? server "anvil": 2 ports rs232, remote 10.1.9.9
? switch "core": 1 port console, 8 ports 1G
? router "gate": 1 port rs232
? server "silo": 1 port console
? server "ember": 1 port rs232
whistle/2 - core/console1
anvil/serial1 - gate/serial1
anvil/serial2 - silo/console1
whistle/3 - ember/serial1
`)
	var said []string
	for _, way := range cabling.Of(l).WaysIn() {
		said = append(said, fmt.Sprintf("%s by %s %s at %s:%d", way.Title, way.By, way.Input, way.Address, way.TCP))
	}
	assert.Equal(t, []string{"core by whistle serial2 at 10.1.9.5:2002", "ember by whistle serial3 at 10.1.9.5:2003",
		"gate by anvil serial1 at 10.1.9.9:0", "silo by anvil serial2 at 10.1.9.9:0"}, said)
	shared := cabling.Of(lab.WithoutPrivate(l)).WaysIn()
	assert.Empty(t, shared[0].Address, "an address is private")
}

// Links over the mains are links without a cable, and carry what is said.
func TestALinkOverTheMains(t *testing.T) {
	l := labtest.From(t, "? bridge \"west\"\n? bridge \"east\"\nwest - east powerline, 200M\n")
	trails := cabling.Of(l).TrailsOf(at(t, l, "west", "").Device)
	require.Len(t, trails, 1)
	assert.Equal(t, []any{"200 Mb/s", "east"}, []any{trails[0].Speed.Words(), trails[0].Stops[1].Title})
	assert.Equal(t, 0, len(cabling.ToBuy(lab.New(), l)), "there is nothing to buy for it")
}

// A speed is never more than either end says or than the cable is said to
// carry, whatever falls back.
func TestNoLinkIsFasterThanItsEnds(t *testing.T) {
	speeds := []string{"100M", "1G", "2.5G", "5G", "10G", "100M/1G", "1G/10G", "2.5G/5G"}
	mb := map[string]int{"100M": 100, "1G": 1000, "2.5G": 2500, "5G": 5000, "10G": 10000, "100M/1G": 1000, "1G/10G": 10000, "2.5G/5G": 5000}
	for _, a := range speeds {
		for _, b := range speeds {
			for _, cat := range []string{"cat5e", "cat6", "cat6a"} {
				l := labtest.From(t, fmt.Sprintf("? switch \"a\": 1 port rj45 %s\n? switch \"b\": 1 port rj45 %s\na/1 - b/1 1m %s\n", a, b, cat))
				s := trail(t, l, "a", "1").Speed
				require.NotNil(t, s.Mb)
				assert.LessOrEqual(t, *s.Mb, min(mb[a], mb[b]))
				if single := !strings.Contains(a+b, "/"); single {
					want := min(mb[a], mb[b])
					if cat == "cat5e" {
						want = min(want, 5000)
					}
					assert.Equal(t, want, *s.Mb, "%s and %s over %s fall back to the lower", a, b, cat)
				}
			}
		}
	}
}
