package lab_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

// storing is a lab with a device of four bays, a shelf of two, a drive in no bay and two
// places, one of them in the other and out of the house.
func storing(t *testing.T, more ...lab.Record) *lab.Lab {
	t.Helper()
	bays := func(n int) lab.Spec { return lab.Spec{Bays: []lab.BayGroup{{Count: n}}} }
	records := []lab.Record{
		lab.Place{ID: "aunt", Name: "Aunt's", Outside: true}, lab.Place{ID: "attic", Name: "Attic", In: "aunt"},
		lab.Device{ID: "silo", Name: "silo", Kind: lab.NAS, State: lab.Running, Spec: bays(4)},
		lab.Device{ID: "weasel", Name: "weasel", Kind: lab.DiskShelf, State: lab.Running, Spec: bays(2)},
		lab.Device{ID: "otter", Name: "otter", Kind: lab.MiniPC, State: lab.Running},
		lab.Part{ID: "friday", Name: "friday", Kind: lab.Drive, State: lab.Running},
		lab.Part{ID: "card", Kind: lab.Card, State: lab.Running},
	}
	l, err := lab.New().Apply(puts(lab.New(), append(records, more...)...))
	require.NoError(t, err)
	return l
}

func bay(device lab.ID, n ...int) []lab.PoolDrive {
	var list []lab.PoolDrive
	for _, one := range n {
		list = append(list, lab.PoolDrive{Device: device, Bay: one})
	}
	return list
}

func hold(sets ...lab.DriveSet) lab.Pool {
	return lab.Pool{ID: "hold", Name: "hold", Device: "silo", Sets: sets}
}

