package exchange_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
	"levelstaff/exchange"
)

const pools = `place "Attic", outside the house
? nas "silo": 8 bays, 6x 4TB
? nas "crock": 4 bays
spare drive "friday": 8TB
pool "hold" on silo: raid-z1 of bay 1-3, hot spare bay 4, 5TB used 2026-11-20, for "the big disks"
pool "hold" on crock: raid 5 of 4 or 5 of 8 or 10TB
dataset "scores" on silo/hold: 3TB, household, grows 50GB a month
dataset "films" on crock/hold: 2 cameras 4Mbit 12h, keeps 30 days
copy of "scores" to crock/hold: nightly, 30 kept, last 2026-11-25, encrypted "key in the safe"
copy of "scores" from crock/hold to "Attic": weekly, by hand
copy of "films" to drive "friday": every 2 months, outside the house
`

func TestTablesOfStorageGoOutAndComeBack(t *testing.T) {
	l := labtest.From(t, pools)
	for _, table := range []exchange.StorageTable{exchange.PoolTable, exchange.DatasetTable, exchange.CopyTable} {
		for _, write := range []func(*bytes.Buffer) error{
			func(b *bytes.Buffer) error { return table.WriteCSV(b, l) }, func(b *bytes.Buffer) error { return table.WriteXLSX(b, l) },
		} {
			var file bytes.Buffer
			require.NoError(t, write(&file))
			same, err := table.Read(labtest.IDs("new"))(l, file.Bytes())
			require.NoError(t, err)
			assert.Zero(t, same.Refused, "%v", same.Rows)
			assert.Empty(t, same.Changes, "what is written of %s changes nothing", table.Sheet)
		}
	}
	var out bytes.Buffer
	require.NoError(t, exchange.PoolTable.WriteCSV(&out, l))
	lines := strings.Split(out.String(), "\n")
	assert.True(t, strings.HasPrefix(lines[0], "name,device,sets,spares,cache,log,boot,"), lines[0])
	assert.True(t, strings.HasPrefix(lines[1], "hold,silo,raid-z1 of bay 1-3,bay 4,"), lines[1])
	out.Reset()
	require.NoError(t, exchange.CopyTable.WriteCSV(&out, l))
	assert.Contains(t, out.String(), "\"\"\"scores\"\"\",crock/hold,,nightly,30,2026-11-25,")
}

// All three tables of one lab, in order, make what is stored in another lab with the same
// devices and drives.
func TestTablesOfStorageMakeIt(t *testing.T) {
	from := labtest.From(t, pools)
	at := strings.Index(pools, "pool \"hold\"")
	to := labtest.From(t, pools[:at])
	next := labtest.IDs("made")
	for _, table := range []exchange.StorageTable{exchange.PoolTable, exchange.DatasetTable, exchange.CopyTable} {
		var file bytes.Buffer
		require.NoError(t, table.WriteCSV(&file, from))
		sheet, err := table.Read(next)(to, file.Bytes())
		require.NoError(t, err)
		require.Zero(t, sheet.Refused, "%v", sheet.Rows)
		to, err = to.Apply(sheet.Changes)
		require.NoError(t, err)
	}
	assert.Equal(t, rundown.Print(from), rundown.Print(to))
}

func TestLinesOfStorageThatAreRefused(t *testing.T) {
	l := labtest.From(t, pools)
	for _, c := range []struct {
		table exchange.StorageTable
		text  string
		say   string
	}{
		{exchange.PoolTable, "name,device,sets\nnew,silo,raid 5 of bay 5-6\n", "raid 5 needs at least 3 drives, not 2"},
		{exchange.PoolTable, "name,device,sets\nnew,barn,mirror of bay 5-6\n", "device: there is no device called “barn”"},
		{exchange.PoolTable, "name,device,sets\n,silo,mirror of bay 5-6\n", "name: it cannot be empty"},
		{exchange.PoolTable, "name,device,used\nhold,silo,much\n", "used: “much” is not a capacity"},
		{exchange.DatasetTable, "name,on,size\nnew,hold,1TB\n", "“hold” may be pool \"silo/hold\" or pool \"crock/hold\"; write which"},
		{exchange.DatasetTable, "name,on,worth\nscores,silo/hold,priceless\n", "“priceless” is not a worth"},
		{exchange.CopyTable, "dataset,to\nscores,silo/hold\n", "a thing is no copy of itself"},
		{exchange.CopyTable, "dataset,to,often\nscores,friday,sometimes\n", "often: “sometimes” does not say how often"},
		{exchange.CopyTable, "dataset,to\nletters,friday\n", "dataset: there is no dataset called “letters”"},
	} {
		sheet, err := c.table.Read(labtest.IDs("new"))(l, []byte(c.text))
		require.NoError(t, err, c.text)
		require.Equal(t, 1, sheet.Refused, c.text)
		assert.Contains(t, sheet.Rows[0].Say, c.say)
		assert.Empty(t, sheet.Changes)
	}
	_, err := exchange.CopyTable.Read(labtest.IDs("new"))(l, []byte("to\nfriday\n"))
	assert.ErrorContains(t, err, "the first line has to name the columns dataset and to")
}

func TestALineSaysWhatItChanges(t *testing.T) {
	l := labtest.From(t, pools)
	sheet, err := exchange.DatasetTable.Read(labtest.IDs("new"))(l,
		[]byte("name,on,size\nscores,silo/hold,\"3,5TB\"\nletters,silo/hold,180GB\n"))
	require.NoError(t, err)
	var said []string
	for _, r := range sheet.Rows {
		said = append(said, r.Title+": "+string(r.Verb)+" "+r.Say)
	}
	assert.Equal(t, []string{"scores on silo/hold: changed size 3,5TB", "letters on silo/hold: changed new, size 180GB"}, said)
	next, err := l.Apply(sheet.Changes)
	require.NoError(t, err)
	assert.Equal(t, int64(3.5e12), *labtest.Named[lab.Dataset](t, next, "scores").Bytes)
	assert.Equal(t, lab.Household, labtest.Named[lab.Dataset](t, next, "scores").Worth, "what the line does not say stays")
}
