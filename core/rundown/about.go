package rundown

import (
	"levelstaff/core/lab"
)

// About names a record where something speaks of it: what it is called, where
// it is, and the page that shows it.
type About struct {
	lab.Key
	Title string `json:"title" required:"true"`
	Where string `json:"where,omitempty"`
	To    string `json:"to" required:"true" description:"The page that shows it"`
}

// AboutOf names a record of a lab.
func AboutOf(l *lab.Lab, r lab.Record) About {
	a := About{Key: r.Key(), Title: titleIn(l, r), To: pageOf(r)}
	if _, built := r.(lab.Settings); !built && r.Key().Kind.Built() {
		a.Where = placeWords(l, r)
	}
	return a
}

// placeWords is where a record is, "" where that is nothing to say.
func placeWords(l *lab.Lab, r lab.Record) string {
	switch r := r.(type) {
	case lab.Device:
		return WhereWords(l, r)
	case lab.Part:
		return PartWhere(l, r)
	case lab.Pool:
		d, _ := lab.Find[lab.Device](l, r.Device)
		return d.Title()
	case lab.Dataset:
		return l.HolderWords(r.On)
	case lab.Cable:
		if r.Label == "" {
			return "" // its ends are what it is called
		}
		return l.CableWords(lab.Cable{A: r.A, B: r.B})
	}
	for _, ref := range r.Refs() {
		if up := l.Get(ref.To); up != nil && ref.To.Kind == lab.KindPlace {
			return up.Title()
		}
	}
	return ""
}

// pageOf is the page that shows a record: that of what it is in, for a part or
// photo of a device.
func pageOf(r lab.Record) string {
	key := r.Key()
	switch r := r.(type) {
	case lab.Device:
		if r.IsGuest() {
			return "/services?device=" + string(r.ID)
		}
	case lab.Part:
		if r.Device != "" {
			key = lab.Key{Kind: lab.KindDevice, ID: r.Device}
		}
	case lab.Photo:
		key = lab.Key{Kind: lab.KindDevice, ID: r.Device}
	case lab.Step:
		key = lab.Key{Kind: lab.KindDraft, ID: r.Draft}
	}
	k, _ := lab.KindOf(key.Kind)
	if k.Alone {
		return k.Shown
	}
	return k.Shown + "?" + string(key.Kind) + "=" + string(key.ID)
}
