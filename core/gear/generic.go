package gear

import (
	_ "embed" // the sheets
	"fmt"
	"strings"
	"sync"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

//go:embed generic.rundown
var genericText string

// Generic are the spec sheets that come with the program, of no particular
// make. Their ids are made from their names, so they stay the same.
var Generic = sync.OnceValues(func() ([]lab.SpecSheet, error) {
	n := 0
	p := rundown.Load(lab.New(), rundown.Parse(genericText), rundown.Options{All: true, NewID: func() lab.ID {
		n++
		return lab.ID(fmt.Sprintf("generic-%04d", n))
	}})
	if len(p.Mistakes) > 0 {
		return nil, fmt.Errorf("the generic spec sheets: %w", p.Mistakes[0])
	}
	var list []lab.SpecSheet
	for s := range lab.Each[lab.SpecSheet](p.Lab) {
		s.ID = genericID(s.Name)
		s.FiguresBy = "what is usual for its kind"
		list = append(list, s)
	}
	return list, nil
})

func genericID(name string) lab.ID {
	var id strings.Builder
	id.WriteString("generic-")
	for _, r := range strings.ToLower(name) {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			id.WriteRune(r)
		case r == '+':
			id.WriteString("p")
		case r == '.':
			id.WriteString("-")
		}
	}
	return lab.ID(id.String()[:min(id.Len(), 64)])
}
