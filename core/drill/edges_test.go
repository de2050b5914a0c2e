package drill_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/drill"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

// What needs what from record to record: the outlets, leads and links between are passed
// over.
func TestEdgesFromRecordToRecord(t *testing.T) {
	l := labtest.From(t, house)
	w := drill.Of(l)
	said := map[string][]string{}
	for _, e := range w.Edges() {
		var any []string
		for _, k := range e.Any {
			any = append(any, w.Title(k))
		}
		line := e.How + " " + strings.Join(any, " or ")
		if e.Soft {
			line += ", and goes on without"
		}
		of := w.Kind(e.Of) + " " + w.Title(e.Of)
		said[of] = append(said[of], line)
	}
	for _, list := range said {
		slices.Sort(list)
	}
	assert.Equal(t, []string{"needs data", "runs in choir", "wants mail, and goes on without"}, said["service library"])
	assert.Equal(t, []string{"needs names 1 or names 2", "runs in names 1"}, said["service weather"])
	assert.Equal(t, []string{"gets at its disk by the share disks", "gets to its gateway over gate", "has the disk choir disk",
		"runs on anvil"}, said["guest choir"])
	assert.Equal(t, []string{"is fed by keep or a", "mounts disks, and goes on without"}, said["device anvil"])
	assert.Equal(t, []string{"is a share of choir disk", "is found by the names of names 1 or names 2"}, said["share disks"])
	assert.Equal(t, []string{"is in silo"}, said["pool silo/hold"])
	assert.Equal(t, []string{"is on silo/hold"}, said["dataset scores"])
	for _, e := range w.Edges() {
		assert.NotContains(t, e.Any, e.Of)
		assert.NotEqual(t, lab.KindCable, e.Of.Kind)
	}
}