func TestWhatAPoolCannotBe(t *testing.T) {
	set := func(l lab.Layout, drives ...lab.PoolDrive) lab.DriveSet {
		return lab.DriveSet{Layout: l, Drives: drives}
	}
	small, large := int64(4e12), int64(8e12)
	for _, c := range []struct {
		says  string
		pool  lab.Pool
		field string
		say   string
	}{
		{"RAID 5 of two", hold(set(lab.RAID5, bay("silo", 1, 2)...)), "sets.0", "raid 5 needs at least 3 drives, not 2"},
		{"RAID 6 of three", hold(set(lab.RAID6, bay("silo", 1, 2, 3)...)), "sets.0", "raid 6 needs at least 4 drives, not 3"},
		{"RAID 10 of three", hold(set(lab.RAID10, bay("silo", 1, 2, 3)...)), "sets.0", "raid 10 needs at least 4 drives, not 3"},
		{"a mirror of one", hold(set(lab.Mirror, bay("silo", 1)...)), "sets.0", "mirror needs at least 2 drives, not 1"},
		{"RAID-Z3 of three", hold(set(lab.RAIDZ3, bay("silo", 1, 2, 3)...)), "sets.0", "raid-z3 needs at least 4 drives, not 3"},
		{"RAID 10 of five", hold(set(lab.RAID10, append(bay("silo", 1, 2, 3, 4), lab.PoolDrive{Part: "friday"})...)), "sets.0",
			"raid 10 is made of pairs; 5 drives are not"},
		{"a layout nobody knows", hold(set("raid 7", bay("silo", 1)...)), "sets.0", "“raid 7” is not a layout"},
		{"a bay twice", hold(set(lab.Mirror, bay("silo", 1, 1)...)), "sets", "bay 1 is there twice"},
		{"a bay in a set that is a spare too", func() lab.Pool {
			p := hold(set(lab.Mirror, bay("silo", 1, 2)...))
			p.Spares = bay("silo", 2)
			return p
		}(), "sets", "bay 2 is there twice"},
		{"a bay that there is not", hold(set(lab.Mirror, bay("silo", 4, 5)...)), "sets", "“silo” has the bays 1 to 4, and there is no bay 5"},
		{"a card for a drive", hold(set(lab.Single, lab.PoolDrive{Part: "card"})), "sets", "is a card, and a pool is made of drives"},
		{"a bay and a part at once", hold(set(lab.Single, lab.PoolDrive{Device: "silo", Bay: 1, Part: "friday"})), "sets.0",
			"either in a bay of a device or a part in no bay"},
		{"a bay without its number", hold(set(lab.Single, lab.PoolDrive{Device: "silo"})), "sets.0", "a bay has its device, and a number"},
		{"three of redundancy in mixed sizes", hold(lab.DriveSet{Layout: lab.Mixed, Copies: 3, Drives: bay("silo", 1, 2, 3, 4)}), "sets.0",
			"mixed has one or two drives of redundancy, not 3"},
		{"two of redundancy of three", hold(lab.DriveSet{Layout: lab.Mixed, Copies: 2, Drives: bay("silo", 1, 2, 3)}), "sets.0",
			"mixed needs at least 4 drives, not 3"},
		{"copies of RAID 5", hold(lab.DriveSet{Layout: lab.RAID5, Copies: 2, Drives: bay("silo", 1, 2, 3)}), "sets.0",
			"how much may fail goes without saying in raid 5"},
		{"three copies on one device", hold(lab.DriveSet{Layout: lab.Replicated, Copies: 3, Drives: bay("silo", 1, 2, 3)}), "sets.0",
			"3 copies need at least 3 devices, and it is on 1"},
		{"parity on a drive elsewhere", hold(lab.DriveSet{Layout: lab.DedicatedParity, Drives: bay("silo", 1, 2), Parity: bay("silo", 3)}), "sets.0",
			"the parity is on bay 3, which is not a drive of the set"},
		{"parity of a mirror", hold(lab.DriveSet{Layout: lab.Mirror, Drives: bay("silo", 1, 2), Parity: bay("silo", 1)}), "sets.0",
			"only dedicated parity says which drives the parity is on"},
		{"writing with more than there are", hold(lab.DriveSet{Layout: lab.Mirror, Drives: bay("silo", 1, 2), Writes: 2}), "sets.0",
			"it is replicated pools that write"},
		{"known and unknown drives", hold(lab.DriveSet{Layout: lab.Stripe, Drives: bay("silo", 1), Some: &lab.SomeDrives{Least: 2, Most: 3}}), "sets.0",
			"either say which drives they are or about how many"},
		{"fewer at most than at least", hold(lab.DriveSet{Layout: lab.Stripe, Some: &lab.SomeDrives{Least: 4, Most: 3}}), "sets.0",
			"the fewest there may be first"},
		{"the larger size first", hold(lab.DriveSet{Layout: lab.Stripe, Some: &lab.SomeDrives{Least: 2, Most: 3, LeastBytes: &large, MostBytes: &small}}),
			"sets.0", "the smaller size goes first"},
		{"no device", lab.Pool{ID: "x", Name: "x"}, "device_id", "say on which device it is"},
		{"a mirror on two devices", lab.Pool{ID: "x", Name: "x", Device: "silo", With: []lab.ID{"otter"}, Sets: []lab.DriveSet{
			set(lab.Mirror, bay("silo", 1, 2)...)}}, "with_device_ids", "only a replicated pool is on several devices"},
		{"its own device twice", lab.Pool{ID: "x", Name: "x", Device: "silo", With: []lab.ID{"silo"}}, "with_device_ids", "a device is there twice"},
	} {
		t.Run(c.says, func(t *testing.T) {
			_, err := storing(t).Apply([]lab.Change{{After: c.pool}})
			var refused *lab.Refusal
			require.ErrorAs(t, err, &refused)
			assert.Equal(t, c.field, refused.Faults[0].Field)
			assert.Contains(t, refused.Faults[0].Say, c.say)
		})
	}
}

func TestADeviceKeepsTheBaysThatPoolsUse(t *testing.T) {
	l := storing(t, hold(lab.DriveSet{Layout: lab.Mirror, Drives: bay("silo", 3, 4)}))
	d, _ := lab.Find[lab.Device](l, "silo")
	was := d
	d.Spec.Bays = []lab.BayGroup{{Count: 2}}
	_, err := l.Apply([]lab.Change{{Before: was, After: d}})
	assert.ErrorContains(t, err, "the pool “hold” is made of bay 3 too; change that first")
}

