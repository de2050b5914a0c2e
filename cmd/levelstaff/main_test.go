package main

import (
	"bytes"
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/store"
)

// run is the command with its arguments, as typed; it returns what was
// printed and the exit status.
func run(t *testing.T, args ...string) (out string, exit int) {
	t.Helper()
	var printed bytes.Buffer
	cmd := root()
	cmd.SetArgs(args)
	cmd.SetOut(&printed)
	cmd.SetErr(&printed)
	cmd.SetIn(strings.NewReader(""))
	if err := cmd.ExecuteContext(context.Background()); err != nil {
		return printed.String() + err.Error(), status(err)
	}
	return printed.String(), 0
}

func write(t *testing.T, name, text string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
	return path
}

const small = "rack \"Pantry\": 12U, holds 50kg\n12 switch \"core\": 4.1kg\n5-6 server \"anvil\"\n"

func TestWhatIsLoadedIsSavedTheSame(t *testing.T) {
	data := t.TempDir()
	out, exit := run(t, "load", write(t, "lab.rundown", small), "--data", data)
	require.Equal(t, 0, exit, out)
	assert.Contains(t, out, `added    switch "core" at Pantry 12`)
	assert.Contains(t, out, "change 1: 3 added")

	saved := filepath.Join(t.TempDir(), "saved.rundown")
	_, exit = run(t, "save", saved, "--data", data)
	require.Equal(t, 0, exit)
	out, exit = run(t, "load", saved, "--data", data)
	assert.Equal(t, 0, exit)
	assert.Equal(t, "nothing to change\n", out)
}

func TestTheCablingFromTheCommandLine(t *testing.T) {
	data := t.TempDir()
	out, exit := run(t, "load", write(t, "lab.rundown", `run "stairs": 18m, inside 25mm
rack "R": 6U
6 patch panel "PP1": 8 ports rj45
5 switch "core": 8 ports rj45 1G
4 server "bolt": 1 ports rj45 front called "mgmt", remote "10.0.0.9"
core/1 - PP1/1 0.1m cat6
PP1/1 = ? cat6 via stairs
core/2 - bolt/mgmt yellow cat6, faulty
`), "--data", data)
	require.Equal(t, 0, exit, out)
	for name, want := range map[string]string{
		"leads":   "core/1 - PP1/1      core/1      PP1/1      0.20 m, too short",
		"runs":    "stairs  1       6 % of at most 53 %  5",
		"to_buy":  "cat6  yellow  0.5 m   1",
		"ways_in": "10.0.0.9  bolt",
		"ports":   "the lab  RJ45                1 Gb/s  2     6     0     0",
	} {
		out, exit := run(t, "report", name, "--data", data)
		require.Equal(t, 0, exit, out)
		assert.Contains(t, out, want, name)
		bare, exit := run(t, "report", name, "--data", t.TempDir())
		assert.Equal(t, 0, exit)
		assert.Contains(t, bare, "no", name)
	}
	file := filepath.Join(t.TempDir(), "cables.csv")
	out, exit = run(t, "save", file, "--cables", "--data", data)
	require.Equal(t, 0, exit, out)
	out, _ = run(t, "load", file, "--cables", "--data", data)
	assert.Equal(t, "nothing to change\n", out)
	out, exit = run(t, "load", write(t, "cables.csv", "a,b\ncore/1,PP1/3\n"), "--cables", "--data", data)
	assert.Equal(t, 1, exit)
	assert.Contains(t, out, "unplug that first, or swap the two")
}

