package gear_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

const filled = `sheet "Fell R28": server, 2U high, takes 2U, 24kg, 710mm deep, 2 sockets, 4 memory slots, 16GB a slot, memory type ddr4` +
	`, 2 bays 3.5in sata, 2 bays m.2 nvme inside, 1 slots x16, 1 slots x8 half height, 2 supply bays, 750W a supply
rack "Pantry": 24U, 19in, 800mm deep
12-13 server "anvil": sheet "Fell R28", 22kg, for "choir library"
    socket 1 processor: 8 cores, 16 threads
    slot 1-2 memory: 16GB, type ddr4
    bay 1 drive "vault": 8TB, hdd, 3.5in, sata, 21400h
    bay 3 drive: 1TB, ssd, m.2, nvme
    slot 2 card: network, half height
    bay 1 supply: 750W
    loose battery: chemistry "coin cell", put in 2024-05
5 router "gate"
spare drive "cold spare": 8TB
ordered 2x memory: 8GB`

func TestWhatIsInsideIsSummed(t *testing.T) {
	c := gear.InsideOf(labtest.From(t, filled), device(t, labtest.From(t, filled), "anvil"))
	// 4 slots of 16 GB take 64 GB. 9 * 10^12 bytes are 8.2 * 2^40.
	assert.Equal(t, []gear.SummaryRow{
		{Title: "Processor", Text: "8 cores, 16 threads"},
		{Title: "Memory", Text: "32GB of 64GB, 2 of 4 slots"},
		{Title: "Raw capacity", Text: "9TB (8.2 TiB)"},
	}, c.Summary)
	l := labtest.From(t, "rack \"R\": 9U\n2 server \"x\"\n  loose processor: 8 cores\n  loose processor\n  loose drive: 2TB\n  loose drive\n")
	partly := gear.InsideOf(l, device(t, l, "x"))
	assert.Equal(t, "at least 8 cores", partly.Summary[0].Text, "one processor is not known")
	assert.Equal(t, "at least 2TB (1.8 TiB)", partly.Summary[1].Text, "2 * 10^12 / 2^40 is 1.82")

	l = labtest.From(t, "rack \"R\": 9U\n2 server \"x\": 12.5W idle, 90W max\n")
	assert.Equal(t, []gear.SummaryRow{{Title: "Draw", Text: "12.5W idle, 90W max"}}, gear.InsideOf(l, device(t, l, "x")).Summary)

	filledLab := labtest.From(t, filled)
	gate := gear.InsideOf(filledLab, device(t, filledLab, "gate"))
	assert.Empty(t, gate.Summary, "a router with nothing inside is no list of zeros")
	assert.Empty(t, gate.Seats)
	assert.NotNil(t, gate.Loose)
}

func TestTheSeatsOfADevice(t *testing.T) {
	l := labtest.From(t, filled)
	c := gear.InsideOf(l, device(t, l, "anvil"))
	var lines []string
	for _, m := range c.Seats {
		for _, s := range m.Seats {
			part := "free"
			if s.Part != nil {
				part = strings.TrimSpace(s.Part.Title + " | " + s.Part.Sub)
			}
			lines = append(lines, strings.TrimSpace(m.Word+" "+string(rune('0'+s.Number))+" ("+s.Of+") "+part))
		}
	}
	assert.Equal(t, []string{
		"bay 1 (3.5in sata) vault | 8TB hdd · sata · 21400h",
		"bay 2 (3.5in sata) free",
		"bay 3 (m.2 nvme, inside) 1TB ssd | nvme",
		"bay 4 (m.2 nvme, inside) free",
		"socket 1 () processor | 8 cores",
		"socket 2 () free",
		"slot 1 (ddr4) 16GB module | ddr4",
		"slot 2 (ddr4) 16GB module | ddr4",
		"slot 3 (ddr4) free",
		"slot 4 (ddr4) free",
		"slot 1 (x16) free",
		"slot 2 (x8 half height) network card |",
		"bay 1 (750W) supply | 750W",
		"bay 2 (750W) free",
	}, lines)
	require.Len(t, c.Loose, 1)
	assert.Equal(t, "put in 2024-05", c.Loose[0].Sub)

	// Nobody knows how many bays there are: those that are used are shown.
	l = labtest.From(t, "rack \"R\": 9U\n2 nas \"x\"\n  bay 3 drive: 2TB\n")
	c = gear.InsideOf(l, device(t, l, "x"))
	require.Len(t, c.Seats, 1)
	assert.Len(t, c.Seats[0].Seats, 3)
	assert.Nil(t, c.Seats[0].Seats[0].Part)
	assert.NotNil(t, c.Seats[0].Seats[2].Part)
}

func TestTheSparesBin(t *testing.T) {
	b := gear.BinOf(labtest.From(t, filled))
	require.Len(t, b.Spares, 1)
	assert.Equal(t, "cold spare", b.Spares[0].Title)
	assert.Len(t, b.Ordered, 2)
	empty := gear.BinOf(lab.New())
	assert.NotNil(t, empty.Spares)
	assert.NotNil(t, empty.Ordered)
}

func TestMovingAPart(t *testing.T) {
	l := labtest.From(t, filled)
	anvil := device(t, l, "anvil")
	part := func(l *lab.Lab, name string) lab.Part {
		for p := range lab.Each[lab.Part](l) {
			if p.Name == name {
				return p
			}
		}
		require.Fail(t, "no such part", name)
		return lab.Part{}
	}
	move := func(l *lab.Lab, name string, to gear.Seating) *lab.Lab {
		next, err := l.Apply(gear.Move(l, part(l, name), to))
		require.NoError(t, err)
		return next
	}
	next := move(l, "cold spare", gear.Seating{Device: anvil.ID, Seat: 1})
	assert.Equal(t, 1, part(next, "cold spare").Seat)
	assert.Empty(t, part(next, "vault").Device, "what sat there goes where the other was: the spares bin")
	assert.Equal(t, part(l, "vault").ID, part(next, "vault").ID, "it is still itself, with its own past")

	next = move(l, "vault", gear.Seating{Device: anvil.ID, Seat: 2})
	assert.Equal(t, 2, part(next, "vault").Seat)
	next = move(l, "vault", gear.Seating{Device: anvil.ID})
	assert.Zero(t, part(next, "vault").Seat, "loose inside")
	next = move(l, "vault", gear.Seating{Ordered: true})
	assert.True(t, part(next, "vault").Ordered)
	assert.Empty(t, gear.Move(l, part(l, "vault"), gear.Seating{Device: anvil.ID, Seat: 1}), "where it is already")
	_, err := l.Apply(gear.Move(l, part(l, "vault"), gear.Seating{Device: anvil.ID, Seat: 9}))
	assert.ErrorContains(t, err, "9")
	_, err = l.Apply(gear.Move(l, part(l, "vault"), gear.Seating{Device: "nobody", Seat: 1}))
	assert.Error(t, err)
	// A network card of the same number is no drive: it stays.
	assert.Len(t, gear.Move(l, part(l, "vault"), gear.Seating{Device: anvil.ID, Seat: 2}), 1)
}
