package lab

import (
	"cmp"
	"slices"
)

// Photo is a picture of a device. The picture itself is kept beside the
// records, under its File.
type Photo struct {
	ID       ID     `json:"id" required:"true"`
	Device   ID     `json:"device_id" required:"true"`
	File     string `json:"file" required:"true" maxLength:"64" description:"The picture's SHA-256, in hexadecimal"`
	Caption  string `json:"caption,omitempty" maxLength:"200"`
	Order    int    `json:"order,omitempty" minimum:"0"`
	WidthPX  int    `json:"width_px" required:"true"`
	HeightPX int    `json:"height_px" required:"true"`
}

// Key implements Record.
func (p Photo) Key() Key { return Key{KindPhoto, p.ID} }

// Title implements Record.
func (p Photo) Title() string { return titleOr(p.Caption, "a photo") }

// Refs implements Record.
func (p Photo) Refs() []Ref { return []Ref{{"device_id", Key{KindDevice, p.Device}, GoAlong}} }

func (p Photo) check(f *faults) {
	f.id(p.ID)
	f.line("caption", p.Caption, 200)
	if len(p.File) != 64 {
		f.add("file", "a photo's file is named by its SHA-256; upload the picture and it gets one")
	} else {
		f.id(ID(p.File))
	}
	if p.WidthPX < 1 || p.HeightPX < 1 || p.WidthPX > 100_000 || p.HeightPX > 100_000 {
		f.add("width_px", "a photo has 1 to 100000 pixels each way")
	}
	if p.Order < 0 || p.Order > 1_000_000 {
		f.add("order", "an order is between 0 and 1000000, not %d", p.Order)
	}
}

// PhotosOf lists the photos of a device in their order.
func (l *Lab) PhotosOf(device ID) []Photo {
	var photos []Photo
	for by := range l.UsersOf(Key{KindDevice, device}) {
		if p, ok := by.(Photo); ok {
			photos = append(photos, p)
		}
	}
	slices.SortFunc(photos, func(a, b Photo) int { return cmp.Or(cmp.Compare(a.Order, b.Order), cmp.Compare(a.ID, b.ID)) })
	return photos
}

// Filter is a saved way to look at the gear.
type Filter struct {
	ID      ID       `json:"id" required:"true"`
	Name    string   `json:"name" required:"true" maxLength:"80" lab:"name"`
	Text    string   `json:"text,omitempty" maxLength:"500" description:"What is filtered, such as ram>=64GB kind:server"`
	Columns []string `json:"columns,omitempty" nullable:"false" maxItems:"60" description:"The fields shown, in their order"`
	Sort    string   `json:"sort,omitempty" maxLength:"40" description:"The field sorted by, with - before it the other way round"`
	Group   string   `json:"group,omitempty" maxLength:"40" description:"The field that rows are grouped by"`
}

// Key implements Record.
func (v Filter) Key() Key { return Key{KindFilter, v.ID} }

// Title implements Record.
func (v Filter) Title() string { return titleOr(v.Name, "a filter") }

// Refs implements Record.
func (v Filter) Refs() []Ref { return nil }

func (v Filter) uniques() []Unique { return byName(v.Name) }

func (v Filter) check(f *faults) {
	f.id(v.ID)
	f.need("name", v.Name)
	f.name("name", v.Name)
	f.line("text", v.Text, maxPurpose)
	f.line("sort", v.Sort, 40)
	f.line("group", v.Group, 40)
	if len(v.Columns) > 60 {
		f.add("columns", "has %d columns; at most 60 are allowed", len(v.Columns))
	}
	for _, c := range v.Columns {
		f.line("columns", c, 40)
	}
}
