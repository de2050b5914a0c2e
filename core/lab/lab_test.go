package lab_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/netip"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

func ptr[T any](v T) *T { return &v }

// pantry is a 12U rack with anvil at 5-6, strip B at the rear of 3, a shelf at
// 8 with finch on it, and the place Loft.
func pantry(t *testing.T) *lab.Lab {
	return with(t, lab.New(),
		lab.Place{ID: "loft", Name: "Loft"},
		lab.Rack{ID: "pantry", Name: "Pantry", HeightU: 12, Form: lab.Rack19},
		lab.Device{ID: "anvil", Name: "anvil", Kind: lab.Server, State: lab.Running, At: lab.At("pantry", 5, lab.Front),
			Spec: lab.Spec{TakesU: ptr(2)}},
		lab.Device{ID: "strip", Name: "strip B", Kind: lab.PowerStrip, State: lab.Running, At: lab.At("pantry", 3, lab.Rear),
			Spec: lab.Spec{TakesU: ptr(1)}},
		lab.Device{ID: "shelf", Name: "sbc shelf", Kind: lab.Shelf, State: lab.Running, At: lab.At("pantry", 8, lab.Front),
			Spec: lab.Spec{TakesU: ptr(1)}},
		lab.Device{ID: "finch", Name: "finch", Kind: lab.SingleBoard, State: lab.Running,
			At: &lab.Spot{Where: lab.OnDevice, Device: "shelf", Order: 1}},
	)
}

func with(t *testing.T, l *lab.Lab, records ...lab.Record) *lab.Lab {
	t.Helper()
	next, err := l.Apply(puts(l, records...))
	require.NoError(t, err)
	return next
}

func puts(l *lab.Lab, records ...lab.Record) []lab.Change {
	var changes []lab.Change
	for _, r := range records {
		if c, ok := l.Put(r); ok {
			changes = append(changes, c)
		}
	}
	return changes
}

func device(t *testing.T, l *lab.Lab, id lab.ID) lab.Device {
	t.Helper()
	d, ok := lab.Find[lab.Device](l, id)
	require.True(t, ok, "no device %s", id)
	return d
}

