package rack_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rack"
)

func rackNamed(t *testing.T, l *lab.Lab, name string) lab.Rack {
	t.Helper()
	id, ok := l.Named(lab.KindRack, name)
	require.True(t, ok)
	r, _ := lab.Find[lab.Rack](l, id)
	return r
}

// said is a plan in words.
func said(room rack.Room) (list []string) {
	for _, m := range room.Moves {
		list = append(list, fmt.Sprintf("%s %s>%s", m.Title, m.From, m.To))
	}
	return
}

func TestMakeRoom(t *testing.T) {
	for name, c := range map[string]struct {
		text  string
		units int
		at    string
		moves []string
	}{
		"it is there already": {"rack \"R\": 6U\n6 switch \"a\"", 4, "2-5", nil},
		"one thing between two gaps": {`rack "R": 9U
8-9 server "a"
4 switch "b"
1-2 ups "c"`, 4, "4-7", []string{"b 4>3"}}, // 5-7 and 3 are free
		"the lighter of two goes": {`rack "R": 9U
9 switch "a": 1kg
5-6 ups "b": 30kg
3 switch "c": 2kg
1 switch "d": 2kg`, 4, "1-4", []string{"d 1>7", "c 3>8"}}, // b is too heavy; their order stays
		"the rear counts too": {`rack "R": 5U
4 rear strip "a"
2 switch "b"`, 3, "3-5", []string{"a 4>2"}}, // to the rear of b
	} {
		t.Run(name, func(t *testing.T) {
			l := labtest.From(t, c.text)
			room := rack.MakeRoom(l, rackNamed(t, l, "R"), c.units)
			require.Empty(t, room.Why)
			assert.Equal(t, c.at, room.Range)
			assert.Equal(t, c.moves, said(room))
			assert.True(t, room.Fewest)
		})
	}
}

func TestThereIsNoRoomToBeMade(t *testing.T) {
	l := labtest.From(t, "rack \"R\": 4U\n4 switch \"a\"\n2 switch \"b\"")
	r := rackNamed(t, l, "R")
	assert.Equal(t, "3U cannot be freed in one piece by moving devices within R: it has 2U free", rack.MakeRoom(l, r, 3).Why)
	assert.Equal(t, "R has 4 units", rack.MakeRoom(l, r, 5).Why)
	assert.NotEmpty(t, rack.MakeRoom(l, r, 0).Why)
}

// In small racks every way is tried: none moves fewer things. In all of them
// each move can be made in its turn, and the room is there at the end.
func TestMakeRoomMovesTheFewestThings(t *testing.T) {
	for seed := range uint64(150) {
		rnd := rand.New(rand.NewPCG(seed, 9))
		l, r := filled(t, rnd)
		for n := 1; n <= min(6, r.HeightU); n++ {
			room := rack.MakeRoom(l, r, n)
			count := 0
			for range lab.Each[lab.Device](l) {
				count++
			}
			if count <= 5 && r.HeightU <= 8 {
				fewest := fewestMoves(l, r, n, count)
				if room.Why != "" {
					assert.Equal(t, -1, fewest, "seed %d, %dU", seed, n)
				} else {
					assert.Equal(t, fewest, distinct(room), "seed %d, %dU: %v", seed, n, said(room))
				}
			}
			if room.Why != "" {
				continue
			}
			now := l
			for _, m := range room.Moves {
				d, _ := lab.Find[lab.Device](now, m.DeviceID)
				moved := d
				moved.At = m.At
				next, err := now.Apply([]lab.Change{{Before: d, After: moved}})
				require.NoError(t, err, "seed %d, %dU: %v", seed, n, said(room))
				now = next
			}
			assert.True(t, freeRun(now, r, room.Unit, n), "seed %d, %dU: %v", seed, n, said(room))
		}
	}
}

func distinct(room rack.Room) int {
	ids := map[lab.ID]bool{}
	for _, m := range room.Moves {
		ids[m.DeviceID] = true
	}
	return len(ids)
}

func freeRun(l *lab.Lab, r lab.Rack, unit, n int) bool {
	for d := range lab.Each[lab.Device](l) {
		if d.At != nil && d.At.Unit < unit+n && unit < d.At.Unit+d.Units() {
			return false
		}
	}
	return true
}

// fewestMoves tries every arrangement; -1 if none leaves n units free.
func fewestMoves(l *lab.Lab, r lab.Rack, n, most int) int {
	var devices []lab.Device
	for d := range lab.Each[lab.Device](l) {
		devices = append(devices, d)
	}
	best := -1
	var try func(i, moved int, placed []lab.Device)
	try = func(i, moved int, placed []lab.Device) {
		if best >= 0 && moved >= best {
			return
		}
		if i == len(devices) {
			for unit := 1; unit+n-1 <= r.HeightU; unit++ {
				free := true
				for _, p := range placed {
					free = free && (p.At.Unit >= unit+n || unit >= p.At.Unit+p.Units())
				}
				if free {
					best = moved
					return
				}
			}
			return
		}
		for unit := 1; unit+devices[i].Units()-1 <= r.HeightU; unit++ {
			d := devices[i]
			at := *d.At
			at.Unit = unit
			d.At = &at
			meets := false
			for _, p := range placed {
				meets = meets || d.Meets(&p)
			}
			if meets {
				continue
			}
			more := 0
			if unit != devices[i].At.Unit {
				more = 1
			}
			try(i+1, moved+more, append(placed[:i:i], d))
		}
	}
	try(0, 0, nil)
	return best
}

func TestAFullTallRackIsAnsweredInTime(t *testing.T) {
	text := "rack \"R\": 48U\n"
	for u := 48; u > 8; u -= 3 {
		text += fmt.Sprintf("%d-%d server \"s%d\"\n", u-1, u, u)
	}
	l := labtest.From(t, text)
	room := rack.MakeRoom(l, rackNamed(t, l, "R"), 18)
	assert.Empty(t, room.Why)
	assert.NotEmpty(t, room.Moves)
}

// Blanking panels are taken out, not moved, and count as no move of a device.
func TestMakingRoomTakesBlankingPanelsOut(t *testing.T) {
	l := labtest.From(t, `rack "R": 6U
6 blanking panel "b6"
5 server "a"
4 blanking panel "b4"
3 blanking panel "b3"
1 switch "s"
`)
	id, _ := l.Named(lab.KindRack, "R")
	r, _ := lab.Find[lab.Rack](l, id)
	said := func(n int) []string {
		var list []string
		for _, m := range rack.MakeRoom(l, r, n).Moves {
			list = append(list, m.Title+" "+m.From+">"+m.To)
		}
		return list
	}
	assert.Equal(t, []string{"b4 4>", "b3 3>"}, said(3), "2, 3 and 4 come free without moving a device")
	assert.Equal(t, []string{"b6 6>", "b4 4>", "b3 3>", "a 5>6"}, said(4))
	assert.Empty(t, said(1))
}