func TestPartsAndSheetsGoInAndOutAlone(t *testing.T) {
	data := t.TempDir()
	out, exit := run(t, "load", write(t, "lab.rundown",
		"sheet \"Fell R28\": server, 2U high\nrack \"Pantry\": 12U\n5-6 server \"anvil\": 4 bays 3.5in\n    bay 1 drive \"vault\": 8TB\n"),
		"--data", data)
	require.Equal(t, 0, exit, out)
	dir := t.TempDir()
	for _, ending := range []string{".csv", ".xlsx"} {
		file := filepath.Join(dir, "parts"+ending)
		out, exit = run(t, "save", file, "--parts", "--data", data)
		require.Equal(t, 0, exit, out)
		out, exit = run(t, "load", file, "--parts", "--data", data)
		assert.Equal(t, 0, exit)
		assert.Equal(t, "nothing to change\n", out)
	}
	out, exit = run(t, "load", write(t, "parts.csv", "name,device,seat\nvault,anvil,3\n"), "--parts", "--data", data)
	require.Equal(t, 0, exit, out)
	assert.Contains(t, out, "moved    vault from anvil, bay 1 to anvil, bay 3")
	out, exit = run(t, "load", write(t, "parts.csv", "name,device,seat\nvault,anvil,9\n"), "--parts", "--data", data)
	assert.Equal(t, 1, exit)
	assert.Contains(t, out, "nothing was loaded: one line is refused")

	sheets := filepath.Join(dir, "sheets.json")
	out, exit = run(t, "save", sheets, "--sheets", "--data", data)
	require.Equal(t, 0, exit, out)
	other := t.TempDir()
	out, exit = run(t, "load", sheets, "--data", other)
	require.Equal(t, 0, exit, out)
	assert.Contains(t, out, "Fell R28")
	graph := filepath.Join(dir, "needs.dot")
	out, exit = run(t, "save", graph, "--needs", "--data", data)
	require.Equal(t, 0, exit, out)
	text, err := os.ReadFile(graph)
	require.NoError(t, err)
	assert.Contains(t, string(text), "digraph")
	for _, args := range [][]string{{"--needs", "x.csv"}, {"--needs", "--cables", "x.dot"},
		{"--sheets", "x.csv"}, {"--parts", "x.json"}, {"--parts", "--sheets", "x.json"},
		{"--cables", "--parts", "x.csv"}, {"x.dot"}} {
		_, exit = run(t, append([]string{"save", "--data", data}, args...)...)
		assert.Equal(t, 2, exit, args)
	}
	_, exit = run(t, "load", write(t, "bad.json", `{"format":"levelstaff-sheets","version":9}`), "--data", other)
	assert.Equal(t, 1, exit)
}

func TestAnEditedFileIsShownAsADifferenceFirst(t *testing.T) {
	data := t.TempDir()
	_, exit := run(t, "load", write(t, "lab.rundown", small), "--data", data)
	require.Equal(t, 0, exit)
	edited := write(t, "edited.rundown", strings.Replace(small, "5-6 server \"anvil\"", "1-2 server \"anvil\"\n3 ups \"keep\"", 1))
	out, exit := run(t, "load", edited, "--data", data, "--dry-run")
	assert.Equal(t, 0, exit)
	assert.Contains(t, out, "moved    anvil from Pantry 5-6 to Pantry 1-2")
	assert.Contains(t, out, "2 changes, not made")
	out, _ = run(t, "load", edited, "--data", data)
	assert.Contains(t, out, "change 2")
}

func TestAFileWithAMistakeLoadsNothingUnlessAsked(t *testing.T) {
	data := t.TempDir()
	file := write(t, "lab.rundown", small+"4 swich \"x\"\n3 box \"y\"\n")
	out, exit := run(t, "load", file, "--data", data)
	assert.Equal(t, 1, exit)
	assert.Contains(t, out, file+":4:3: swich: did you mean switch?")
	assert.Contains(t, out, "nothing was loaded: 1 mistake;")
	out, exit = run(t, "load", file, "--data", data, "--skip-mistakes")
	assert.Equal(t, 0, exit)
	assert.Contains(t, out, `server "y" at Pantry 3`)
	assert.Contains(t, out, "change 1: 4 added")
}

func TestTheSpaceReport(t *testing.T) {
	data := t.TempDir()
	_, exit := run(t, "load", write(t, "lab.rundown", small), "--data", data)
	require.Equal(t, 0, exit)
	out, _ := run(t, "report", "space", "--data", data)
	// 12 units, 3 taken; free are 7-11 and 1-4.
	assert.Regexp(t, `Pantry\s+12\s+3\s+9\s+5U\s+7-11 1-4\s+at least 4.1 of 50 kg, 1 of 2 not weighed`, out)
	out, exit = run(t, "report", "space", "--data", data, "--json")
	require.Equal(t, 0, exit)
	var report rack.SpaceReport
	require.NoError(t, json.Unmarshal([]byte(out), &report))
	assert.Equal(t, 9, report.FreeU)
}

