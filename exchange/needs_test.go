package exchange_test

import (
	"bytes"
	"os/exec"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/labtest"
	"levelstaff/exchange"
)

const needing = `server "anvil": 32GB
server "thrush": 32GB
on anvil: vm "choir"
on thrush: vm "names \"1\""
service "songs": in choir
service "mail <out>": in choir
"songs" needs "anvil" or "thrush"
"songs" wants "mail <out>"
`

func TestWhatNeedsWhatAsAFlowchart(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, exchange.WriteNeedsMermaid(&out, labtest.From(t, needing)))
	assert.Equal(t, `flowchart TB
  n1["choir"]
  n2["anvil"]
  n1 -- "runs on" --> n2
  n3["names #quot;1#quot;"]
  n4["thrush"]
  n3 -- "runs on" --> n4
  n5(["songs"])
  n5 -- "runs in" --> n1
  n5 -- "needs (or)" --> n2
  n5 -- "needs (or)" --> n4
  n6(["mail #lt;out#gt;"])
  n5 -. "wants" .-> n6
  n6 -- "runs in" --> n1
`, out.String())
}

// Graphviz takes it: six things, seven arrows, one piece.
func TestWhatNeedsWhatIsAGraph(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, exchange.WriteNeedsDOT(&out, labtest.From(t, needing)))
	assert.Contains(t, out.String(), "dashed")
	cmd := exec.Command("gc", "-n", "-e", "-c")
	cmd.Stdin = &out
	said, err := cmd.CombinedOutput()
	require.NoError(t, err, "Debian's graphviz reads it")
	assert.Regexp(t, `6\s+7\s+1 `, string(said))
}
