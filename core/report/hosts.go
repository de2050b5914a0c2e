package report

import (
	"fmt"
	"strconv"
	"strings"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/service"
)

// Hosts are the devices that guests run on, with what they have given them.
type Hosts struct {
	Hosts    []HostRow    `json:"hosts" required:"true" nullable:"false"`
	Loose    []GuestRow   `json:"loose" required:"true" nullable:"false" description:"Guests that run on no host"`
	Clusters []ClusterRow `json:"clusters" required:"true" nullable:"false"`
	ClawBack []ClawRow    `json:"claw_back" required:"true" nullable:"false" description:"Guests that are given more than twice what they use"`
	Mean     *MeanGuest   `json:"mean,omitempty" description:"Of the running guests that are listed one by one; absent where no size is known"`
	Largest  *LargestHost `json:"largest,omitempty" description:"The running host with most memory, and what becomes of its guests without it"`
}

// HostRow is a host. What is unknown is left out.
type HostRow struct {
	Name      string     `json:"name" required:"true"`
	ID        lab.ID     `json:"id" required:"true"`
	State     lab.State  `json:"state" required:"true"`
	Engine    lab.Engine `json:"runs,omitempty" description:"What is said, or what its guests tell"`
	System    string     `json:"system,omitempty" description:"What that is called, with its version"`
	Supported lab.When   `json:"supported_until,omitempty"`
	Cluster   string     `json:"cluster,omitempty"`

	Fitted  *int64 `json:"fitted_bytes,omitempty"`
	AtLeast bool   `json:"fitted_at_least,omitempty" description:"Some of its memory has no size"`
	Kept    *int64 `json:"kept_bytes,omitempty" description:"That it keeps for itself"`
	Given   *int64 `json:"given_bytes,omitempty" description:"To the running guests straight on it"`
	Used    *int64 `json:"used_bytes,omitempty" description:"By those, as far as it is said"`
	Takes   *int64 `json:"takes_bytes,omitempty" description:"What those are given, or use where nobody said what they are given"`
	Taken   *int64 `json:"taken_bytes,omitempty" description:"What is kept, and what those take"`
	Left    *int64 `json:"left_bytes,omitempty" description:"Fitted, less what is taken; below nothing where more is"`
	Cores   *int64 `json:"cores,omitempty"`
	Threads *int64 `json:"threads,omitempty"`
	VCPUs   *int64 `json:"vcpus,omitempty" description:"Of the running guests straight on it"`
	Guests  int    `json:"guests" required:"true" description:"Straight on it, running or not"`
	Running int    `json:"running" required:"true"`
	Unsaid  int    `json:"unsaid" required:"true" description:"Running ones of which no memory is known"`
	More    *int   `json:"more_like_these,omitempty" description:"How many more of the mean size fit"`

	Tower []GuestRow `json:"tower" required:"true" nullable:"false" description:"Its guests, from the foot up"`
}

// GuestRow is a VM or a container with what runs in it.
type GuestRow struct {
	Name     string         `json:"name" required:"true"`
	ID       lab.ID         `json:"id" required:"true"`
	Kind     lab.DeviceKind `json:"kind" required:"true"`
	State    lab.State      `json:"state" required:"true"`
	Runs     bool           `json:"running" required:"true" description:"It does, and so does what it is in"`
	Many     int            `json:"many" required:"true" description:"More than one for guests that nobody lists"`
	Given    *int64         `json:"given_bytes,omitempty"`
	Uses     *int64         `json:"uses_bytes,omitempty"`
	Takes    *int64         `json:"takes_bytes,omitempty"`
	VCPUs    *int           `json:"vcpus,omitempty"`
	Matters  lab.Worth      `json:"matters,omitempty" description:"What is said of it, or of the most important in it"`
	Pinned   bool           `json:"pinned" required:"true"`
	Handed   string         `json:"handed_through,omitempty" description:"What of its host it has"`
	ByItself bool           `json:"by_itself" required:"true" description:"Its cluster starts it elsewhere"`
	Ends     string         `json:"supported_until,omitempty"`
	Services []string       `json:"services" required:"true" nullable:"false"`
	Inside   []GuestRow     `json:"inside" required:"true" nullable:"false"`
}

// ClusterRow is what the hosts of a cluster come to.
type ClusterRow struct {
	Name   string   `json:"name" required:"true"`
	ID     lab.ID   `json:"id" required:"true"`
	Hosts  []string `json:"hosts" required:"true" nullable:"false"`
	Fitted *int64   `json:"fitted_bytes,omitempty"`
	Kept   int64    `json:"kept_bytes" required:"true"`
	Takes  *int64   `json:"takes_bytes,omitempty"`
	Left   *int64   `json:"left_bytes,omitempty"`
	Used   *int64   `json:"used_bytes,omitempty"`
	Cores  *int64   `json:"cores,omitempty"`
	VCPUs  *int64   `json:"vcpus,omitempty"`
	Guests int      `json:"guests" required:"true"`
}

// ClawRow is a guest that could give memory back.
type ClawRow struct {
	Guest string `json:"guest" required:"true"`
	ID    lab.ID `json:"id" required:"true"`
	Host  string `json:"host" required:"true"`
	Given int64  `json:"given_bytes" required:"true"`
	Uses  int64  `json:"uses_bytes" required:"true"`
	Back  int64  `json:"back_bytes" required:"true"`
}

// MeanGuest is what guests take on average.
type MeanGuest struct {
	Memory int64 `json:"memory_bytes" required:"true"`
	VCPUs  int   `json:"vcpus,omitempty"`
}