func TestRulesThatAreNeverBroken(t *testing.T) {
	l := pantry(t)
	newAt := func(spot *lab.Spot, takes *int) lab.Device {
		return lab.Device{ID: "new", Name: "new", Kind: lab.Switch, State: lab.Running, At: spot, Spec: lab.Spec{TakesU: takes}}
	}
	half := func(unit int, share lab.Share) *lab.Spot {
		s := lab.At("pantry", unit, lab.Front)
		s.Share = share
		return s
	}
	anvil, shelf, loft := device(t, l, "anvil"), device(t, l, "shelf"), lab.Place{ID: "loft", Name: "Loft"}
	rack, _ := lab.Find[lab.Rack](l, "pantry")
	cases := []struct {
		name, field, say string // field "" where it is allowed
		put              lab.Record
	}{
		{"a device goes into free units", "", "", newAt(lab.At("pantry", 1, lab.Front), ptr(2))},
		{"front and rear of the same unit are two places", "", "", newAt(lab.At("pantry", 3, lab.Front), ptr(1))},
		{"two in the same unit are refused and both named", "at.unit", "“new” cannot take 6-7 at the front of “Pantry”: “anvil” takes 5-6",
			newAt(lab.At("pantry", 6, lab.Front), ptr(2))},
		{"a half meets what takes the whole width", "at.unit", "“anvil”", newAt(half(5, lab.LeftHalf), ptr(1))},
		{"a unit above the rack's head is refused", "at.unit", "has the units 1 to 12", newAt(lab.At("pantry", 12, lab.Front), ptr(2))},
		{"a device in units says how many it takes", "takes_u", "how many units", newAt(lab.At("pantry", 1, lab.Front), nil)},
		{"no units is not a number of units", "takes_u", "1 to 60", newAt(lab.At("pantry", 1, lab.Front), ptr(0))},
		{"a rack that is not there cannot hold anything", "at.rack_id", "no rack with the id “attic”", newAt(lab.At("attic", 1, lab.Front),
			ptr(1))},
		{"a spot in units has no place", "at.place_id", "has no place", newAt(&lab.Spot{Where: lab.InUnits, Rack: "pantry", Unit: 1,
			Face: lab.Front, Share: lab.Whole, Place: "loft"}, ptr(1))},
		{"a spot needs what goes with it", "at.device_id", "needs device to stand on", newAt(&lab.Spot{Where: lab.OnDevice}, nil)},
		{"a thing cannot stand on itself", "at.device_id", "cannot stand on itself", newAt(&lab.Spot{Where: lab.OnDevice, Device: "new"}, nil)},
		{"shelves cannot stand on each other in a circle", "at.device_id", "itself on “sbc shelf”", change(shelf,
			func(d *lab.Device) { d.At = &lab.Spot{Where: lab.OnDevice, Device: "finch"} })},
		{"a place cannot be in itself", "place_id", "cannot be in itself", change(loft, func(p *lab.Place) { p.In = "loft" })},
		{"a negative weight is no weight", "weight_kg", "-4 kg is out of range", change(anvil, func(d *lab.Device) { d.WeightKG = ptr(-4.0) })},
		{"nothing weighs nothing", "weight_kg", "0 kg is out of range", change(anvil, func(d *lab.Device) { d.WeightKG = ptr(0.0) })},
		{"a rack of no units is refused", "height_u", "1 to 60 units, not 0", change(rack, func(r *lab.Rack) { r.HeightU = 0 })},
		{"a rack of 200 units is refused", "height_u", "1 to 60 units, not 200", change(rack, func(r *lab.Rack) { r.HeightU = 200 })},
		{"a rack is not made lower than what is in it", "height_u", "“sbc shelf” is at 8", change(rack, func(r *lab.Rack) { r.HeightU = 7 })},
		{"a second rack of a name is refused, whatever the case", "name", "there is a rack “Pantry” already", lab.Rack{ID: "other",
			Name: "PANTRY", HeightU: 9}},
		{"a name of 10,000 characters is refused", "name", "10000 characters long", change(anvil,
			func(d *lab.Device) { d.Name = strings.Repeat("x", 10_000) })},
		{"a name with a control character is refused", "name", "U+0007", change(anvil, func(d *lab.Device) { d.Name = "an\avil" })},
		{"a name that turns the text around is refused", "name", "U+202E", change(anvil, func(d *lab.Device) { d.Name = "an\u202evil" })},
		{"a kind that is not listed is refused", "device_kind", "“toaster” is not known", change(anvil,
			func(d *lab.Device) { d.Kind = "toaster" })},
		{"a currency that is none is refused", "currency", "three letters", lab.Settings{ID: lab.SettingsID, Currency: "££",
			Numbering: lab.FromBottom}},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			next, err := l.Apply(puts(l, c.put))
			if c.field == "" {
				require.NoError(t, err)
				assert.Equal(t, c.put, next.Get(c.put.Key()))
				return
			}
			var refusal *lab.Refusal
			require.ErrorAs(t, err, &refusal)
			assert.Nil(t, next)
			assert.Equal(t, c.field, refusal.Faults[0].Field)
			assert.Equal(t, c.put.Key(), refusal.Faults[0].Key)
			assert.Contains(t, refusal.Faults[0].Say, c.say)
		})
	}
}

func change[R lab.Record](r R, how func(*R)) lab.Record { how(&r); return r }

func TestThingsNestSoDeepAndNotInCircles(t *testing.T) {
	for name, at := range map[string]func(id, on lab.ID) lab.Record{
		"devices stack": func(id, on lab.ID) lab.Record {
			d := lab.Device{ID: id, Name: string(id), Kind: lab.Shelf, State: lab.Running}
			if on != "" {
				d.At = &lab.Spot{Where: lab.OnDevice, Device: on}
			}
			return d
		},
		"places are": func(id, in lab.ID) lab.Record { return lab.Place{ID: id, Name: string(id), In: in} },
	} {
		tower := func(letter string, high int) (list []lab.Record) {
			on := lab.ID("")
			for n := range high {
				id := lab.ID(fmt.Sprint(letter, n))
				list = append(list, at(id, on))
				on = id
			}
			return list
		}
		l, err := lab.New().Apply(puts(lab.New(), append(tower("a", lab.MostNested+1), tower("b", 3)...)...))
		require.NoError(t, err, "16 under the topmost one")
		top := lab.ID(fmt.Sprint("a", lab.MostNested))
		_, err = l.Apply(puts(l, at("c", top)))
		require.ErrorContains(t, err, name+" at most 16 deep", "one more on top")
		_, err = l.Apply(puts(l, at("a0", "b0")))
		require.ErrorContains(t, err, "too deep", "the whole tower on another one")
		_, err = l.Apply(puts(l, at("b0", "b2")))
		require.ErrorContains(t, err, "“b0” cannot", "a circle")
		require.ErrorContains(t, err, "itself")
		_, err = l.Apply(puts(l, at("b0", "b0")))
		require.ErrorContains(t, err, "itself")
	}
}

