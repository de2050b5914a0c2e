package report

import (
	"fmt"
	"strconv"

	"levelstaff/core/lab"
	"levelstaff/core/service"
)

// Without is where the running guests of a host go once it is gone.
type Without struct {
	Host   string    `json:"host,omitempty"`
	HostID lab.ID    `json:"host_id,omitempty"`
	Moves  []MoveRow `json:"moves" required:"true" nullable:"false" description:"By importance; then those that make room"`
	Dark   []DarkRow `json:"dark" required:"true" nullable:"false" description:"What stays dark"`
	Starts int       `json:"starts" required:"true" description:"So many of its running guests start elsewhere"`
	Of     int       `json:"of" required:"true"`
	Exact  bool      `json:"exact" required:"true" description:"There is no better way"`
	Bound  string    `json:"bound,omitempty" description:"Where that is not sure: how many could start at most"`
}

// MoveRow is a guest that goes to another host.
type MoveRow struct {
	Guest   string    `json:"guest" required:"true"`
	GuestID lab.ID    `json:"guest_id" required:"true"`
	From    string    `json:"from" required:"true"`
	To      string    `json:"to" required:"true"`
	ToID    lab.ID    `json:"to_id" required:"true"`
	By      string    `json:"by" required:"true" enum:"itself,hand"`
	Takes   *int64    `json:"takes_bytes,omitempty"`
	Matters lab.Worth `json:"matters,omitempty"`
	Room    bool      `json:"makes_room" required:"true" description:"It is not of the host that is gone, and makes room"`
}

// DarkRow is a guest that stays dark.
type DarkRow struct {
	Guest   string    `json:"guest" required:"true"`
	GuestID lab.ID    `json:"guest_id" required:"true"`
	Why     string    `json:"why" required:"true"`
	Matters lab.Worth `json:"matters,omitempty"`
}

// hostAsked is the host that a parameter names.
func hostAsked(a Ask, s *service.Services, param string) (*service.Host, error) {
	d, err := deviceAsked(a, param)
	if err != nil {
		return nil, err
	}
	if h, ok := s.Host(d.ID); ok {
		return h, nil
	}
	return nil, &Wrong{param, fmt.Sprintf("%s is not a host: nothing runs on it.", d.Title())}
}

func withoutOf(a Ask) (Without, error) {
	out := Without{Moves: []MoveRow{}, Dark: []DarkRow{}}
	if a.With["host"] == "" {
		return out, nil
	}
	s := service.Of(a.Lab)
	h, err := hostAsked(a, s, "host")
	if err != nil {
		return out, err
	}
	planned := false
	if said := a.With["planned"]; said != "" {
		if planned, err = strconv.ParseBool(said); err != nil {
			return out, &Wrong{"planned", fmt.Sprintf("%q is neither true nor false.", said)}
		}
	}
	p := s.Without(h, planned, service.Steps)
	out.Host, out.HostID, out.Exact, out.Bound = h.Title(), h.ID, p.Exact, p.Bound
	out.Starts, out.Of = p.Starts()
	for _, m := range p.Moves {
		by := map[lab.Elsewhere]string{lab.ByItself: "itself", lab.ByHand: "hand"}[m.By]
		out.Moves = append(out.Moves, MoveRow{m.Guest.Title(), m.Guest.Device.ID, m.Guest.Host.Title(), m.To.Title(), m.To.ID, by,
			m.Guest.Takes(),
			m.Guest.Matters(), m.Guest.Host != h})
	}
	for _, d := range p.Dark {
		out.Dark = append(out.Dark, DarkRow{d.Guest.Title(), d.Guest.Device.ID, d.Why, d.Guest.Matters()})
	}
	return out, nil
}

func withoutText(w Without) lines {
	t := lines{head: []string{"Guest", "Goes to", "By", "Why not"}, none: "Name a host, such as host anvil."}
	if w.Host != "" {
		t.none = "Nothing runs on " + w.Host + "."
		t.foot = fmt.Sprintf("Without %s %d of %d start elsewhere.", w.Host, w.Starts, w.Of)
		if w.Bound != "" {
			t.foot += " It is " + w.Bound + "."
		}
	}
	for _, m := range w.Moves {
		t.rows = append(t.rows, []string{m.Guest, m.To, m.By, ""})
	}
	for _, d := range w.Dark {
		t.rows = append(t.rows, []string{d.Guest, "stays dark", "", d.Why})
	}
	return t
}