// LargestHost is what becomes of its guests.
type LargestHost struct {
	Name   string `json:"name" required:"true"`
	ID     lab.ID `json:"id" required:"true"`
	Starts int    `json:"starts" required:"true" description:"So many of its running guests start elsewhere"`
	Of     int    `json:"of" required:"true"`
	Exact  bool   `json:"exact" required:"true"`
}

// amountIn is a sum of which something is known, or of which there is nothing to know.
func amountIn(a gear.Amount) *int64 {
	if a.Known == 0 && a.Unknown > 0 {
		return nil
	}
	return &a.Known
}

func hostsOf(a Ask) (Hosts, error) {
	s := service.Of(a.Lab)
	out := Hosts{[]HostRow{}, []GuestRow{}, []ClusterRow{}, []ClawRow{}, nil, nil}
	more := map[*service.Host]service.Room{}
	if memory, vcpus, sized := s.Mean(); sized {
		out.Mean = &MeanGuest{memory, vcpus}
		for _, r := range s.RoomFor(memory, 0, nil, service.Steps) {
			more[r.Host] = r
		}
	}
	for _, h := range s.Hosts() {
		row := hostRow(s, h)
		if r, asked := more[h]; asked && !r.Unknown {
			row.More = &r.HowMany
		}
		out.Hosts = append(out.Hosts, row)
	}
	for _, g := range s.Loose() {
		out.Loose = append(out.Loose, guestRow(s, g))
	}
	for _, c := range s.Clusters() {
		row := ClusterRow{Name: c.Name, ID: c.ID, Hosts: []string{}, Fitted: knownBytes(c.Fitted.Known), Kept: c.Kept, Takes: amountIn(c.Takes),
			Used: amountIn(c.Used), Cores: knownBytes(c.Cores.Known), VCPUs: amountIn(c.VCPUs), Guests: c.Sum.Guests}
		if row.Fitted != nil && row.Takes != nil {
			left := c.Fitted.Known - c.Taken().Known
			row.Left = &left
		}
		for _, id := range c.Cluster.Hosts {
			d, _ := lab.Find[lab.Device](a.Lab, id)
			row.Hosts = append(row.Hosts, d.Title())
		}
		out.Clusters = append(out.Clusters, row)
	}
	for _, c := range s.ClawBack() {
		out.ClawBack = append(out.ClawBack, ClawRow{c.Guest.Title(), c.Guest.Device.ID, c.Guest.Host.Title(), *c.Guest.Guesting.Given,
			*c.Guest.Guesting.Uses, c.Back})
	}
	if h := s.Largest(); h != nil {
		p := s.Without(h, false, service.Steps)
		n, of := p.Starts()
		out.Largest = &LargestHost{h.Title(), h.ID, n, of, p.Exact}
	}
	return out, nil
}

func hostRow(s *service.Services, h *service.Host) HostRow {
	row := HostRow{Name: h.Title(), ID: h.ID, State: h.State, Engine: h.Engine, System: strings.TrimSpace(h.System + " " + h.Version),
		Supported: h.Supported, Fitted: knownBytes(h.Fitted.Known), AtLeast: h.Fitted.Known > 0 && h.Fitted.Unknown > 0, Kept: h.Keeps,
		Given: amountIn(h.Given), Used: amountIn(h.Used), Takes: amountIn(h.Takes), Taken: amountIn(h.Taken()), Cores: knownBytes(h.Cores.Known),
		Threads: knownBytes(h.Threads.Known),
		VCPUs:   amountIn(h.VCPUs), Unsaid: h.Takes.Unknown, Tower: []GuestRow{}}
	if h.Cluster != nil {
		row.Cluster = h.Cluster.Name
	}
	if left, ok := h.Left(); ok {
		row.Left = &left
	}
	for _, g := range h.Guests {
		row.Guests += g.Many()
		if g.Runs() {
			row.Running += g.Many()
		}
		row.Tower = append(row.Tower, guestRow(s, g))
	}
	return row
}

func guestRow(s *service.Services, g *service.Guest) GuestRow {
	row := GuestRow{Name: g.Title(), ID: g.Device.ID, Kind: g.Kind, State: g.State, Runs: g.Runs(), Many: g.Many(), Given: g.Guesting.Given,
		Uses: g.Guesting.Uses, Takes: g.Takes(), VCPUs: g.Guesting.VCPUs, Matters: g.Matters(), Pinned: g.Pinned, Handed: s.HandedWords(g),
		ByItself: g.Elsewhere == lab.ByItself, Ends: string(g.Supported), Services: []string{}, Inside: []GuestRow{}}
	for _, v := range g.Services {
		row.Services = append(row.Services, v.Title())
	}
	for _, in := range g.Inside {
		row.Inside = append(row.Inside, guestRow(s, in))
	}
	return row
}

func hostsText(h Hosts) lines {
	t := lines{head: []string{"Host", "Fitted", "Kept", "Given", "Used", "Left", "Cores", "vCPUs", "Guests"},
		none: "Nothing is said to run guests."}
	count := func(n *int64) string {
		if n == nil {
			return "?"
		}
		return strconv.FormatInt(*n, 10)
	}
	for _, r := range h.Hosts {
		t.rows = append(t.rows, []string{r.Name, memoryText(r.Fitted), memoryText(r.Kept), memoryText(r.Given), memoryText(r.Used),
			memoryText(r.Left),
			count(r.Cores), count(r.VCPUs), strconv.Itoa(r.Guests)})
	}
	if h.Largest != nil {
		t.foot = fmt.Sprintf("Without %s %d of %d start elsewhere.", h.Largest.Name, h.Largest.Starts, h.Largest.Of)
	}
	return t
}

func memoryText(n *int64) string {
	if n == nil {
		return "?"
	}
	return service.Memory(*n)
}
