package card_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/card"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
)

// from reads a lab; its records' ids count up.
func named(t *testing.T, l *lab.Lab, kind lab.RecordKind, name string) lab.Record {
	t.Helper()
	for r := range l.Records(kind) {
		if rundown.AboutOf(l, r).Title == name {
			return r
		}
	}
	require.Fail(t, "no such record", name)
	return nil
}

func known(t *testing.T, c card.Card, field string) card.Known {
	t.Helper()
	for _, g := range c.Groups {
		for _, f := range g.Facts {
			if f.Field.Field == field {
				return f
			}
		}
	}
	require.Fail(t, "no such fact", field)
	return card.Known{}
}

const house = `sheet "Fell R28": server, 2U high, takes 4U, 24kg, 710mm deep, 8 ports rj45 1G
place "Pantry room"
rack "Pantry": 24U, 19in, 800mm deep, in "Pantry room"
12-15 server "anvil": sheet "Fell R28", 22kg
17 shelf "tray"
on "tray" mini pc "kite": 2 ports rj45 1G
on "tray" mini pc "able"
rack "Wall": 6U, in "Pantry room"
in "Pantry room" access point "ap": nobody knows "weight_kg"
anvil/1 = kite/1`

func TestACardTellsWhereEachFactIsFrom(t *testing.T) {
	l := labtest.From(t, house)
	anvil := card.Of(l, named(t, l, lab.KindDevice, "anvil"))
	assert.Equal(t, "Pantry 12-15", anvil.Record.Where)
	assert.Equal(t, "server", anvil.What)
	assert.Equal(t, card.FromOwn, known(t, anvil, "weight_kg").From, "its own weight goes before the sheet's")
	assert.Equal(t, "22kg", known(t, anvil, "weight_kg").Text)
	assert.Equal(t, card.FromSheet, known(t, anvil, "depth_mm").From)
	assert.Equal(t, "710mm", known(t, anvil, "depth_mm").Text)
	assert.Empty(t, known(t, anvil, "price_minor").From, "what is simply not known is from nowhere")
	assert.True(t, known(t, anvil, "width_mm").Gap, "nobody can check whether it fits")
	assert.False(t, known(t, anvil, "depth_mm").Gap, "the sheet says it")
	assert.Equal(t, []string{"It takes 4U, more than its own height of 2U."}, anvil.Sentences)
	require.NotNil(t, anvil.Inside)

	ap := card.Of(l, named(t, l, lab.KindDevice, "ap"))
	assert.Equal(t, card.FromNever, known(t, ap, "weight_kg").From)
	assert.Empty(t, known(t, ap, "weight_kg").Text)
}

func TestACardBeginsWithHowOneGetsAtItAndEndsWithWhatIsPrivate(t *testing.T) {
	l := labtest.From(t, `place "Shed": note "damp"`+"\n"+`rack "R": 9U, 800mm deep`+"\n"+`2 server "x": 24kg, web "https://x.home.arpa", serial "4K", paid 9`)
	groups := func(kind lab.RecordKind, name string) (titles []string) {
		for _, g := range card.Of(l, named(t, l, kind, name)).Groups {
			titles = append(titles, g.Title)
		}
		return titles
	}
	server := groups(lab.KindDevice, "x")
	assert.Equal(t, []string{"Ways in", ""}, server[:2])
	assert.Equal(t, "Private", server[len(server)-1])
	assert.Equal(t, "", groups(lab.KindRack, "R")[0])
}

func TestWhatHangsOnARecord(t *testing.T) {
	l := labtest.From(t, house)
	things := func(kind lab.RecordKind, name string) (string, []string) {
		c := card.Of(l, named(t, l, kind, name))
		said := []string{}
		for _, thing := range c.Things {
			said = append(said, thing.Title+", "+thing.What)
		}
		return c.Hangs, said
	}
	hangs, said := things(lab.KindPlace, "Pantry room")
	assert.Equal(t, "What is here", hangs)
	assert.Equal(t, []string{"Pantry, rack, 24U", "Wall, rack, 6U", "ap, access point"}, said)
	hangs, said = things(lab.KindDevice, "tray")
	assert.Equal(t, "On it", hangs)
	assert.Equal(t, []string{"kite, mini PC", "able, mini PC"}, said)
	hangs, said = things(lab.KindSheet, "Fell R28")
	assert.Equal(t, "Has it", hangs)
	assert.Equal(t, []string{"anvil, server"}, said)
	hangs, said = things(lab.KindRack, "Pantry")
	assert.Empty(t, hangs, "it is drawn")
	assert.Empty(t, said)
	_, said = things(lab.KindDevice, "anvil")
	assert.Empty(t, said, "its cable is shown in another way")
}

// Whatever kind comes, it has a card: its facts, each once and in one group.
func TestEveryKindHasACard(t *testing.T) {
	for _, k := range lab.Kinds() {
		r := lab.Blank(k.RecordKind, "it")
		c := card.Of(lab.New(), r)
		assert.Equal(t, k.RecordKind, c.Record.Kind)
		assert.NotEmpty(t, c.What, k.RecordKind)
		n := 0
		seen := map[string]bool{}
		for _, g := range c.Groups {
			for _, f := range g.Facts {
				assert.False(t, seen[f.Field.Field], "%s %s", k.RecordKind, f.Field.Field)
				seen[f.Field.Field] = true
				n++
			}
		}
		for _, f := range rundown.FieldsOf(r) {
			assert.True(t, seen[f.Field] || f.Field == "never_known", "%s %s is on no card", k.RecordKind, f.Field)
		}
		assert.Equal(t, len(seen), n)
	}
}

func TestWhatHoldsUnlessSaidOtherwise(t *testing.T) {
	l := lab.New()
	slack := known(t, card.Of(l, l.Settings()), "slack_mm")
	assert.Empty(t, slack.Text, "nobody has said it")
	assert.Equal(t, "100mm", slack.Usual)
}
