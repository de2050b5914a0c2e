package lab

import (
	"slices"
	"strconv"
	"strings"
)

// Line is a way to the outside: what a provider, or a neighbour, hands over.
type Line struct {
	ID       ID          `json:"id" required:"true"`
	Name     string      `json:"name" required:"true" maxLength:"80" lab:"name"`
	Medium   LineMedium  `json:"medium,omitempty" description:"Absent while unknown"`
	DownMb   *int        `json:"down_mb,omitempty" minimum:"1" maximum:"2000000" description:"In Mbit/s"`
	UpMb     *int        `json:"up_mb,omitempty" minimum:"1" maximum:"2000000" description:"In Mbit/s"`
	Address  LineAddress `json:"line_address,omitempty" description:"Whose address it has; absent while unknown"`
	HandOver *int        `json:"hand_over_vlan,omitempty" minimum:"1" maximum:"4094" description:"The provider's VLAN it is handed over in"`
	Device   ID          `json:"device_id,omitempty" description:"What it goes into"`
	Port     string      `json:"port,omitempty" maxLength:"60" description:"The port's key there"`
	Order    LineOrder   `json:"line_order,omitempty" description:"When it is used; absent while unknown"`
	With     ID          `json:"with_line_id,omitempty" description:"The line that it is used together with"`
	Out      LineState   `json:"line_state,omitempty" description:"Absent while it is in use"`
	Site     string      `json:"site,omitempty" maxLength:"80" description:"Where it is, where it is none of this house"`
	Minor    *int64      `json:"price_month_minor,omitempty" description:"A month, in whole minor units of the lab's currency"`
	Closed   Closed      `json:"opens,omitempty" description:"none where it is said that nothing is open on it"`
	Why      string      `json:"why,omitempty" maxLength:"500" description:"Why it is there, in a sentence"`
	Notes    string      `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// LineMedium is what a line comes over.
type LineMedium string

// The media there are; Borrowed is somebody else's wireless network.
const (
	FibreLine    LineMedium = "fibre"
	CableLine    LineMedium = "cable"
	DSLLine      LineMedium = "dsl"
	MobileLine   LineMedium = "mobile"
	RadioLine    LineMedium = "radio"
	SatelliteUp  LineMedium = "satellite"
	EthernetLine LineMedium = "ethernet"
	Borrowed     LineMedium = "wireless"
)

// Media lists them.
func Media() []LineMedium {
	return []LineMedium{FibreLine, CableLine, DSLLine, MobileLine, RadioLine, SatelliteUp, EthernetLine, Borrowed}
}

// Enum lists the media for the published schema.
func (LineMedium) Enum() []any { return anys(Media()) }

// LineAddress is what sort of address a line has.
type LineAddress string

// Always the same public one, a public one that may change, or one that the
// provider shares among its customers (RFC 6598), which nobody outside can reach.
const (
	FixedLine  LineAddress = "fixed"
	PublicLine LineAddress = "public"
	SharedLine LineAddress = "shared"
)

// Enum lists them for the published schema.
func (LineAddress) Enum() []any { return anys([]LineAddress{FixedLine, PublicLine, SharedLine}) }

// LineOrder is when a line is used.
type LineOrder string

// In order, or when those before it fail.
const (
	FirstLine  LineOrder = "first"
	SecondLine LineOrder = "second"
	ThirdLine  LineOrder = "third"
	IfItFails  LineOrder = "if_it_fails"
)

// Enum lists them for the published schema.
func (LineOrder) Enum() []any { return anys([]LineOrder{FirstLine, SecondLine, ThirdLine, IfItFails}) }

// LineState is how things stand with a line.
type LineState string

// LineOut is a line that carries nothing now.
const LineOut LineState = "out"

// Enum lists it for the published schema.
func (LineState) Enum() []any { return anys([]LineState{LineOut}) }

// Closed is said of a line on which nothing is open.
type Closed string

// NothingOpen says so.
const NothingOpen Closed = "none"

// Enum lists it for the published schema.
func (Closed) Enum() []any { return anys([]Closed{NothingOpen}) }

// Key implements Record.
func (w Line) Key() Key { return Key{KindLine, w.ID} }

// Title implements Record.
func (w Line) Title() string { return titleOr(w.Name, "a line") }

// Refs implements Record.
func (w Line) Refs() []Ref {
	var refs []Ref
	if w.Device != "" {
		refs = append(refs, Ref{"device_id", Key{KindDevice, w.Device}, Clear})
	}
	if w.With != "" {
		refs = append(refs, Ref{"with_line_id", Key{KindLine, w.With}, Clear})
	}
	return refs
}

func (w Line) uniques() []Unique { return byName(w.Name) }

// withDefaults: a port is one of a device.
func (w Line) withDefaults() Record {
	if w.Device == "" {
		w.Port = ""
	}
	return w
}

func (w Line) check(f *faults) {
	f.id(w.ID)
	f.need("name", w.Name)
	f.name("name", w.Name)
	optional(f, "medium", w.Medium, Media())
	f.counted("down_mb", w.DownMb, 2_000_000)
	f.counted("up_mb", w.UpMb, 2_000_000)
	optional(f, "line_address", w.Address, []LineAddress{FixedLine, PublicLine, SharedLine})
	if w.HandOver != nil {
		if err := vlanInRange(*w.HandOver); err != nil {
			f.add("hand_over_vlan", "%s", err)
		}
	}
	f.line("port", w.Port, 60)
	optional(f, "line_order", w.Order, []LineOrder{FirstLine, SecondLine, ThirdLine, IfItFails})
	if w.With != "" && w.Order != "" {
		f.add("with_line_id", "a line that is used together with another one has its order; keep one of them")
	}
	optional(f, "line_state", w.Out, []LineState{LineOut})
	f.name("site", w.Site)
	if w.Minor != nil && (*w.Minor < 0 || *w.Minor > maxPrice) {
		f.add("price_month_minor", "that cannot be a price: it is 0 or more, and left out while unknown")
	}
	optional(f, "opens", w.Closed, []Closed{NothingOpen})
	f.line("why", w.Why, maxPurpose)
	f.text("notes", w.Notes, maxNotes)
	w.Remarked.check(f)
}

// checkIn finds a line that is used together with itself, and one on which
// something is open though it is said that nothing is.
func (w Line) checkIn(l *Lab, f *faults) {
	switch back, _ := l.nesting(w, "with_line_id"); {
	case w.With == w.ID:
		f.add("with_line_id", "%s cannot be used together with itself; name another line", quote(w.Name))
	case back != nil:
		f.add("with_line_id", "%s cannot be used together with %s, which waits for %s", quote(w.Name), quote(back.Title()), quote(w.Name))
	}
	if w.Closed != NothingOpen {
		return
	}
	for by := range l.UsersOf(w.Key()) {
		if o, ok := by.(Opening); ok {
			f.add("opens", "%s is open on %s; remove it, or do not say that nothing is", o.Title(), quote(w.Name))
		}
	}
}

// Opening is what of a line can be reached from outside: a port of it leads to a
// device.
type Opening struct {
	ID     ID       `json:"id" required:"true"`
	Line   ID       `json:"line_id" required:"true"`
	Proto  Protocol `json:"protocol" required:"true"`
	From   int      `json:"port_from" required:"true" minimum:"1" maximum:"65535"`
	To     int      `json:"port_to,omitempty" minimum:"1" maximum:"65535" description:"Of a range, its last one"`
	Device ID       `json:"device_id,omitempty" description:"Where it leads; absent while unknown"`
	Notes  string   `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Protocol is what a port is of.
type Protocol string

// The two that have ports.
const (
	TCP Protocol = "tcp"
	UDP Protocol = "udp"
)

// Enum lists both for the published schema.
func (Protocol) Enum() []any { return anys([]Protocol{TCP, UDP}) }

// Key implements Record.
func (o Opening) Key() Key { return Key{KindOpening, o.ID} }

// Title implements Record.
func (o Opening) Title() string { return strings.TrimSpace(string(o.Proto) + " " + o.Ports()) }

// Ports are the ports of it: "443", "8000-8010".
func (o Opening) Ports() string {
	switch {
	case o.From == 0:
		return ""
	case o.To > 0:
		return strconv.Itoa(o.From) + "-" + strconv.Itoa(o.To)
	}
	return strconv.Itoa(o.From)
}

// Refs implements Record.
func (o Opening) Refs() []Ref {
	refs := []Ref{{"line_id", Key{KindLine, o.Line}, GoAlong}}
	if o.Device != "" {
		refs = append(refs, Ref{"device_id", Key{KindDevice, o.Device}, GoAlong})
	}
	return refs
}

// uniques: a port of a line leads to one device.
func (o Opening) uniques() []Unique {
	return []Unique{{"port_from", string(o.Line) + "\n" + o.Title()}}
}

func (o Opening) check(f *faults) {
	f.id(o.ID)
	if o.Line == "" {
		f.add("line_id", "say on which line it is open")
	}
	oneOf(f, "protocol", o.Proto, []Protocol{TCP, UDP})
	const last = 65535
	for _, p := range []struct {
		field string
		n     int
	}{{"port_from", o.From}, {"port_to", o.To}} {
		if p.n < 0 || p.n > last || p.n == 0 && p.field == "port_from" {
			f.add(p.field, "a port's number is 1 to %d, not %d", last, p.n)
		}
	}
	if o.To > 0 && o.To < o.From {
		f.add("port_to", "the range %d-%d runs backwards; write %d-%d", o.From, o.To, o.To, o.From)
	}
	f.text("notes", o.Notes, maxNotes)
	o.Remarked.check(f)
}

func (o Opening) checkIn(l *Lab, f *faults) {
	if w, _ := Find[Line](l, o.Line); w.Closed == NothingOpen {
		f.add("line_id", "%s says that nothing is open on it; take that back first", quote(w.Title()))
	}
}

// OpeningWords is an opening with its line: "tcp 443 on fibre line".
func (l *Lab) OpeningWords(o Opening) string {
	w, _ := Find[Line](l, o.Line)
	return o.Title() + " on " + w.Title()
}

// OpeningsOf are what is open on a line, by port.
func (l *Lab) OpeningsOf(w Line) []Opening {
	var list []Opening
	for by := range l.UsersOf(w.Key()) {
		if o, ok := by.(Opening); ok {
			list = append(list, o)
		}
	}
	slices.SortStableFunc(list, func(a, b Opening) int { return a.From - b.From })
	return list
}
