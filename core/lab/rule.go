package lab

import "slices"

// Rule is who may reach whom, as it is written down.
type Rule struct {
	ID     ID        `json:"id" required:"true"`
	From   *Endpoint `json:"from" required:"true"`
	To     *Endpoint `json:"to" required:"true"`
	Says   Reach     `json:"says" required:"true"`
	What   string    `json:"what,omitempty" maxLength:"200" description:"Of some: what, in a few words"`
	DownMb *int      `json:"down_mb,omitempty" description:"What it may receive at most, in Mbit/s"`
	UpMb   *int      `json:"up_mb,omitempty" description:"What it may send at most, in Mbit/s"`
	Only   ID        `json:"only_line_id,omitempty" description:"Of what goes outside: the one line it may take"`
	Notes  string    `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Endpoint is what a rule is about: a record, or everything outside.
type Endpoint struct {
	Kind EndpointKind `json:"kind" required:"true"`
	ID   ID           `json:"id,omitempty" description:"The record's; absent for internet"`
}

// EndpointKind is the kind of record an endpoint is, or Internet.
type EndpointKind RecordKind

// Internet is everything outside.
const Internet EndpointKind = "internet"

// EndpointKinds are what a rule may be about.
func EndpointKinds() []EndpointKind {
	return []EndpointKind{EndpointKind(KindVLAN), EndpointKind(KindDevice), EndpointKind(KindSubnet), EndpointKind(KindRemoteAccess),
		EndpointKind(KindTunnel), Internet}
}

// Enum lists them for the published schema.
func (EndpointKind) Enum() []any { return anys(EndpointKinds()) }

// EndpointOf is a record as one side of a rule.
func EndpointOf(k Key) Endpoint { return Endpoint{EndpointKind(k.Kind), k.ID} }

// Key is the record it is; there is none behind that of everything outside.
func (e Endpoint) Key() Key { return Key{RecordKind(e.Kind), e.ID} }

// EndpointWords is what an endpoint is called.
func (l *Lab) EndpointWords(e Endpoint) string {
	switch r := l.Get(e.Key()).(type) {
	case nil:
		return string(e.Kind)
	case VLAN:
		return titleOr(r.Name, r.Title())
	default:
		return r.Title()
	}
}

// Reach is what of one side another one may reach.
type Reach string

// Nothing, some things, everything; and what nobody has said.
const (
	ReachAll     Reach = "all"
	ReachSome    Reach = "some"
	ReachNone    Reach = "none"
	ReachNotSaid Reach = "not_said"
)

// Reaches lists what a rule may say.
func Reaches() []Reach { return []Reach{ReachAll, ReachSome, ReachNone} }

// Enum lists them, and what nobody said, for the published schema.
func (Reach) Enum() []any { return anys(append(Reaches(), ReachNotSaid)) }

// Words is the reach as one reads it.
func (r Reach) Words() string {
	if r == ReachNotSaid {
		return "not said"
	}
	return string(r)
}

// Key implements Record.
func (r Rule) Key() Key { return Key{KindRule, r.ID} }

// Title implements Record. RuleWords names both sides.
func (r Rule) Title() string { return "a rule" }

// RuleWords is a rule by its two sides: "guests to internet".
func (l *Lab) RuleWords(r Rule) string {
	if r.From == nil || r.To == nil {
		return r.Title()
	}
	return l.EndpointWords(*r.From) + " to " + l.EndpointWords(*r.To)
}

// Refs implements Record.
func (r Rule) Refs() []Ref {
	var refs []Ref
	for _, side := range []struct {
		field string
		is    *Endpoint
	}{{"from.id", r.From}, {"to.id", r.To}} {
		if side.is != nil && side.is.Kind != Internet {
			refs = append(refs, Ref{side.field, side.is.Key(), GoAlong})
		}
	}
	if r.Only != "" {
		refs = append(refs, Ref{"only_line_id", Key{KindLine, r.Only}, Clear})
	}
	return refs
}

// uniques: one thing is said of a pair.
func (r Rule) uniques() []Unique {
	if r.From == nil || r.To == nil {
		return nil
	}
	return []Unique{{"pair", string(r.From.Kind) + " " + string(r.From.ID) + "\n" + string(r.To.Kind) + " " + string(r.To.ID)}}
}

func (r Rule) check(f *faults) {
	f.id(r.ID)
	for _, side := range []struct {
		field string
		is    *Endpoint
	}{{"from", r.From}, {"to", r.To}} {
		switch {
		case side.is == nil:
			f.add(side.field, "say whom it is about: a VLAN, a device, a subnet, a remote access, or internet")
		case !slices.Contains(EndpointKinds(), side.is.Kind):
			f.add(side.field, "%s is not what a rule may be about; it is one of %s", quote(string(side.is.Kind)), joinWords(EndpointKinds()))
		case (side.is.Kind == Internet) != (side.is.ID == ""):
			f.add(side.field, "name what it is about by its id, and internet without one")
		}
	}
	if r.From != nil && r.To != nil && *r.From == *r.To {
		f.add("to", "both sides are the same; what is in one network reaches itself without a rule")
	}
	if r.Says == "" {
		f.add("says", "say all, some or none")
	} else {
		oneOf(f, "says", r.Says, Reaches())
	}
	f.line("what", r.What, 200)
	f.counted("down_mb", r.DownMb, 2_000_000)
	f.counted("up_mb", r.UpMb, 2_000_000)
	f.text("notes", r.Notes, maxNotes)
	r.Remarked.check(f)
}
