// Package demo holds the labs to try things on: Quarry House, a lived-in home
// lab with three racks, and a large made-up one for measuring.
package demo

import (
	"embed"
	"fmt"
	"io/fs"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

//go:embed *.rundown
var files embed.FS

// Texts are the demo lab's rundowns, in the order they are loaded.
func Texts() ([]string, error) {
	names, err := fs.Glob(files, "*.rundown")
	if err != nil {
		return nil, err
	}
	var texts []string
	for _, name := range names {
		data, err := files.ReadFile(name)
		if err != nil {
			return nil, err
		}
		texts = append(texts, string(data))
	}
	return texts, nil
}

// House is Quarry House as its rundowns tell of it, with ids of its own: the
// same each time, and without the past and the plans that History brings.
func House() (*lab.Lab, error) {
	texts, err := Texts()
	if err != nil {
		return nil, err
	}
	var docs []rundown.Document
	for _, text := range texts {
		docs = append(docs, rundown.Parse(text))
	}
	n := 0
	id := func() lab.ID { n++; return lab.ID(fmt.Sprintf("q%06d", n)) }
	p := rundown.Load(lab.New(), rundown.Join(docs...), rundown.Options{All: true, NewID: id})
	if len(p.Mistakes) > 0 {
		return nil, fmt.Errorf("the demo lab: %v", p.Mistakes[0])
	}
	return p.Lab, nil
}
