package drill_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/drill"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

// drawnOf is the picture of a lab as lines, and its nodes in their order.
func drawnOf(l *lab.Lab, open bool) (nodes, lines []string) {
	title := map[lab.Key]string{}
	things, links := drill.Of(l).Picture(func(lab.ID) bool { return open })
	for _, n := range things {
		title[n.Of] = n.Title
		say := n.Kind + " " + n.Title
		if n.Holds > 0 {
			say += fmt.Sprintf(" of %d", n.Holds)
		}
		nodes = append(nodes, say)
	}
	for _, k := range links {
		say := title[k.Of] + " " + k.How + " " + title[k.To]
		if k.Or {
			say += " or another"
		}
		if k.Soft {
			say += ", wanted"
		}
		lines = append(lines, say)
	}
	return nodes, lines
}

func TestThePictureOfWhatNeedsWhat(t *testing.T) {
	l := labtest.From(t, named+`? nas "silo": 4 bays, 2x 4TB
pool "hold" on silo: mirror of bay 1-2
on anvil: vm "pictures": 1GB, 80GB on hold, toy
"choir library" needs "pictures" or "thrush"
"choir library" wants "gate"
stack "music": library, choir library
`)
	nodes, lines := drawnOf(l, true)
	assert.Equal(t, "service choir library", nodes[0], "what the household lives with comes first")
	assert.Equal(t, "guest pictures", nodes[len(nodes)-1], "and a toy last")
	assert.ElementsMatch(t, []string{"choir library runs in library",
		"library runs on anvil", "way in runs on anvil",
		"names 1 runs on thrush",
		"names 2 runs on thrush", "pictures runs on anvil", "pictures has its disk on silo/hold", "silo/hold is in silo",
		"choir library is reached through way in", "choir library needs pictures or another", "choir library needs thrush or another",
		"choir library wants gate, wanted"}, lines, "the disk and the name are passed over, the name servers left out")

	nodes, lines = drawnOf(l, false)
	assert.Contains(t, nodes, "stack music of 2")
	assert.NotContains(t, nodes, "service choir library")
	assert.Contains(t, lines, "music runs on anvil")
	assert.Contains(t, lines, "music is reached through way in")
	assert.NotContains(t, lines, "music runs in music", "a stack does not need itself")
}
