// Package demo holds the labs to try things on: Quarry House, a lived-in home
// lab with three racks, and a large made-up one for measuring.
package demo

import (
	"embed"
	"io/fs"
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
