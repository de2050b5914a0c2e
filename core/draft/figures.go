package draft

import (
	"levelstaff/core/cabling"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/rack"
)

// Figures are what two labs are compared by.
type Figures struct {
	Things    int     `json:"things" required:"true" description:"Devices in all"`
	HeightU   int     `json:"height_u" required:"true"`
	FreeU     int     `json:"free_u" required:"true"`
	LargestU  int     `json:"largest_u" required:"true" description:"Units in the largest free piece"`
	Unplaced  int     `json:"unplaced" required:"true" description:"Devices that are not placed yet"`
	WeightKG  float64 `json:"weight_kg" required:"true" description:"What the racks carry, as far as it is weighed"`
	Unweighed int     `json:"unweighed" required:"true" description:"Things in them whose weight is unknown: they carry at least the sum"`
	PortsFree int     `json:"ports_free" required:"true" description:"Network ports left in switches, routers and firewalls"`
	Unlisted  int     `json:"unlisted" required:"true" description:"Those among them whose ports nobody wrote down: at least so many are left"`
	Act       int     `json:"act" required:"true" description:"Open findings that ask to act"`
	Watch     int     `json:"watch" required:"true"`
	Note      int     `json:"note" required:"true"`
}

// FiguresOf works out the figures of a lab, or of one rack of it where that is
// not "".
func FiguresOf(l *lab.Lab, in lab.ID, today lab.Day) Figures {
	var f Figures
	for r := range lab.Each[lab.Rack](l) {
		if in != "" && r.ID != in {
			continue
		}
		s := rack.SpaceOf(l, r)
		f.Things += s.Weight.Things
		f.HeightU += s.HeightU
		f.FreeU += s.FreeU
		f.LargestU = max(f.LargestU, s.LargestU)
		f.WeightKG += s.Weight.KnownKG
		f.Unweighed += len(s.Weight.Unweighed)
	}
	if in == "" {
		f.Things = 0
	}
	for d := range lab.Each[lab.Device](l) {
		if in == "" {
			f.Things++
		}
		if d.At == nil {
			f.Unplaced++
		}
	}
	w := cabling.Of(l)
	ids := w.Devices()
	if in != "" {
		ids = w.DevicesIn(in)
	}
	ports := w.LinkPortsOf(ids)
	f.PortsFree, f.Unlisted = ports.Free(), ports.Unlisted
	for _, found := range finding.All(l, today) {
		if !found.Open() || in != "" && !concerns(l, found, in) {
			continue
		}
		switch found.Level {
		case finding.Act:
			f.Act++
		case finding.Watch:
			f.Watch++
		default:
			f.Note++
		}
	}
	return f
}

// concerns reports whether a finding is about a rack or something in it.
func concerns(l *lab.Lab, f finding.Finding, in lab.ID) bool {
	for _, key := range f.Records {
		d, ok := lab.Find[lab.Device](l, key.ID)
		r, at := l.RackOf(d)
		if key.ID == in || ok && at && r.ID == in {
			return true
		}
	}
	return false
}