func TestExitStatuses(t *testing.T) {
	locked := t.TempDir()
	st, err := store.Open(context.Background(), locked)
	require.NoError(t, err)
	defer st.Close()
	for name, c := range map[string]struct {
		args []string
		exit int
		say  string
	}{
		"the version":              {[]string{"version"}, 0, "levelstaff dev"},
		"a command not known":      {[]string{"frobnicate"}, 2, "unknown command"},
		"a flag not known":         {[]string{"serve", "--colour"}, 2, "unknown flag"},
		"no file to load":          {[]string{"load"}, 2, "requires at least 1 arg"},
		"a format not known":       {[]string{"load", "lab.docx"}, 2, `".docx" is not one of .csv, .json, .rundown`},
		"a file that is not there": {[]string{"load", "/nowhere/lab.rundown"}, 1, "no such file"},
		"a report not known": {[]string{"report", "weather"}, 2,
			"there are: battery, bin, circles, copies, cost, data_lost, exposure, feeds, findings, fits, gear, guest, heat, hosts, if_gone, layouts, leads, lines, losses, money, needs, openings, poe, pools, ports, reach, reached, request, room_for, runs, shares, shutdown, slow, space, start, subnets, threads, to_buy, vlans, ways, ways_in, without, worst"},
		"a report asked amiss": {[]string{"report", "openings", "--speed-mb", "fast", "--data", t.TempDir()}, 2,
			"A speed is a number of Mbit/s"},
		"what a report cannot take": {[]string{"report", "space", "--speed-mb", "10", "--data", t.TempDir()}, 2,
			"the report space takes no --speed-mb"},
		"listening to everybody": {[]string{"serve", "--listen", "0.0.0.0:8640", "--data", t.TempDir()}, 2,
			"set one with levelstaff passphrase"},
		"an outer address too": {[]string{"serve", "--outer-url", "https://lab.example", "--data", t.TempDir()}, 2,
			"set one with levelstaff passphrase"},
		"an outer address of none":   {[]string{"serve", "--outer-url", "lab"}, 2, "such as https://lab.example.net"},
		"half a certificate":         {[]string{"serve", "--tls-key", "k"}, 2, "go together"},
		"the demo for everybody":     {[]string{"demo", "--listen", "0.0.0.0:0"}, 2, "has no passphrase yet"},
		"two files of JSON":          {[]string{"load", "a.json", "b.json"}, 2, "one at a time"},
		"a backup of nothing":        {[]string{"backup", "x.db", "--data", t.TempDir()}, 1, "there is no lab in"},
		"an address that is none":    {[]string{"serve", "--listen", "8640"}, 2, "write HOST:PORT"},
		"data that another one has":  {[]string{"report", "space", "--data", locked}, 1, "another levelstaff is using"},
		"a directory that cannot be": {[]string{"save", "/nowhere/lab.rundown", "--data", locked + "/x"}, 1, "no such file"},
		"the help":                   {[]string{"--help"}, 0, "Documents a home lab"},
	} {
		t.Run(name, func(t *testing.T) {
			out, exit := run(t, c.args...)
			assert.Equal(t, c.exit, exit, out)
			assert.Contains(t, out, c.say)
		})
	}
}

func TestTheDemoLabIsLivedInAndLoads(t *testing.T) {
	st, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	defer st.Close()
	require.NoError(t, loadDemo(context.Background(), st))
	l := st.Now().Lab
	racks, devices, unknown, states := 0, 0, 0, map[string]bool{}
	for range lab.Each[lab.Rack](l) {
		racks++
	}
	for d := range lab.Things(l) {
		devices++
		states[string(d.State)] = true
		if d.WeightKG == nil {
			unknown++
		}
	}
	assert.Equal(t, 3, racks)
	assert.InDelta(t, 55, devices, 8)
	assert.Greater(t, unknown, 10, "some facts are not known")
	assert.Len(t, states, 6, "every state occurs")
}

// The README's list of commands is the list there is, and each has its flags.
func TestTheReadmeHasEveryCommand(t *testing.T) {
	text, err := os.ReadFile("../../README.md")
	require.NoError(t, err)
	listed := map[string]string{}
	for _, m := range regexp.MustCompile(`(?m)^levelstaff (\w+)(.*)$`).FindAllStringSubmatch(string(text), -1) {
		listed[m[1]] = m[2]
	}
	for _, c := range root().Commands() {
		line, ok := listed[c.Name()]
		assert.True(t, ok, "%s is missing", c.Name())
		for _, flag := range regexp.MustCompile(`--([a-z-]+)`).FindAllStringSubmatch(line, -1) {
			c.InitDefaultHelpFlag()
			assert.NotNil(t, c.Flags().Lookup(flag[1]), "%s has no --%s", c.Name(), flag[1])
		}
		delete(listed, c.Name())
	}
	assert.Empty(t, listed, "commands that there are not")
}
