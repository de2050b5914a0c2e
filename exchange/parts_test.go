package exchange_test

import (
	"bytes"
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
	"levelstaff/exchange"
)

const withParts = `rack "Pantry": 12U
5-6 server "anvil": 8 bays 3.5in sata, 4 memory slots
    bay 1 drive "vault 1": 8TB, hdd, serial "Z1", 21400h
    bay 2 drive: 4TB, hdd
    slot 1-2 memory: 16GB
8 nas "silo": 4 bays 3.5in sata
spare drive "cold spare": 8TB
ordered 2x supply: 750W`

// partsRead says what each line of a file of parts does, and how the lab is
// then.
func partsRead(t *testing.T, l *lab.Lab, how exchange.Taking, text string) ([]string, *lab.Lab) {
	t.Helper()
	sheet, err := exchange.Parts.Read(context.Background(), l, []byte(text), how, labtest.IDs(""))
	require.NoError(t, err)
	var said []string
	for _, row := range sheet.Rows {
		said = append(said, string(row.Verb)+" "+row.Title+": "+row.Say)
	}
	if sheet.Refused > 0 {
		assert.Empty(t, sheet.Changes)
		return said, l
	}
	next, err := l.Apply(sheet.Changes)
	require.NoError(t, err)
	return said, next
}

func TestFilesOfPartsComeBackTheSame(t *testing.T) {
	l := labtest.From(t, withParts)
	bare := labtest.From(t, `rack "Pantry": 12U
5-6 server "anvil": 8 bays 3.5in sata, 4 memory slots
8 nas "silo": 4 bays 3.5in sata`)
	for name, write := range map[string]func(*bytes.Buffer) error{
		"csv":  func(out *bytes.Buffer) error { return exchange.Parts.WriteCSV(out, l) },
		"xlsx": func(out *bytes.Buffer) error { return exchange.Parts.WriteXLSX(out, l) },
	} {
		var out bytes.Buffer
		require.NoError(t, write(&out), name)
		same, err := exchange.Parts.Read(context.Background(), l, out.Bytes(), exchange.Taking{}, labtest.IDs(""))
		require.NoError(t, err, name)
		assert.Empty(t, same.Changes, name)
		assert.Len(t, same.Rows, 7, name)
		other, err := exchange.Parts.Read(context.Background(), bare, out.Bytes(), exchange.Taking{}, labtest.IDs(""))
		require.NoError(t, err, name)
		require.Zero(t, other.Refused, "%s: %+v", name, other.Rows)
		next, err := bare.Apply(other.Changes)
		require.NoError(t, err, name)
		assert.Equal(t, rundown.Print(l), rundown.Print(next), "%s, into a lab with the same devices", name)
	}
}

func TestWhatALineOfAFileOfPartsDoes(t *testing.T) {
	l := labtest.From(t, withParts)
	said, next := partsRead(t, l, exchange.Taking{}, "name,device,seat\nvault 1,silo,1\ncold spare,anvil,1\n")
	assert.Equal(t, []string{"changed vault 1: from anvil, bay 1 to silo, bay 1", "changed cold spare: from the spares bin to anvil, bay 1"},
		said, "one takes the place of the other")
	assert.Contains(t, rundown.Print(next), `bay 1 drive "cold spare"`)

	said, _ = partsRead(t, l, exchange.Taking{}, "device,seat,kind,size_bytes\nanvil,2,drive,6TB\nanvil,3,drive,6TB\n")
	assert.Equal(t, "changed drive: size 6 TB (was 4 TB)", said[0], "what sits there is meant, where the line has no name")
	assert.Equal(t, "new drive: in anvil, bay 3", said[1])

	said, _ = partsRead(t, l, exchange.Taking{}, "name,device\nvault 1,spares bin\ncold spare,on order\n")
	assert.Equal(t, []string{"changed vault 1: from anvil, bay 1 to the spares bin", "changed cold spare: from the spares bin to on order"},
		said)

	said, _ = partsRead(t, l, exchange.Taking{Guess: true, Kind: "drive"}, "Capacity;Serial No.;Host;Bay\n18TB;Q7;silo;4\n")
	assert.Equal(t, []string{"new drive: in silo, bay 4"}, said, "somebody else's list of drives")
}

func TestLinesOfPartsThatAreRefused(t *testing.T) {
	l := labtest.From(t, withParts+"\n"+`? switch "twin"
? switch "twin"`)
	for text, say := range map[string]string{
		"name,device,seat\nvault 1,nowhere,1\n":                 "device: there is no device called “nowhere”",
		"name,device,seat\nvault 1,twin,1\n":                    "2 devices are called twin; write twin (1)",
		"name,seat\nvault 1,9\n":                                "9",
		"name,seat\nvault 1,first\n":                            "seat: “first” is not the number",
		"name,seat\nvault 1,0\n":                                "seat: “0” is not the number",
		"name,seat\nvault 1,2\n":                                "bay 2",
		"name,device,seat\nvault 1,silo,1\ncold spare,silo,1\n": "bay 1",
		"name,device\nvault 1,silo\nvault 1,anvil\n":            "line 2 is about the same thing",
		"name,kind\nnew one,toaster\n":                          "toaster",
		"name,device\nnew one,silo\n":                           "say in the column kind what it is, such as drive",
		"name,size_bytes\nvault 1,large\n":                      "size_bytes: ",
		"name,warranty_until\nvault 1,31.02.\n":                 "warranty_until: ",
	} {
		said, _ := partsRead(t, l, exchange.Taking{}, text)
		found := false
		for _, row := range said {
			found = found || len(row) > 8 && row[:8] == "refused " && bytes.Contains([]byte(row), []byte(say))
		}
		assert.True(t, found, "%q: %q does not say %q", text, said, say)
	}
	said, _ := partsRead(t, l, exchange.Taking{Kind: "toaster"}, "name\nnew one\n")
	assert.Contains(t, said[0], "“toaster” is not a kind of part")
}