func TestWhatHoldsSomethingIsNotRemovedFromUnderIt(t *testing.T) {
	l := pantry(t)
	shelf, _ := l.Remove(lab.Key{Kind: lab.KindDevice, ID: "shelf"})
	_, err := l.Apply([]lab.Change{shelf})
	require.ErrorContains(t, err, "“sbc shelf” still holds “finch”")

	finch, _ := l.Remove(lab.Key{Kind: lab.KindDevice, ID: "finch"})
	next, err := l.Apply([]lab.Change{shelf, finch}) // in either order
	require.NoError(t, err)
	assert.Nil(t, next.Get(lab.Key{Kind: lab.KindDevice, ID: "shelf"}))
}

func TestTwoDevicesSwapTheirUnitsInOneChange(t *testing.T) {
	l := pantry(t)
	anvil, shelf := device(t, l, "anvil"), device(t, l, "shelf")
	anvil.At, shelf.At = lab.At("pantry", 8, lab.Front), lab.At("pantry", 5, lab.Front)
	next := with(t, l, anvil, shelf)
	assert.Equal(t, 8, device(t, next, "anvil").At.Unit)
	assert.Equal(t, 5, device(t, l, "anvil").At.Unit, "the lab before is as it was")
}

func TestTwoNewDevicesInOneUnitAreReportedOnce(t *testing.T) {
	l := pantry(t)
	var both []lab.Record
	for _, id := range []lab.ID{"a", "b"} {
		both = append(both, lab.Device{ID: id, Name: string(id), Kind: lab.Switch, State: lab.Running, At: lab.At("pantry", 1, lab.Front),
			Spec: lab.Spec{TakesU: ptr(1)}})
	}
	_, err := l.Apply(puts(l, both...))
	var refusal *lab.Refusal
	require.ErrorAs(t, err, &refusal)
	require.Len(t, refusal.Faults, 1)
	assert.Contains(t, refusal.Faults[0].Say, "“b” cannot take 1 at the front of “Pantry”: “a” takes 1")
}

func TestAChangeOfSomethingOlderIsAConflict(t *testing.T) {
	l := pantry(t)
	stale := device(t, l, "anvil")
	now := stale
	now.Name = "hammer"
	l = with(t, l, now)
	_, err := l.Apply([]lab.Change{{Before: stale, After: stale}})
	var conflict *lab.Conflict
	require.ErrorAs(t, err, &conflict)
	assert.Equal(t, now, conflict.Now)
}

func TestNamesAreFreeAgainAfterRenaming(t *testing.T) {
	l := pantry(t)
	r, _ := lab.Find[lab.Rack](l, "pantry")
	r.Name = "Larder"
	l = with(t, l, r, lab.Rack{ID: "second", Name: "Pantry", HeightU: 9})
	id, ok := l.Named(lab.KindRack, "PANTRY")
	assert.True(t, ok)
	assert.Equal(t, lab.ID("second"), id)
}

func TestUnitsAreNumberedFromEitherEnd(t *testing.T) {
	l := pantry(t)
	r, _ := lab.Find[lab.Rack](l, "pantry")
	assert.Equal(t, "5-6", l.UnitRange(r, 5, 2))
	s := l.Settings()
	s.Numbering = lab.FromTop
	l = with(t, l, s)
	assert.Equal(t, "7-8", l.UnitRange(r, 5, 2), "of 12 units, 5 and 6 from the foot are 8 and 7 from the head")
}

func TestHeldThingsComeTopDownThenInTheirOrder(t *testing.T) {
	l := with(t, pantry(t), lab.Device{ID: "ap", Kind: lab.AccessPoint, State: lab.Running,
		At: &lab.Spot{Where: lab.OnTop, Rack: "pantry", Order: 1}},
		lab.Device{ID: "robin", Kind: lab.SingleBoard, State: lab.Running, At: &lab.Spot{Where: lab.OnDevice, Device: "shelf", Order: 2}})
	ids := func(list []lab.Device) (ids []lab.ID) {
		for _, d := range list {
			ids = append(ids, d.ID)
		}
		return
	}
	assert.Equal(t, []lab.ID{"shelf", "anvil", "strip", "ap"}, ids(l.HeldBy(lab.Key{Kind: lab.KindRack, ID: "pantry"})))
	in, ok := l.RackOf(device(t, l, "robin"))
	assert.True(t, ok)
	assert.Equal(t, lab.ID("pantry"), in.ID)
}

