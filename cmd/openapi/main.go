// Command openapi writes the API's OpenAPI document, from which the web pages'
// types are made, and beside it what the pages have to know of the core when
// they run: the lists of records and the kinds there are.
package main

import (
	"encoding/json"
	"fmt"
	"os"

	"levelstaff/core/lab"
	"levelstaff/core/trial"
	"levelstaff/server"
)

func main() {
	if len(os.Args) != 3 {
		fmt.Fprintln(os.Stderr, "usage: openapi DOCUMENT.json CONSTANTS.ts")
		os.Exit(2)
	}
	if err := write(os.Args[1], os.Args[2]); err != nil {
		fmt.Fprintln(os.Stderr, "openapi:", err)
		os.Exit(1)
	}
}

func write(document, constants string) error {
	doc, err := server.OpenAPI()
	if err != nil {
		return err
	}
	if err := os.WriteFile(document, append(doc, '\n'), 0o644); err != nil {
		return err
	}
	return os.WriteFile(constants, fromCore(), 0o644)
}

// fromCore are the constants as TypeScript.
func fromCore() []byte {
	lists := map[lab.RecordKind]string{}
	for _, k := range lab.Kinds() {
		if !k.Alone {
			lists[k.RecordKind] = k.List
		}
	}
	kinds := []lab.Traits{}
	for _, k := range lab.DeviceKinds() {
		kinds = append(kinds, k.Traits())
	}
	text := "// Made from the core at build; see cmd/openapi.\n"
	for _, c := range []struct {
		name, says string
		value      any
	}{
		{"lists", "The list that each kind of record is in.", lists},
		{"deviceKinds", "The kinds of device, with what is true of each.", kinds},
		{"states", "The states of a device.", lab.States()},
		{"partKinds", "The sorts of part.", lab.PartKinds()},
		{"trialRack", "The made-up rack that one tries things in.", trial.Rack},
	} {
		data, err := json.MarshalIndent(c.value, "", "  ")
		if err != nil {
			panic(err) // plain values
		}
		text += fmt.Sprintf("\n/** %s */\nexport const %s = %s as const\n", c.says, c.name, data)
	}
	return []byte(text)
}
