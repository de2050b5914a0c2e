package exchange_test

import (
	"bytes"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/exchange"
)

func planned(t *testing.T) *lab.Lab {
	return labtest.From(t, `rack "R": 9U
9 switch "core": 4 ports rj45, untagged 10
8 switch "loft": 3 ports rj45
7 patch panel "P": 4 ports
6 switch "S1": 2 ports rj45, domain "exam lab", untagged 20
core/1 - P/1
P/1 = loft/1
core/1 tagged 20,30
loft/1 tagged all
vlan 10 "house"
vlan 20 "servers"
vlan 20 "practice" in domain "exam lab"
`)
}

func TestTheVLANPlanIsPortsByVLANs(t *testing.T) {
	l := planned(t)
	var out bytes.Buffer
	require.NoError(t, exchange.WriteVLANPlanCSV(&out, l))
	assert.Equal(t, `device,port,leads to,10 house,20 servers,30,20 practice (exam lab)
core,1,loft/1,U,T,T,
core,2,,U,,,
core,3,,U,,,
core,4,,U,,,
loft,1,core/1,T,T,T,
loft,2,,,,,
loft,3,,,,,
S1,1,,,,,U
S1,2,,,,,U
`, out.String())
	sheet, err := exchange.ReadVLANPlan(l, out.Bytes())
	require.NoError(t, err)
	assert.Empty(t, sheet.Changes, "what is written changes nothing")
	out.Reset()
	require.NoError(t, exchange.WriteVLANPlanXLSX(&out, l))
	sheet, err = exchange.ReadVLANPlan(l, out.Bytes())
	require.NoError(t, err)
	assert.Empty(t, sheet.Changes)
	assert.Len(t, sheet.Rows, 9)
}

func TestAPlanIsTakenBack(t *testing.T) {
	l := planned(t)
	sheet, err := exchange.ReadVLANPlan(l, []byte("Device;Port;10;20 servers\ncore;2;;u\ncore;3;U;t\nloft;2;T;-\n"))
	require.NoError(t, err)
	require.Zero(t, sheet.Refused)
	assert.Equal(t, "untagged 20 (was untagged 10)", sheet.Rows[0].Say)
	next, err := l.Apply(sheet.Changes)
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, exchange.WriteVLANPlanCSV(&out, next))
	for _, line := range []string{"core,2,,,U,,", "core,3,,U,T,,", "core,4,,U,,,", "loft,2,,T,,,"} {
		assert.Contains(t, out.String(), line+"\n")
	}
}

func TestAPlanThatCannotBeIsRefusedWithItsPlace(t *testing.T) {
	l := planned(t)
	for text, say := range map[string]string{
		"device,20\ncore,U\n":       "the first line has to name the columns device and port",
		"device,port\ncore,1\n":     "no column is a VLAN",
		"device,port,4095\ncore,1,": "column 3: a VLAN's number is 1 to 4094, not 4095",
	} {
		_, err := exchange.ReadVLANPlan(l, []byte(text))
		assert.ErrorContains(t, err, say, text)
	}
	for row, say := range map[string]string{
		"core,9,U,,":   "core has no port “9”; it has 1-4",
		"cor,1,U,,":    "there is no one device called “cor”",
		"core,1,U,U,":  "untagged in 10 and in 20",
		"core,1,yes,,": "column 3: “yes” is neither U for untagged nor T for tagged",
		"core,1,U":     "it has 3 cells, and the first line names 5 columns",
		"core,1,,,U":   "column 5: core is not in the switching domain of VLAN 20",
	} {
		sheet, err := exchange.ReadVLANPlan(l, []byte("device,port,10 house,20 servers,20 practice (exam lab)\n"+row+"\n"))
		require.NoError(t, err, row)
		require.Equal(t, 1, sheet.Refused, row)
		assert.Contains(t, sheet.Rows[0].Say, say, row)
		assert.Empty(t, sheet.Changes)
	}
}

func TestPastedCellsOfTheWrongSizeAreRefused(t *testing.T) {
	l := planned(t)
	core := exchange.PasteVLANs
	id := lab.ID("")
	for d := range lab.Each[lab.Device](l) {
		if d.Name == "core" {
			id = d.ID
		}
	}
	for text, say := range map[string]string{
		"U\tT\tT\tT":   "line 1 has 4 cells, and there are 2 VLANs from 20 on",
		"U\nU\nU\nU":   "4 lines were pasted, and core has 3 ports from 2 on",
		"U\t\nU":       "line 2 has 1 cells, and the first has 2",
		"U\tT\nyes\tT": "line 2: column 1: “yes” is neither U",
		"U\tU":         "line 1: it is untagged in 20 and in 30",
	} {
		_, err := core(l, id, "2", 20, text)
		assert.ErrorContains(t, err, say, text)
	}
	changes, err := core(l, id, "2", 20, "U\tT\r\n\tT\r\n")
	require.NoError(t, err)
	next, err := l.Apply(changes)
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, exchange.WriteVLANPlanCSV(&out, next))
	assert.Contains(t, out.String(), "core,2,,,U,T,\ncore,3,,U,,T,\ncore,4,,U,,,\n")
}

func FuzzVLANPlan(f *testing.F) {
	for _, text := range []string{"device,port,10 house\ncore,1,U\n", "device;port;20 practice (exam lab)\nS1;1;T\n",
		"port,device,1,2,3\n?,core,x,,\n"} {
		f.Add([]byte(text))
	}
	l := labtest.From(f, "rack \"R\": 3U\n3 switch \"core\": 4 ports rj45\n2 switch \"S1\": domain \"exam lab\"\n")
	f.Fuzz(func(t *testing.T, data []byte) {
		sheet, err := exchange.ReadVLANPlan(l, data)
		if err != nil {
			return
		}
		next, err := l.Apply(sheet.Changes)
		require.NoError(t, err, "what is taken makes a lab")
		var out bytes.Buffer
		require.NoError(t, exchange.WriteVLANPlanCSV(&out, next))
		again, err := exchange.ReadVLANPlan(next, out.Bytes())
		if err == nil {
			assert.Empty(t, again.Changes)
		}
	})
}

func TestGraphvizTakesTheNetwork(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, exchange.WriteNetworkDOT(&out, planned(t)))
	assert.Contains(t, out.String(), `label="20t, 30t"`)
	cmd := exec.Command("dot", "-Tsvg")
	cmd.Stdin = strings.NewReader(out.String())
	svg, err := cmd.CombinedOutput()
	require.NoError(t, err, string(svg))
	assert.Contains(t, string(svg), ">loft<")
}
