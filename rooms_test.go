// Package levelstaff holds the one test that is about all rooms: who may
// import whom. docs/how-it-works.md draws it.
package levelstaff

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// below lists, for each room, the rooms of the project it may use.
var below = map[string][]string{
	"core/text":    {},
	"core/lab":     {},
	"core/need":    {"core/lab"},
	"core/rack":    {"core/text", "core/lab"},
	"core/cabling": {"core/lab"},
	"core/network": {"core/lab", "core/cabling", "core/need"},
	"core/address": {"core/lab", "core/cabling"},
	"core/power":   {"core/lab", "core/cabling", "core/need"},
	"core/battery": {"core/lab", "core/power"},
	"core/running": {"core/lab", "core/power"},
	"core/storage": {"core/lab", "core/need"},
	"core/service": {"core/lab", "core/need", "core/network", "core/address", "core/storage", "core/gear"},
	"core/reach":   {"core/lab", "core/need", "core/network", "core/address"},
	"core/request": {"core/lab", "core/need", "core/address", "core/reach"},
	"core/drill":   {"core/lab", "core/need", "core/network", "core/power", "core/storage", "core/service", "core/address", "core/reach", "core/request"},
	"core/rundown": {"core/text", "core/lab", "core/rack"},
	"core/gear":    {"core/text", "core/lab", "core/rack", "core/rundown"},
	"core/draft": {"core/lab", "core/rack", "core/cabling", "core/network", "core/power", "core/battery", "core/running", "core/storage",
		"core/service", "core/address", "core/reach", "core/drill", "core/rundown", "core/finding"},
	"core/find":  {"core/text", "core/lab", "core/rundown"},
	"core/table": {"core/text", "core/lab", "core/cabling", "core/rundown", "core/gear"},
	"core/card":  {"core/text", "core/lab", "core/rundown", "core/gear"},
	"core/report": {"core/text", "core/lab", "core/rack", "core/cabling", "core/network", "core/power", "core/battery", "core/running",
		"core/storage", "core/service", "core/address", "core/reach", "core/request", "core/drill", "core/rundown", "core/gear", "core/finding"},
	"core/finding": {"core/text", "core/lab", "core/rack", "core/cabling", "core/network", "core/power", "core/battery", "core/running",
		"core/storage", "core/service", "core/address", "core/reach", "core/request", "core/drill", "core/rundown", "core/gear"},
	"core/trial":   {"core/lab", "core/rundown"},
	"core/labtest": {"core/lab", "core/rundown"},
	"demo":         {"core/lab", "core/rundown", "core/draft", "core/finding", "picture"},
	"exchange": {"core/text", "core/lab", "core/cabling", "core/network", "core/power", "core/address", "core/drill", "core/rundown", "core/gear",
		"core/table"},
	"picture": {},
	"store":   {"core/lab", "core/rundown", "picture"},
	"server": {"core/text", "core/card", "core/report", "core/table", "core/lab", "core/rack", "core/cabling", "core/network",
		"core/power", "core/battery", "core/running", "core/storage", "core/service", "core/address", "core/reach", "core/request", "core/drill",
		"core/rundown", "core/gear", "core/draft", "core/find", "core/finding", "core/trial", "store", "exchange", "picture"},
	"cmd/openapi": {"core/lab", "core/trial", "server"},
	"cmd/levelstaff": {"core/text", "core/report", "core/lab", "core/rack", "core/cabling", "core/network", "core/power", "core/battery",
		"core/running", "core/storage", "core/service", "core/address", "core/reach", "core/request", "core/drill", "core/rundown", "core/gear", "core/draft",
		"core/find", "core/finding", "store", "exchange", "picture", "server", "demo", "web"},
	"web":   {},
	"bench": {},
}

// outside lists what the core may not touch: the world comes in as arguments.
var outside = []string{"net/http", "database/sql", "os", "github.com/gofiber/fiber/v3", "crypto/rand", "math/rand"}

func TestRoomsImportOnlyRoomsBelow(t *testing.T) {
	for _, line := range golist(t, `{{.ImportPath}} {{join .Imports " "}}`, "./...") {
		paths := strings.Fields(line)
		room, ok := strings.CutPrefix(paths[0], "levelstaff/")
		if !ok {
			continue
		}
		require.Contains(t, below, room, "a new room: say here what is below it")
		for _, path := range paths[1:] {
			if used, ours := strings.CutPrefix(path, "levelstaff/"); ours {
				assert.Contains(t, below[room], used, "%s imports %s", room, used)
			}
			if strings.HasPrefix(room, "core/") {
				assert.NotContains(t, outside, path, "%s imports %s", room, path)
			}
		}
	}
}

func golist(t *testing.T, format, pattern string) []string {
	t.Helper()
	out, err := exec.Command("go", "list", "-f", format, pattern).Output()
	require.NoError(t, err)
	return strings.Split(strings.TrimSpace(string(out)), "\n")
}
