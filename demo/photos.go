package demo

import (
	"embed"
	"fmt"
	"sync"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/picture"
)

// Drawn by e2e/demo-photos.mjs.
//
//go:embed photos/*.jpg
var photoFiles embed.FS

var shots = []struct{ device, file, caption string }{
	{"anvil", "anvil-lid-off", "With the lid off, before the third fan was changed"},
	{"anvil", "anvil-label", "The label at its back"},
	{"silo", "silo-bays", "Bay 9 is the one that clicks"},
	{"keep", "keep-batteries", "Both batteries are of May 2022"},
	{"all-sky", "all-sky-night", "First clear night with it"},
}

// Pictures are those of the demo lab's photos, in their order.
var Pictures = sync.OnceValues(func() ([]picture.Picture, error) {
	var pictures []picture.Picture
	for _, shot := range shots {
		data, err := photoFiles.ReadFile("photos/" + shot.file + ".jpg")
		if err != nil {
			return nil, err
		}
		p, err := picture.Read(data)
		if err != nil {
			return nil, fmt.Errorf("the demo's photo %s: %w", shot.file, err)
		}
		pictures = append(pictures, p)
	}
	return pictures, nil
})

// photographs keeps the photos of what is in the lab.
func photographs(newID func() lab.ID) func(*lab.Lab) ([]lab.Change, error) {
	return func(l *lab.Lab) ([]lab.Change, error) {
		pictures, err := Pictures()
		if err != nil {
			return nil, err
		}
		var changes []lab.Change
		for i, shot := range shots {
			device, ok := rundown.DeviceNamed(l)(shot.device)
			if !ok {
				return nil, fmt.Errorf("the demo's photos: there is no %s", shot.device)
			}
			p := pictures[i]
			changes = append(changes, lab.Change{After: lab.Photo{ID: newID(), Device: device, File: p.SHA256, Caption: shot.caption, Order: i,
				WidthPX: p.WidthPX, HeightPX: p.HeightPX}})
		}
		return changes, nil
	}
}