func TestWhatIsRemovedIsMissingFromItsPool(t *testing.T) {
	p := hold(lab.DriveSet{Layout: lab.RAID5, Drives: append(bay("silo", 1), bay("weasel", 1, 2)...)})
	p.Spares = []lab.PoolDrive{{Part: "friday"}}
	l := storing(t, p, lab.Dataset{ID: "d", Name: "d", On: &lab.Holder{Pool: "hold"}}, lab.NetworkShare{ID: "s", Name: "s", Dataset: "d"},
		lab.Copy{ID: "c", Dataset: "d", To: &lab.Holder{Place: "attic"}})
	removed := func(keys ...lab.Key) *lab.Lab {
		next, err := l.Apply(l.Removal(keys...))
		require.NoError(t, err)
		return next
	}
	without, _ := lab.Find[lab.Pool](removed(lab.Key{Kind: lab.KindDevice, ID: "weasel"}), "hold")
	assert.Equal(t, []lab.PoolDrive{{Device: "silo", Bay: 1}, {}, {}}, without.Sets[0].Drives)
	assert.Equal(t, p.Spares, without.Spares)
	without, _ = lab.Find[lab.Pool](removed(lab.Key{Kind: lab.KindPart, ID: "friday"}), "hold")
	assert.True(t, without.Spares[0].Missing())
	bare := removed(lab.Key{Kind: lab.KindDevice, ID: "silo"})
	for _, k := range []lab.Key{{Kind: lab.KindPool, ID: "hold"}, {Kind: lab.KindDataset, ID: "d"}, {Kind: lab.KindShare, ID: "s"},
		{Kind: lab.KindCopy, ID: "c"}} {
		assert.Nil(t, bare.Get(k), "%s goes along", k.Kind)
	}
	assert.Nil(t, removed(lab.Key{Kind: lab.KindPlace, ID: "attic"}).Get(lab.Key{Kind: lab.KindCopy, ID: "c"}), "a copy goes with where it is")
}

func TestWhatACopyCannotBe(t *testing.T) {
	on := func(id lab.ID) *lab.Holder { return &lab.Holder{Device: id} }
	l := storing(t, lab.Dataset{ID: "d", Name: "d", On: on("silo")}, lab.Copy{ID: "a", Dataset: "d", From: on("weasel"), To: on("otter")})
	low := -1.0
	for say, c := range map[string]lab.Copy{
		"a thing is no copy of itself":          {To: on("silo")},
		"it would be a copy onto itself":        {From: on("weasel"), To: on("weasel")},
		"the copies go round in a circle":       {From: on("otter"), To: on("weasel")},
		"say where it goes":                     {},
		"there is no place with the id":         {To: &lab.Holder{Place: "nowhere"}},
		"name one thing that it lies on":        {To: &lab.Holder{Place: "attic", Device: "weasel"}},
		"only what is encrypted has a key":      {To: on("weasel"), KeyAt: "the safe"},
		"is out of range":                       {To: on("weasel"), EveryH: &low},
		"is not a day, month or year":           {To: on("weasel"), Last: "yesterday"},
		"there is a copy “a copy” already":      {To: on("otter")},
		"there is no tunnel with the id “gone”": {To: on("weasel"), Via: "gone"},
	} {
		c.ID, c.Dataset = "b", "d"
		_, err := l.Apply([]lab.Change{{After: c}})
		assert.ErrorContains(t, err, say)
	}
	d, _ := lab.Find[lab.Dataset](l, "d")
	was := d
	d.On = on("otter")
	_, err := l.Apply([]lab.Change{{Before: was, After: d}})
	assert.ErrorContains(t, err, "a copy of it goes to “otter” already")
}

func TestOutOfTheHouseIsWhatIsInAPlaceThatIs(t *testing.T) {
	l := storing(t, lab.Place{ID: "house", Name: "House"})
	assert.True(t, l.OutsideTheHouse("attic"))
	assert.True(t, l.OutsideTheHouse("aunt"))
	assert.False(t, l.OutsideTheHouse("house"))
	assert.False(t, l.OutsideTheHouse(""))
}

func TestPoolsOfOneNameMayBeOnTwoDevices(t *testing.T) {
	l := storing(t, hold())
	_, err := l.Apply([]lab.Change{{After: lab.Pool{ID: "x", Name: "Hold", Device: "otter"}}})
	assert.NoError(t, err)
	_, err = l.Apply([]lab.Change{{After: lab.Pool{ID: "x", Name: "Hold", Device: "silo"}}})
	assert.ErrorContains(t, err, "there is a pool “hold” already")
}

func TestWhatCamerasWriteInADay(t *testing.T) {
	six, rate, half := 6, 5.0, 12.0
	day, ok := (&lab.Recording{Cameras: &six, Mbit: &rate}).BytesADay()
	assert.True(t, ok)
	assert.Equal(t, 324e9, day, "6 x 5 Mbit/s are 3.75 MB/s, times 86,400")
	day, _ = (&lab.Recording{Cameras: &six, Mbit: &rate, Hours: &half}).BytesADay()
	assert.Equal(t, 162e9, day)
	_, ok = (&lab.Recording{Cameras: &six}).BytesADay()
	assert.False(t, ok)
	_, ok = (*lab.Recording)(nil).BytesADay()
	assert.False(t, ok)
}
