package lab

import "strconv"

// VLAN is one network among those that share the cables.
type VLAN struct {
	ID      ID     `json:"id" required:"true"`
	Number  int    `json:"number" required:"true" minimum:"1" maximum:"4094"`
	Name    string `json:"name,omitempty" maxLength:"80" lab:"name"`
	Domain  string `json:"switching_domain,omitempty" maxLength:"80" description:"Where its number means it; absent for the usual one"`
	Colour  Colour `json:"colour,omitempty" maxLength:"40"`
	Purpose string `json:"purpose,omitempty" maxLength:"500" description:"What it is for, in a sentence"`
	Named
	Notes string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (v VLAN) Key() Key { return Key{KindVLAN, v.ID} }

// Title implements Record.
func (v VLAN) Title() string {
	if v.Name == "" {
		return "VLAN " + strconv.Itoa(v.Number)
	}
	return strconv.Itoa(v.Number) + " " + v.Name
}

// Refs implements Record.
func (v VLAN) Refs() []Ref { return v.refs() }

// uniques: a number means one VLAN in its domain, which has no line breaks.
func (v VLAN) uniques() []Unique { return []Unique{VLANKey(v.Number, v.Domain)} }

// VLANKey is what no two VLANs have in common: the number in its domain, ""
// for the one that goes without saying.
func VLANKey(number int, domain string) Unique {
	return Unique{"number", strconv.Itoa(number) + "\n" + domain}
}

func (v VLAN) check(f *faults) {
	f.id(v.ID)
	if err := vlanInRange(v.Number); err != nil {
		f.add("number", "%s", err)
	}
	f.name("name", v.Name)
	f.name("switching_domain", v.Domain)
	f.colour("colour", v.Colour)
	f.line("purpose", v.Purpose, maxPurpose)
	v.Named.check(f)
	f.text("notes", v.Notes, maxNotes)
	v.Remarked.check(f)
}

// WirelessNetwork is a network that is sent through the air, by the name it goes by in the air.
type WirelessNetwork struct {
	ID      ID     `json:"id" required:"true"`
	Name    string `json:"name" required:"true" maxLength:"80" lab:"name"`
	VLAN    *int   `json:"vlan,omitempty" minimum:"1" maximum:"4094" description:"The VLAN its guests are in; absent while unknown"`
	Points  []ID   `json:"access_point_ids,omitempty" nullable:"false" maxItems:"60" description:"The devices that send it"`
	Purpose string `json:"purpose,omitempty" maxLength:"500" description:"Whom it is for, in a sentence"`
	DownMb  *int   `json:"down_mb,omitempty" description:"What all its guests together may receive, in Mbit/s"`
	UpMb    *int   `json:"up_mb,omitempty" description:"What all its guests together may send, in Mbit/s"`
	Notes   string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (w WirelessNetwork) Key() Key { return Key{KindWireless, w.ID} }

// Title implements Record.
func (w WirelessNetwork) Title() string { return titleOr(w.Name, "a wireless network") }

// Refs implements Record.
func (w WirelessNetwork) Refs() []Ref {
	var refs []Ref
	for _, id := range w.Points {
		refs = append(refs, Ref{"access_point_ids", Key{KindDevice, id}, Clear})
	}
	return refs
}

func (w WirelessNetwork) uniques() []Unique { return byName(w.Name) }

func (w WirelessNetwork) check(f *faults) {
	f.id(w.ID)
	f.need("name", w.Name)
	f.name("name", w.Name)
	if w.VLAN != nil {
		if err := vlanInRange(*w.VLAN); err != nil {
			f.add("vlan", "%s", err)
		}
	}
	f.counted("down_mb", w.DownMb, 2_000_000)
	f.counted("up_mb", w.UpMb, 2_000_000)
	f.line("purpose", w.Purpose, maxPurpose)
	f.text("notes", w.Notes, maxNotes)
	w.Remarked.check(f)
}

// checkIn finds a wireless network on what has no radio.
func (w WirelessNetwork) checkIn(l *Lab, f *faults) {
	for _, id := range w.Points {
		if d, _ := Find[Device](l, id); !d.sends() {
			f.add("access_point_ids", "%s is %s, which sends no wireless network; name an access point, or a router with one in it",
				quote(d.Title()), withArticle(d.KindWords()))
		}
	}
}

// sends reports whether a device may send a wireless network.
func (d Device) sends() bool {
	return d.is(func(t Traits) bool { return t.Sends }) || d.Kind == Other
}
