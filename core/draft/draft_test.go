package draft_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/draft"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

const quiet lab.ID = "quiet"

// bench is a lab with a draft that has no steps yet, and a hand to work in it.
type bench struct {
	*testing.T
	lab *lab.Lab
	ids int
}

func with(t *testing.T, text string) *bench {
	b := &bench{T: t}
	p := rundown.Load(lab.New(), rundown.Parse(text), rundown.Options{All: true, NewID: b.id})
	require.Empty(t, p.Mistakes)
	b.lab = p.Lab
	b.apply([]lab.Change{{After: lab.Draft{ID: quiet, Name: "Quiet ember"}}})
	return b
}

func (b *bench) id() lab.ID { b.ids++; return lab.ID(fmt.Sprintf("%04d", b.ids)) }

func (b *bench) apply(changes []lab.Change) {
	b.Helper()
	next, err := b.lab.Apply(changes)
	require.NoError(b, err)
	b.lab = next
}

// types does what a line says, in the lab as built or in the draft.
func (b *bench) types(line string, drafted bool) {
	b.Helper()
	base := b.lab
	if drafted {
		base = draft.On(b.lab, quiet).Lab
	}
	p := rundown.Load(base, rundown.ParseLine(line), rundown.Options{NewID: b.id, Rack: b.rack()})
	require.Empty(b, p.Mistakes, line)
	changes := p.Changes
	if drafted {
		var err error
		changes, err = draft.Add(b.lab, quiet, changes, b.id)
		require.NoError(b, err)
	}
	b.apply(changes)
}

func (b *bench) rack() lab.ID {
	id, _ := b.lab.Named(lab.KindRack, "R")
	return id
}

func (b *bench) device(name string) lab.Device {
	b.Helper()
	id, ok := rundown.DeviceNamed(b.lab)(name)
	require.True(b, ok, name)
	d, _ := lab.Find[lab.Device](b.lab, id)
	return d
}

// says is the draft in words, a line a step.
func (b *bench) says() (list []string) {
	for _, s := range draft.On(b.lab, quiet).Steps {
		line := s.Words
		if s.Why != "" {
			line += " ✗ " + s.Why
		}
		if s.Step.DoneOn != "" {
			line += " ✓"
		}
		list = append(list, line)
	}
	return
}

const small = `rack "R": 9U
9 switch "core"
6 server "ember", faulty
5 rear strip "strip B"
1-2 ups "keep"`

func TestWhatIsDoneInADraftBecomesItsSteps(t *testing.T) {
	b := with(t, small)
	built := b.lab
	b.types(`4 strip "strip B"`, true)
	b.types(`3 shelf "board": mini pc "lark", mini pc "linnet"`, true)
	assert.Equal(t, []string{
		"strip B moved from R 5 rear to R 4",
		`shelf "board" added at R 3`,
		`mini pc "lark" added on board`,
		`mini pc "linnet" added on board`,
	}, b.says(), "new things have a step each")
	assert.Empty(t, kinds(lab.Diff(built, b.lab), lab.KindDevice), "the lab as built is what it was")
	drafted := draft.On(b.lab, quiet).Lab
	_, ok := rundown.DeviceNamed(drafted)("lark")
	assert.True(t, ok)
}

func kinds(changes []lab.Change, kind lab.RecordKind) (list []lab.Change) {
	for _, c := range changes {
		if c.Key().Kind == kind {
			list = append(list, c)
		}
	}
	return
}

func TestGoingOnAboutAThingIsStillOneStep(t *testing.T) {
	b := with(t, small)
	b.types(`7 server "heron": 12kg`, true)
	b.types(`8 server "heron", 400mm deep`, true)
	assert.Equal(t, []string{`server "heron" added at R 8`}, b.says())
	b.types(`7 switch "core"`, true)
	b.types(`9 switch "core"`, true)
	assert.Equal(t, []string{`server "heron" added at R 8`}, b.says(), "back where it was: no step is left of it")
}

func TestAStepIsNotFoldedWhereALaterOneNeedsIt(t *testing.T) {
	b := with(t, small)
	b.types(`7 server "ember"`, true)           // out of 6
	b.types(`6 server "heron": takes 1U`, true) // into 6
	b.types(`6 rear server "ember"`, true)
	assert.Equal(t, []string{"ember moved from R 6 to R 6 rear", `server "heron" added at R 6`}, b.says())
	b.types(`7 server "heron"`, true)
	b.types(`6 server "ember"`, true)
	assert.Equal(t, []string{`server "heron" added at R 7`}, b.says())
}