func TestKindsAreSpelledAsTheTradeDoes(t *testing.T) {
	for kind, words := range map[lab.DeviceKind]string{lab.MiniPC: "mini PC", lab.KVMSwitch: "KVM switch", lab.NAS: "NAS",
		lab.UPS: "UPS", lab.PatchPanel: "patch panel", lab.SingleBoard: "single-board computer", lab.FanUnit: "fan unit"} {
		assert.Equal(t, words, kind.Words())
	}
}

// Properties over seeded random edits: undoing gives the lab before, the
// difference of two labs leads from one to the other, and a change survives
// being written down.
func TestInvertDiffAndJSONHoldForRandomEdits(t *testing.T) {
	rnd := rand.New(rand.NewPCG(8, 640))
	l := pantry(t)
	applied := 0
	for range 2000 {
		changes := randomEdit(rnd, l)
		next, err := l.Apply(changes)
		if err != nil {
			continue
		}
		applied++
		back, err := next.Apply(lab.Invert(changes))
		require.NoError(t, err)
		assert.Empty(t, lab.Diff(l, back))

		again, err := l.Apply(lab.Diff(l, next))
		require.NoError(t, err)
		assert.Empty(t, lab.Diff(next, again))

		for _, c := range changes {
			data, err := json.Marshal(c)
			require.NoError(t, err)
			var read lab.Change
			require.NoError(t, json.Unmarshal(data, &read))
			assert.Equal(t, c, read)
		}
		l = next
	}
	assert.Greater(t, applied, 500, "most random edits should be allowed")
}

func randomEdit(rnd *rand.Rand, l *lab.Lab) []lab.Change {
	id := lab.ID(fmt.Sprintf("d%d", rnd.IntN(30)))
	key := lab.Key{Kind: lab.KindDevice, ID: id}
	if c, ok := l.Remove(key); ok && rnd.IntN(4) == 0 {
		return []lab.Change{c}
	}
	d := lab.Device{ID: id, Name: fmt.Sprint("name ", rnd.IntN(99)), Kind: lab.ThingKinds()[rnd.IntN(29)], State: lab.States()[rnd.IntN(6)],
		Spec: lab.Spec{TakesU: ptr(1 + rnd.IntN(2))}}
	switch rnd.IntN(4) {
	case 0:
		d.At = lab.At("pantry", 1+rnd.IntN(12), lab.Faces()[rnd.IntN(2)])
		d.At.Share = lab.Shares()[rnd.IntN(6)]
	case 1:
		d.At = &lab.Spot{Where: lab.OnDevice, Device: lab.ID(fmt.Sprintf("d%d", rnd.IntN(30)))}
	case 2:
		d.At = &lab.Spot{Where: lab.InPlace, Place: "loft", Order: rnd.IntN(5)}
	}
	c, _ := l.Put(d)
	return []lab.Change{c}
}

func TestRecordsAreReadStrictly(t *testing.T) {
	_, err := lab.DecodeRecord(lab.KindRack, []byte(`{"id":"r","name":"R","height":9}`))
	assert.ErrorContains(t, err, `unknown field "height"`)
	_, err = lab.DecodeRecord("toaster", []byte(`{}`))
	assert.ErrorContains(t, err, "lab, place, rack, spec_sheet, vlan, wireless_network, circuit, template, device")
}

func TestWhatIsSharedHasNoPublicAddresses(t *testing.T) {
	d := lab.Device{ID: "d", Kind: lab.Router, State: lab.Running, Addressed: lab.Addressed{Addresses: []lab.Address{
		{Address: netip.MustParseAddr("10.20.0.1"), How: lab.FixedAddress}, {Address: netip.MustParseAddr("9.9.9.9"), How: lab.FixedAddress},
		{Address: netip.MustParseAddr("100.64.0.9"), How: lab.FixedAddress}, {Address: netip.MustParseAddr("2a00::1"), How: lab.FixedAddress},
		{Address: netip.MustParseAddr("203.0.113.7"), How: lab.FixedAddress}}}}
	l, err := lab.New().Apply([]lab.Change{{After: d}})
	require.NoError(t, err)
	shared, _ := lab.Find[lab.Device](lab.WithoutPrivate(l), "d")
	var left []string
	for _, a := range shared.Addresses {
		left = append(left, a.Address.String())
	}
	assert.Equal(t, []string{"10.20.0.1", "100.64.0.9", "203.0.113.7"}, left)
}

// A name with “and” in it stays whole.
func TestAlternativesAreJoinedByOr(t *testing.T) {
	assert.Equal(t, "salt and pepper, names or 2 more", lab.Either([]string{"salt and pepper", "names", "a", "b"}, 3))
	assert.Equal(t, "salt and pepper", lab.Either([]string{"salt and pepper"}, 3))
}
