package lab_test

import (
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

func TestEveryListOfRecordsHasItsKind(t *testing.T) {
	all := reflect.TypeFor[lab.Records]()
	kinds := map[string]lab.Kind{}
	for _, k := range lab.Kinds() {
		kinds[k.List] = k
		assert.Equal(t, k.RecordKind, lab.Blank(k.RecordKind, "x").Key().Kind)
		assert.Equal(t, lab.ID("x"), lab.Blank(k.RecordKind, "x").Key().ID)
		var one lab.Records
		one.Add(lab.Blank(k.RecordKind, "x"))
		require.Len(t, one.List(), 1, k.List)
		assert.True(t, lab.Same(lab.Blank(k.RecordKind, "x"), one.List()[0]), k.List)
	}
	require.Len(t, kinds, all.NumField())
	for i := range all.NumField() {
		name := all.Field(i).Tag.Get("json")[:len(all.Field(i).Tag.Get("json"))-len(",omitempty")]
		if name == "settings" {
			name = "lab"
		}
		assert.Contains(t, kinds, name)
		assert.Equal(t, all.Field(i).Type.Kind() == reflect.Pointer, kinds[name].Alone)
	}
}

func TestWhatIsMarkedPrivateIsNotShared(t *testing.T) {
	l := with(t, pantry(t),
		lab.Part{ID: "p", Kind: lab.Drive, State: lab.Running, Device: "anvil", Serial: "S-1", Maker: "Fell"},
		lab.Draft{ID: "d", Name: "next"})
	d := device(t, l, "anvil")
	d.Serial, d.Remote, d.Web, d.Private, d.Notes = "S-2", "10.20.0.9", "https://a.home.arpa", []lab.Entry{{Name: "pin", Value: "1234"}}, "kept"
	l = with(t, l, d)
	shared := lab.WithoutPrivate(l)
	is := device(t, shared, "anvil")
	assert.Equal(t, []any{"", "", "", "kept"}, []any{is.Serial, is.Remote, is.Web, is.Notes})
	assert.Empty(t, is.Private)
	p, _ := lab.Find[lab.Part](shared, "p")
	assert.Equal(t, []string{"", "Fell"}, []string{p.Serial, p.Maker})
	assert.Equal(t, "S-2", device(t, l, "anvil").Serial, "the lab itself stays as it was")
	k, _ := lab.KindOf(lab.KindDevice)
	assert.True(t, k.Private("remote_address"))
	assert.False(t, k.Private("weight_kg"))
}

func TestARemovalTakesAlongAndClearsWhatRefersToIt(t *testing.T) {
	l := with(t, pantry(t),
		lab.Run{ID: "stairs", Name: "stairs"},
		lab.Part{ID: "p", Kind: lab.Drive, State: lab.Running, Device: "anvil"},
		lab.Cable{ID: "both", State: lab.CableInUse, A: &lab.End{Device: "anvil", Port: "1"}, B: &lab.End{Device: "anvil", Port: "2"}},
		lab.Cable{ID: "far", State: lab.CableInUse, Run: "stairs", A: &lab.End{Device: "anvil", Port: "3"},
			B: &lab.End{Device: "finch", Port: "1"}},
		lab.Cable{ID: "bin", State: lab.CableSpare, Run: "stairs"})
	after := func(keys ...lab.Key) *lab.Lab {
		next, err := l.Apply(l.Removal(keys...))
		require.NoError(t, err)
		return next
	}
	anvil, finch := lab.Key{Kind: lab.KindDevice, ID: "anvil"}, lab.Key{Kind: lab.KindDevice, ID: "finch"}

	without := after(anvil)
	assert.Nil(t, without.Get(lab.Key{Kind: lab.KindPart, ID: "p"}), "its part goes along")
	assert.Nil(t, without.Get(lab.Key{Kind: lab.KindCable, ID: "both"}), "a cable with both ends in it goes too")
	far, _ := lab.Find[lab.Cable](without, "far")
	assert.Nil(t, far.A)
	assert.Equal(t, lab.ID("finch"), far.B.Device, "the other end stays plugged in")

	assert.Nil(t, after(anvil, finch).Get(lab.Key{Kind: lab.KindCable, ID: "far"}), "with both devices the cable between them goes")

	runless := after(lab.Key{Kind: lab.KindRun, ID: "stairs"})
	bin, ok := lab.Find[lab.Cable](runless, "bin")
	assert.True(t, ok, "a cable that was in the bin before stays")
	assert.Empty(t, bin.Run)

	_, err := l.Apply(l.Removal(lab.Key{Kind: lab.KindRack, ID: "pantry"}))
	assert.ErrorContains(t, err, "still holds")
	assert.Empty(t, l.Removal(lab.Key{Kind: lab.KindRack, ID: "nowhere"}))
}

func TestUniqueValuesAreToldApartByListAndField(t *testing.T) {
	l := with(t, pantry(t), lab.Place{ID: "pl", Name: "Pantry"}, lab.Acceptance{ID: "a", Finding: "weight/x", Reason: "known"})
	_, err := l.Apply(puts(l, lab.Acceptance{ID: "b", Finding: "WEIGHT/X", Reason: "again"}))
	assert.ErrorContains(t, err, "finding: there is an acceptance “known” already; give one of them another finding")
	id, ok := l.Named(lab.KindPlace, "PANTRY")
	assert.True(t, ok)
	assert.Equal(t, lab.ID("pl"), id, "a rack and a place may both be called Pantry")
}