func TestTheDraftSurvivesWhatDoesNotConcernIt(t *testing.T) {
	b := with(t, small)
	b.types(`4 strip "strip B"`, true)
	b.types(`3 shelf "board"`, true)
	b.types(`5 rear strip "strip B": 1.4kg`, false)
	b.types(`7 switch "attic"`, false)
	assert.Equal(t, []string{"strip B moved from R 5 rear to R 4", `shelf "board" added at R 3`}, b.says())
	drafted := draft.On(b.lab, quiet).Lab
	id, _ := rundown.DeviceNamed(drafted)("strip B")
	d, _ := lab.Find[lab.Device](drafted, id)
	assert.Equal(t, 1.4, *d.WeightKG, "what was learned meanwhile is kept")
}

func TestAStepSaysWhyItNoLongerHolds(t *testing.T) {
	b := with(t, small)
	b.types(`4 strip "strip B"`, true)
	b.types(`3 shelf "board": mini pc "lark"`, true)
	b.types(`7 server "ember"`, true)
	b.types(`7 rear strip "strip B"`, false) // moved elsewhere
	b.types(`3 server "heron": 2kg`, false)  // stands where the shelf should go
	ember := b.device("ember")
	b.apply([]lab.Change{{Before: ember}}) // gone
	assert.Equal(t, []string{
		"strip B moved from R 5 rear to R 4 ✗ meanwhile strip B moved from R 5 rear to R 7 rear",
		`shelf "board" added at R 3 ✗ “board” cannot take 3 at the front of “R”: “heron” takes 3 there`,
		`mini pc "lark" added on board ✗ “board” does not exist`,
		"ember moved from R 6 to R 7 ✗ “ember” no longer exists",
	}, b.says())
	assert.False(t, draft.On(b.lab, quiet).Holds())
	_, err := draft.Tick(b.lab, quiet, []lab.ID{b.lab.StepsOf(quiet)[0].ID}, "2026-11-23")
	assert.ErrorContains(t, err, "cannot be applied: meanwhile strip B moved")
}

func TestTickingMakesStepsReal(t *testing.T) {
	b := with(t, small)
	b.types(`4 strip "strip B"`, true)
	b.types(`3 shelf "board": mini pc "lark"`, true)
	steps := b.lab.StepsOf(quiet)
	changes, err := draft.Tick(b.lab, quiet, []lab.ID{steps[0].ID}, "2026-11-23")
	require.NoError(t, err)
	b.apply(changes)
	assert.Equal(t, 4, b.device("strip B").At.Unit)
	assert.Equal(t, "strip B moved from R 5 rear to R 4 ✓", b.says()[0])

	want := draft.On(b.lab, quiet).Lab
	changes, err = draft.Tick(b.lab, quiet, []lab.ID{steps[1].ID, steps[2].ID}, "2026-11-24")
	require.NoError(t, err)
	b.apply(changes)
	assert.Empty(t, kinds(lab.Diff(b.lab, want), lab.KindDevice), "as built is now what was drafted")
	assert.Equal(t, lab.Day("2026-11-24"), b.lab.StepsOf(quiet)[2].DoneOn)
}

func TestWhatADraftCosts(t *testing.T) {
	b := with(t, small)
	b.types(`3 shelf "board": mini pc "lark"`, true)
	b.types(`4 strip "strip B"`, true)
	steps := b.lab.StepsOf(quiet)
	price := int64(3250)
	priced := steps[0]
	priced.PriceMinor = &price
	b.apply([]lab.Change{{Before: steps[0], After: priced}})
	assert.Equal(t, draft.Cost{LeftMinor: 3250, Unpriced: 1, Left: "at least 32.50", All: "at least 32.50",
		Words: "at least 32.50, 1 without a price"}, draft.CostOf(b.lab, quiet), "lark has no price yet; a move needs none")
	changes, err := draft.Tick(b.lab, quiet, []lab.ID{priced.ID}, "2026-11-23")
	require.NoError(t, err)
	b.apply(changes)
	assert.Equal(t, draft.Cost{SpentMinor: 3250, Unpriced: 1, Left: "at least 0", All: "at least 32.50",
		Words: "at least 32.50, 32.50 spent, 1 without a price"}, draft.CostOf(b.lab, quiet))
}

