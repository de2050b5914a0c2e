package report

import (
	"fmt"
	"strconv"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/reach"
	"levelstaff/core/rundown"
)

// Subnets is how full each subnet is.
type Subnets struct {
	Subnets []SubnetUse `json:"subnets" required:"true" nullable:"false" description:"By prefix, the larger before those within it"`
}

// SubnetUse is how full one is.
type SubnetUse struct {
	ID       lab.ID `json:"id" required:"true"`
	CIDR     string `json:"cidr" required:"true"`
	VLAN     *int   `json:"vlan" required:"true" description:"Null where it is in none, or unknown"`
	Size     *int64 `json:"size" required:"true" description:"Addresses that devices may have; null past 2^53"`
	Used     int64  `json:"used" required:"true" description:"Fixed and reserved ones that are had, and the gateway"`
	Reserved int64  `json:"reserved" required:"true"`
	Handed   *int64 `json:"handed_out" required:"true" description:"Addresses in ranges; null past 2^53"`
	Free     *int64 `json:"free" required:"true" description:"Usable ones that are neither had nor in a range; null past 2^53"`
	Next     OrNull `json:"next_free" required:"true" description:"Null where there is none"`
	Name     string `json:"name,omitempty" description:"Of its VLAN, or what it is for"`
	InRange  int64  `json:"had_in_range,omitempty" description:"Addresses in ranges that are known to be had"`
}

func subnetsOf(a Ask) (Subnets, error) { return Subnets{SubnetUses(a.Lab)}, nil }

// SubnetUses is how full each subnet is, in the order of the plan.
func SubnetUses(l *lab.Lab) []SubnetUse {
	p := address.Of(l)
	list := []SubnetUse{}
	for i, s := range p.Subnets() {
		c := p.Count(i)
		u := SubnetUse{ID: s.ID, CIDR: s.CIDR.String(), VLAN: s.VLAN, Size: c.Size, Used: c.Used, Reserved: c.Reserved, Handed: c.Handed,
			Free: c.Free, InRange: c.InRange, Name: address.NameOf(l, s)}
		if c.Next.IsValid() {
			u.Next = OrNull(c.Next.String())
		}
		list = append(list, u)
	}
	return list
}

func subnetsText(r Subnets) lines {
	t := lines{head: []string{"SUBNET", "VLAN", "SIZE", "USED", "RESERVED", "HANDED OUT", "FREE", "NEXT FREE"}, none: "no subnets documented"}
	or := func(n *int64) string {
		if n == nil {
			return "very many"
		}
		return strconv.FormatInt(*n, 10)
	}
	for _, s := range r.Subnets {
		vlan := ""
		if s.VLAN != nil {
			vlan = strconv.Itoa(*s.VLAN)
		}
		next := string(s.Next)
		if next == "" {
			next = "none"
		}
		t.rows = append(t.rows, []string{s.CIDR, vlan, or(s.Size), strconv.FormatInt(s.Used, 10), strconv.FormatInt(s.Reserved, 10), or(s.Handed),
			or(s.Free), next})
	}
	return t
}

// Reach is who reaches whom.
type Reach struct {
	Cells []ReachCell `json:"cells" required:"true" nullable:"false" description:"One for every two sides, row by row"`
}

// ReachCell is what one side reaches of another.
type ReachCell struct {
	From string    `json:"from" required:"true" description:"What it is called; internet is everything outside"`
	To   string    `json:"to" required:"true"`
	Said lab.Reach `json:"said" required:"true" description:"What is written down"`
	Can  bool      `json:"can" required:"true" description:"Wiring and legs let it; of none: nothing goes round it"`
	Why  string    `json:"why" required:"true"`
	// Sides by their records.
	FromIs lab.Endpoint `json:"from_is" required:"true"`
	ToIs   lab.Endpoint `json:"to_is" required:"true"`
	Rule   lab.ID       `json:"rule_id,omitempty" description:"Absent where nobody said anything"`
	What   string       `json:"what,omitempty" description:"Of some: what"`
	DownMb *int         `json:"down_mb,omitempty"`
	UpMb   *int         `json:"up_mb,omitempty"`
	Only   string       `json:"only_line,omitempty" description:"The one line it may take"`
}

func reachOf(a Ask) (Reach, error) {
	out := Reach{Cells: []ReachCell{}}
	for _, c := range reach.Of(a.Lab).Table() {
		out.Cells = append(out.Cells, CellOf(a.Lab, c))
	}
	return out, nil
}

// CellOf is a cell as reports and pages have it.
func CellOf(l *lab.Lab, c reach.Cell) ReachCell {
	only, _ := lab.Find[lab.Line](l, c.Rule.Only)
	return ReachCell{From: l.EndpointWords(c.From), To: l.EndpointWords(c.To), Said: c.Said, Can: c.Can, Why: c.Why,
		FromIs: c.From, ToIs: c.To,
		Rule: c.Rule.ID, What: c.Rule.What, DownMb: c.Rule.DownMb, UpMb: c.Rule.UpMb, Only: only.Name}
}

