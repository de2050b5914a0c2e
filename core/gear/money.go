package gear

import (
	"cmp"
	"slices"
	"time"

	"levelstaff/core/lab"
)

// Spent is what was paid in one year, by how things came into the house.
type Spent struct {
	Year   int    `json:"year,omitempty" description:"Absent for an unknown year"`
	New    int64  `json:"new_minor" required:"true"`
	Used   int64  `json:"used_minor" required:"true"`
	Other  int64  `json:"other_minor" required:"true" description:"Bought, unknown whether new or used"`
	All    string `json:"all" required:"true" description:"The three together, in words"`
	Things int    `json:"things" required:"true"`
}

// Ending is something that ends on a day.
type Ending struct {
	Record lab.Key  `json:"record" required:"true"`
	Device lab.ID   `json:"device_id,omitempty" description:"The device it is about"`
	Title  string   `json:"title" required:"true"`
	What   string   `json:"what" required:"true" description:"return, warranty, battery, certificate, or the licence's name"`
	On     lab.When `json:"on" required:"true"`
	Last   lab.Day  `json:"last" required:"true" description:"The last day that it may mean"`
	Days   int      `json:"days" required:"true" description:"From today to that day, below zero when it is over"`
}

// MoneyReport is what the gear cost, what it goes on costing, and what ends.
type MoneyReport struct {
	Currency    string   `json:"currency,omitempty"`
	Spent       []Spent  `json:"spent" required:"true" nullable:"false" description:"By year, the unknown one last"`
	PaidMinor   int64    `json:"paid_minor" required:"true" description:"At least this was paid"`
	Unpriced    int      `json:"unpriced" required:"true" description:"Devices of unknown price"`
	Free        int      `json:"free" required:"true" description:"Devices and parts that were free"`
	YearlyMinor int64    `json:"yearly_minor" required:"true" description:"At least this is paid every year"`
	YearlyOpen  int      `json:"yearly_unknown" required:"true" description:"Licences of unknown price"`
	Paid        string   `json:"paid" required:"true" description:"What was paid, in words"`
	Yearly      string   `json:"yearly" required:"true" description:"What is paid every year, in words"`
	Endings     []Ending `json:"endings" required:"true" nullable:"false" description:"What expires, the soonest first; up to 90 days past"`
}

// Money reports on a lab as of a day.
func Money(l *lab.Lab, today lab.Day) MoneyReport {
	now, _ := time.Parse(time.DateOnly, string(today))
	r := reporter{MoneyReport{Currency: l.Settings().Currency, Spent: []Spent{}, Endings: []Ending{}}, map[int]*Spent{}, now}
	for d := range lab.Things(l) {
		r.thing(d, d.ID, d.Money)
		if d.PriceMinor == nil && d.Got != lab.ForFree && len(matters[d.Kind]) > 0 && !slices.Contains(d.Never, "price_minor") {
			r.Unpriced++
		}
	}
	for n := range lab.Each[lab.Name](l) {
		r.ends(n, "", "certificate", n.Certificate)
	}
	for v := range lab.Each[lab.Service](l) {
		r.ends(v, v.In, "certificate", v.Certificate)
	}
	for p := range lab.Each[lab.Part](l) {
		r.thing(p, p.Device, p.Money)
		if on, ok := p.PutIn.Last(); ok && p.Kind == lab.Battery {
			r.ends(p, p.Device, "battery", lab.When(on.AddDate(int(p.Wear().Years), 0, 0).Format(time.DateOnly)))
		}
	}
	money := func(minor int64) string { return lab.MoneyText(minor, r.Currency) }
	for _, s := range r.years {
		s.All = money(s.New + s.Used + s.Other)
		r.Spent = append(r.Spent, *s)
	}
	r.Paid, r.Yearly = money(r.PaidMinor), money(r.YearlyMinor)
	last := func(s Spent) int { return cmp.Or(s.Year, 9999) }
	slices.SortFunc(r.Spent, func(a, b Spent) int { return last(a) - last(b) })
	slices.SortStableFunc(r.Endings, func(a, b Ending) int { return cmp.Compare(a.Last, b.Last) })
	return r.MoneyReport
}

type reporter struct {
	MoneyReport
	years map[int]*Spent
	today time.Time
}

func (r *reporter) thing(rec lab.Record, device lab.ID, m lab.Money) {
	if m.Got == lab.ForFree && (m.PriceMinor == nil || *m.PriceMinor == 0) {
		r.Free++
	} else if m.PriceMinor != nil {
		year, _ := m.BoughtOn.Year()
		if m.BoughtOn == "" {
			year = 0
		}
		s := r.years[year]
		if s == nil {
			s = &Spent{Year: year}
			r.years[year] = s
		}
		s.Things++
		r.PaidMinor += *m.PriceMinor
		switch m.Got {
		case lab.BoughtNew:
			s.New += *m.PriceMinor
		case lab.BoughtUsed:
			s.Used += *m.PriceMinor
		default:
			s.Other += *m.PriceMinor
		}
	}
	r.ends(rec, device, "return", m.ReturnUntil)
	r.ends(rec, device, "warranty", m.WarrantyUntil)
	for _, y := range m.Yearly {
		r.ends(rec, device, y.What, y.EndsOn)
		if y.Minor == nil {
			r.YearlyOpen++
		} else {
			r.YearlyMinor += *y.Minor
		}
	}
}

const overFor = -90

func (r *reporter) ends(rec lab.Record, device lab.ID, what string, on lab.When) {
	last, ok := on.Last()
	if on == "" || !ok {
		return
	}
	days := int(last.Sub(r.today).Hours() / 24)
	if days < overFor && what != "battery" {
		return
	}
	r.Endings = append(r.Endings, Ending{rec.Key(), device, rec.Title(), what, on, lab.DayOf(last), days})
}
