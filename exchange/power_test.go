package exchange_test

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/power"
	"levelstaff/exchange"
)

const outlets = `? ups "keep": 900W, 2 outlets c13 battery, 1 outlet c13 filtered
? server "anvil": 2 supply bays, 100W typical, 300W max
? amplifier "amp"
keep/out1 - anvil/in1 1m
keep/out3 - amp/in1
`

func TestTheOutletPlanGoesOutAndComesBack(t *testing.T) {
	l := labtest.From(t, outlets)
	var out bytes.Buffer
	require.NoError(t, exchange.WriteOutletPlanCSV(&out, l))
	assert.Equal(t, "feeder,outlet,device,supply,connector,holds,typical_w\n"+
		"keep,out1,anvil,in1,c13,holds,100\nkeep,out2,,,c13,holds,\nkeep,out3,amp,in1,c13,only filters,\n", out.String())
	read := exchange.OutletPlanReader(labtest.IDs("lead"))
	for _, write := range []func(*bytes.Buffer) error{
		func(b *bytes.Buffer) error { return exchange.WriteOutletPlanCSV(b, l) },
		func(b *bytes.Buffer) error { return exchange.WriteOutletPlanXLSX(b, l) },
	} {
		var file bytes.Buffer
		require.NoError(t, write(&file))
		same, err := read(l, file.Bytes())
		require.NoError(t, err)
		assert.Zero(t, same.Refused)
		assert.Empty(t, same.Changes, "what is written changes nothing")
	}

	sheet, err := read(l,
		[]byte("feeder,outlet,device,supply\nkeep,out1,,\nkeep,out2,anvil,in2\nkeep,3,anvil,in1\nkeep,out9,amp,\nkeep,out1,fish,\n"))
	require.NoError(t, err)
	var said []string
	for _, row := range sheet.Rows {
		said = append(said, string(row.Verb)+" "+row.Say)
	}
	assert.Equal(t, []string{"changed nothing hangs on keep/out1 any more", "changed keep/out2 feeds anvil/in2",
		"changed keep/3 feeds anvil/in1",
		"refused keep has no outlet “out9”; it has out1-out2, out3 and in1", "refused there is no one device called “fish”"}, said)
	next, err := l.Apply(sheet.Changes)
	require.NoError(t, err)
	g := power.Of(next)
	at, _ := g.Number(labtest.Named[lab.Device](t, next, "anvil").Key())
	assert.Len(t, g.In(at), 2)
	amp, _ := g.Number(labtest.Named[lab.Device](t, next, "amp").Key())
	assert.Empty(t, g.In(amp), "its lead now leads to anvil")
}

// A line that closes a circle is told, and nothing of the file is taken.
func TestAnOutletPlanThatClosesACircle(t *testing.T) {
	sheet, err := exchange.OutletPlanReader(labtest.IDs("lead"))(labtest.From(t, outlets),
		[]byte("feeder,outlet,device,supply\nkeep,out2,anvil,in2\nkeep,out3,keep,in1\n"))
	require.NoError(t, err)
	assert.Equal(t, 1, sheet.Refused)
	assert.Contains(t, sheet.Rows[1].Say, "that would feed keep from itself")
	assert.Empty(t, sheet.Changes)
}

func TestThePowerTableGoesOutAndComesBack(t *testing.T) {
	l := labtest.From(t, outlets)
	var out bytes.Buffer
	require.NoError(t, exchange.WritePowerTableCSV(&out, l))
	assert.Equal(t, "device,standby_w,idle_w,typical_w,most_w,measured_w,draws_w,rests_on,fed_by\n"+
		"anvil,,,100,300,,100,by its sheet,keep/out1\namp,,,,,,,unknown,keep/out3\n", out.String())
	same, err := exchange.ReadPowerTable(l, out.Bytes())
	require.NoError(t, err)
	assert.Empty(t, same.Changes)

	sheet, err := exchange.ReadPowerTable(l, []byte("device,most_w,measured_w\nanvil,320,111\namp,cold,\nanvil,50,\n"))
	require.NoError(t, err)
	require.Len(t, sheet.Rows, 3)
	assert.Equal(t, "anvil: most_w 320, measured_w 111", sheet.Rows[0].Say)
	assert.Contains(t, sheet.Rows[1].Say, "most_w: “cold” is not a power")
	assert.Contains(t, sheet.Rows[2].Say, "typical, 100 W, is above most, 50 W")
	next, err := l.Apply(sheet.Changes)
	require.NoError(t, err)
	assert.Equal(t, 111.0, *labtest.Named[lab.Device](t, next, "anvil").Measured.W)
}

// What is taken of an outlet plan makes a lab, and what is written of that changes nothing.
func FuzzOutletPlan(f *testing.F) {
	for _, text := range []string{"feeder,outlet,device,supply\nkeep,out1,,\nkeep,out2,anvil,in2\n", "outlet;device;feeder\n2;amp;keep\n",
		"feeder,outlet,device\nkeep,out2,amp\nkeep,out2,anvil\nkeep,out3,amp\n", "feeder,outlet,device,supply\nkeep,in1,keep,out1\n",
		"feeder,outlet,device,supply\nkeep,out2,keep,in1\n"} {
		f.Add([]byte(text))
	}
	l := labtest.From(f, outlets)
	f.Fuzz(func(t *testing.T, data []byte) {
		sheet, err := exchange.OutletPlanReader(labtest.IDs("lead"))(l, data)
		if err != nil {
			return
		}
		next, err := l.Apply(sheet.Changes)
		require.NoError(t, err, "what is taken makes a lab")
		var out bytes.Buffer
		require.NoError(t, exchange.WriteOutletPlanCSV(&out, next))
		again, err := exchange.OutletPlanReader(labtest.IDs("again"))(next, out.Bytes())
		require.NoError(t, err)
		assert.Empty(t, again.Changes, "what is written changes nothing")
	})
}