func reachText(r Reach) lines {
	t := lines{head: []string{"FROM", "TO", "SAID", "CAN", "WHY"}, none: "no VLANs and no subnets documented"}
	for _, c := range r.Cells {
		can := map[bool]string{true: "yes", false: "no"}[c.Can]
		if c.Said == lab.ReachNone {
			can = map[bool]string{true: "holds", false: "is got round"}[c.Can]
		}
		t.rows = append(t.rows, []string{c.From, c.To, c.Said.Words(), can, c.Why})
	}
	return t
}

// Lines are the lines outside, and what is left without each of them.
type Lines struct {
	Lines   []OutsideLine `json:"lines" required:"true" nullable:"false" description:"In the order of use, then those elsewhere"`
	Month   string        `json:"price_month,omitempty" description:"What all of them cost a month, as far as it is known"`
	Without []WithoutLine `json:"without" required:"true" nullable:"false" description:"One for each line of this house"`
}

// OutsideLine is one of them.
type OutsideLine struct {
	ID      lab.ID          `json:"id" required:"true"`
	Name    string          `json:"name" required:"true"`
	DownMb  *int            `json:"down_mb" required:"true" description:"Null while unknown"`
	UpMb    *int            `json:"up_mb" required:"true" description:"Null while unknown"`
	Order   *int            `json:"order" required:"true" description:"1 for the first, equal for those used at once; null while not said"`
	Medium  lab.LineMedium  `json:"medium,omitempty"`
	Address lab.LineAddress `json:"line_address,omitempty"`
	Into    string          `json:"into,omitempty" description:"What it goes into"`
	Site    string          `json:"site,omitempty" description:"Where it is, where it is none of this house"`
	Out     bool            `json:"out,omitempty"`
	Price   string          `json:"price_month,omitempty" description:"A month, in the lab's currency"`
	Opens   []string        `json:"opens" required:"true" nullable:"false" description:"What can be reached from outside: tcp 443 to gate"`
	Closed  bool            `json:"closed,omitempty" description:"It is said that nothing is"`
}

// WithoutLine is what is left when one is out.
type WithoutLine struct {
	Line   string `json:"line" required:"true"`
	DownMb *int   `json:"left_down_mb" required:"true" description:"Null while it cannot be told"`
	UpMb   *int   `json:"left_up_mb" required:"true" description:"Null while it cannot be told"`
	Say    string `json:"say" required:"true" description:"In a sentence, with what is capped"`
}

func linesOf(a Ask) (Lines, error) {
	r := reach.Of(a.Lab)
	out := Lines{Lines: []OutsideLine{}, Without: []WithoutLine{}}
	currency, paid, priced := a.Lab.Settings().Currency, int64(0), false
	add := func(w lab.Line) {
		is := OutsideLine{ID: w.ID, Name: w.Title(), DownMb: w.DownMb, UpMb: w.UpMb, Medium: w.Medium, Address: w.Address, Site: w.Site,
			Out: w.Out == lab.LineOut, Opens: []string{}, Closed: w.Closed == lab.NothingOpen,
			Into: rundown.Saying(a.Lab, w).Text("device_id")}
		if w.Minor != nil {
			is.Price = lab.MoneyText(*w.Minor, currency)
			paid, priced = paid+*w.Minor, true
		}
		if n := r.Order(w); n > 0 && w.Site == "" {
			is.Order = &n
		}
		for _, o := range a.Lab.OpeningsOf(w) {
			d, _ := lab.Find[lab.Device](a.Lab, o.Device)
			say := o.Title()
			if d.ID != "" {
				say += " to " + d.Title()
			}
			is.Opens = append(is.Opens, say)
		}
		out.Lines = append(out.Lines, is)
	}
	for _, w := range r.Lines() {
		add(w)
		left := r.Without(w.ID)
		out.Without = append(out.Without, WithoutLine{w.Title(), left.DownMb, left.UpMb, r.WithoutWords(w)})
	}
	for w := range lab.Each[lab.Line](a.Lab) {
		if w.Site != "" {
			add(w)
		}
	}
	if priced {
		out.Month = lab.MoneyText(paid, currency)
	}
	return out, nil
}

func linesText(r Lines) lines {
	t := lines{head: []string{"LINE", "DOWN", "UP", "ORDER", "INTO"}, none: "no lines outside documented"}
	or := func(n *int, unit string) string {
		if n == nil {
			return "?"
		}
		return strconv.Itoa(*n) + unit
	}
	for _, w := range r.Lines {
		order := or(w.Order, "")
		if w.Site != "" {
			order = "at " + w.Site
		}
		t.rows = append(t.rows, []string{w.Name, or(w.DownMb, " Mb/s"), or(w.UpMb, " Mb/s"), order, w.Into})
	}
	for i, w := range r.Without {
		if i > 0 {
			t.foot += "\n"
		}
		t.foot += fmt.Sprint(w.Say)
	}
	return t
}