// Parts in hosts that are there, leads, and what is paid for count; parts of what
// comes with them are in its price.
func TestADraftsCostCountsPartsLeadsAndWhatIsPaid(t *testing.T) {
	for line, want := range map[string]string{
		`"ember" bay 1 drive: 8TB, paid 150`:              "150",
		`"ember" bay 1-2 drive: 8TB`:                      "at least 0, 2 without a price",
		`4 nas "silo": paid 400, 4x 8TB hdd`:              "400",
		`4 nas "silo": 4x 8TB hdd`:                        "at least 0, 1 without a price",
		`4 nas "silo": got for free`:                      "0",
		`server "ember": paid 90 used 2026`:               "90",
		`spare 2x lead 1m cat6`:                           "at least 0, 2 without a price",
		`ordered 2x memory: 16GB, paid 58 new 2026-11-19`: "116",
	} {
		b := with(t, small)
		b.types(line, true)
		assert.Equal(t, want, draft.CostOf(b.lab, quiet).Words, line)
	}
}

func TestADraftIsCopiedReorderedAndThrownAway(t *testing.T) {
	b := with(t, small)
	b.types(`4 strip "strip B"`, true)
	b.types(`7 server "ember"`, true)
	steps := b.lab.StepsOf(quiet)
	b.apply(draft.Reorder(b.lab, quiet, []lab.ID{steps[1].ID, steps[0].ID}))
	assert.Equal(t, []string{"ember moved from R 6 to R 7", "strip B moved from R 5 rear to R 4"}, b.says())
	copied := draft.Copy(b.lab, quiet, "Quieter", "2026-11-23", b.id)
	b.apply(copied)
	other := copied[0].After.Key().ID
	assert.Len(t, b.lab.StepsOf(other), 2)
	b.apply(b.lab.Removal(lab.Key{Kind: lab.KindDraft, ID: quiet}))
	assert.Empty(t, b.lab.StepsOf(quiet))
	assert.Len(t, b.lab.StepsOf(other), 2)
}

// Whatever is done in a draft, the drafted lab is what it would have been
// without one, and undoing the steps' changes leaves nothing.
func TestADraftComesToWhatWasDoneInIt(t *testing.T) {
	for seed := range uint64(40) {
		rnd := rand.New(rand.NewPCG(seed, 5))
		b := with(t, small)
		want := b.lab
		for range 25 {
			changes := someChange(rnd, want, b.id)
			next, err := want.Apply(changes)
			steps, addErr := draft.Add(b.lab, quiet, changes, b.id)
			require.Equal(t, err == nil, addErr == nil, "seed %d: %v, %v", seed, err, addErr)
			if err != nil {
				continue
			}
			want = next
			b.apply(steps)
			e := draft.On(b.lab, quiet)
			require.True(t, e.Holds(), "seed %d", seed)
			require.Empty(t, kinds(lab.Diff(e.Lab, want), lab.KindDevice), "seed %d", seed)
		}
	}
}

func someChange(rnd *rand.Rand, l *lab.Lab, id func() lab.ID) []lab.Change {
	var all []lab.Device
	for d := range lab.Each[lab.Device](l) {
		all = append(all, d)
	}
	rack, _ := l.Named(lab.KindRack, "R")
	one := 1
	if len(all) == 0 {
		return []lab.Change{{After: lab.Device{ID: id(), Kind: lab.Hub, State: lab.Running}}}
	}
	d := all[rnd.IntN(len(all))]
	switch rnd.IntN(4) {
	case 0:
		return []lab.Change{{After: lab.Device{ID: id(), Kind: lab.Server, State: lab.Running, At: lab.At(rack, 1+rnd.IntN(9), lab.Front),
			Spec: lab.Spec{TakesU: &one}}}}
	case 1:
		return []lab.Change{{Before: d}}
	case 2:
		is := d
		is.At, is.TakesU = lab.At(rack, 1+rnd.IntN(9), lab.Faces()[rnd.IntN(2)]), &one
		return []lab.Change{{Before: d, After: is}}
	}
	is := d
	is.Purpose = fmt.Sprint("for ", rnd.IntN(9))
	return []lab.Change{{Before: d, After: is}}
}
