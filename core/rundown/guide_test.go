package rundown_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Each example of the guide does something in a lab that was empty before it,
// and does nothing a second time but add spares.
func TestTheGuideIsTrue(t *testing.T) {
	l := lab.New()
	id := counter()
	for _, c := range rundown.Guide() {
		require.NotEmpty(t, c.Says, c.Title)
		for _, line := range c.Lines {
			rack, _ := l.Named(lab.KindRack, "Pantry")
			p := rundown.Load(l, rundown.ParseLine(line), rundown.Options{Rack: rack, NewID: id})
			require.Empty(t, said(p), line)
			assert.NotEmpty(t, p.Changes, line)
			l = p.Lab
		}
	}
	text := rundown.Print(l)
	assert.Equal(t, text, rundown.Print(fresh(t, text)))
}