// RoomFor is where a guest would fit.
type RoomFor struct {
	Hosts []RoomRow `json:"hosts" required:"true" nullable:"false"`
}

// RoomRow is a host, and whether a guest would fit on it.
type RoomRow struct {
	Name    string `json:"name" required:"true"`
	ID      lab.ID `json:"id" required:"true"`
	Fits    bool   `json:"fits" required:"true"`
	HowMany *int   `json:"how_many" required:"true" description:"So many of that size; null while that is not known"`
	Why     string `json:"why" required:"true" description:"Why not, or why it is not certain; empty where it is"`
}

func roomForOf(a Ask) (RoomFor, error) {
	out := RoomFor{[]RoomRow{}}
	s := service.Of(a.Lab)
	number := func(param string, most int64) (n int64, err error) {
		if said := a.With[param]; said != "" {
			if n, err = strconv.ParseInt(said, 10, 64); err != nil || n < 1 || n > most {
				return 0, &Wrong{param, fmt.Sprintf("%q is not a number from 1 to %d.", said, most)}
			}
		}
		return n, nil
	}
	memory, err := number("memory_bytes", lab.MostMemory)
	if err != nil {
		return out, err
	}
	vcpus, err := number("vcpus", 1024)
	if err != nil {
		return out, err
	}
	if memory == 0 && vcpus == 0 {
		m, v, ok := s.Mean()
		if !ok {
			return out, nil
		}
		memory, vcpus = m, int64(v)
	}
	var without *service.Host
	if a.With["without"] != "" {
		if without, err = hostAsked(a, s, "without"); err != nil {
			return out, err
		}
	}
	for _, r := range s.RoomFor(memory, int(vcpus), without, service.Steps) {
		row := RoomRow{r.Host.Title(), r.Host.ID, r.HowMany > 0, &r.HowMany, r.Why}
		if r.Unknown {
			row.HowMany = nil
		}
		out.Hosts = append(out.Hosts, row)
	}
	return out, nil
}

func roomForText(r RoomFor) lines {
	t := lines{head: []string{"Host", "Fit", "Why"}, none: "Say how large, such as memory_bytes 4294967296: there are no guests to go by."}
	for _, h := range r.Hosts {
		n := "?"
		if h.HowMany != nil {
			n = strconv.Itoa(*h.HowMany)
		}
		t.rows = append(t.rows, []string{h.Name, n, h.Why})
	}
	return t
}

// FitsOn is what each host has for a guest, and what it lacks.
type FitsOn struct {
	Guest string     `json:"guest,omitempty"`
	Hosts []FitsHere `json:"hosts" required:"true" nullable:"false"`
}

// FitsHere is a host with the checks of a move there.
type FitsHere struct {
	Name   string              `json:"name" required:"true"`
	ID     lab.ID              `json:"id" required:"true"`
	Fits   bool                `json:"fits" required:"true" description:"No check speaks against it"`
	Checks []service.MoveCheck `json:"checks" required:"true" nullable:"false"`
}

func fitsOf(a Ask) (FitsOn, error) {
	out := FitsOn{Hosts: []FitsHere{}}
	if a.With["guest"] == "" {
		return out, nil
	}
	s := service.Of(a.Lab)
	g, err := guestAsked(a, s)
	if err != nil {
		return out, err
	}
	out.Guest = g.Title()
	for _, h := range s.Hosts() {
		row := FitsHere{h.Title(), h.ID, true, append([]service.MoveCheck{}, s.Checks(g, h)...)}
		for _, c := range row.Checks {
			row.Fits = row.Fits && c.Held
		}
		out.Hosts = append(out.Hosts, row)
	}
	return out, nil
}

func fitsText(f FitsOn) lines {
	t := lines{head: []string{"Host", "Fits", "Why not"}, none: "Name a guest, such as guest choir."}
	for _, h := range f.Hosts {
		why := ""
		for _, c := range h.Checks {
			if !c.Held || c.Unsure {
				why = c.Say
				break
			}
		}
		t.rows = append(t.rows, []string{h.Name, map[bool]string{true: "yes", false: "no"}[h.Fits], why})
	}
	return t
}
