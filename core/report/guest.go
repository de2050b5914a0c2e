package report

import (
	"fmt"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/core/service"
)

// GuestCard is where a guest lives, and what follows from that.
type GuestCard struct {
	Guest   string   `json:"guest,omitempty"`
	Lives   string   `json:"lives,omitempty" description:"What it runs in, from the inside out: choir, anvil"`
	HostID  lab.ID   `json:"host_id,omitempty"`
	Given   string   `json:"given,omitempty" description:"Its vCPUs, memory and disks, in words"`
	Uses    string   `json:"uses,omitempty"`
	Starts  string   `json:"starts,omitempty" description:"Its turn when the host boots"`
	Matters string   `json:"matters,omitempty"`
	Copy    string   `json:"newest_copy,omitempty" description:"How old the newest copy of its disks is, by the oldest of those"`
	Watts   *float64 `json:"watts,omitempty" description:"Its share of what the host draws, by the memory it takes"`
	Move    string   `json:"elsewhere,omitempty" description:"Whether it can go elsewhere when its host is gone"`
	Holds   []string `json:"services" required:"true" nullable:"false" description:"What a person uses of it"`
}

func guestOf(a Ask) (GuestCard, error) {
	out := GuestCard{Holds: []string{}}
	if a.With["guest"] == "" {
		return out, nil
	}
	s := service.Of(a.Lab)
	g, err := guestAsked(a, s)
	if err != nil {
		return out, err
	}
	out.Guest, out.Matters, out.Copy = g.Title(), string(g.Matters()), s.NewestCopy(g, a.Day)
	var said []string
	if g.VCPUs != nil {
		said = append(said, fmt.Sprintf("%d vCPUs", *g.VCPUs))
	}
	if g.Guesting.Given != nil {
		said = append(said, service.Memory(*g.Guesting.Given))
	}
	for _, d := range g.Disks {
		if d.Bytes != nil && d.On != nil {
			said = append(said, bytesText(d.Bytes)+" on "+a.Lab.HolderWords(d.On))
		}
	}
	out.Given = strings.Join(said, ", ")
	if g.Guesting.Uses != nil {
		out.Uses = strings.TrimSpace(service.Memory(*g.Guesting.Uses) + " " + string(g.UsesOn))
	}
	out.Starts = startsWords(a.Lab, g)
	for _, v := range g.Services {
		out.Holds = append(out.Holds, v.Title())
	}
	if g.Host == nil {
		return out, nil
	}
	var lives []string
	for up := g.Up; up != nil; up = up.Up {
		lives = append(lives, up.Title())
	}
	out.Lives, out.HostID = strings.Join(append(lives, g.Host.Title()), ", "), g.Host.ID
	if g.Up != nil || !g.Runs() {
		return out, nil
	}
	out.Watts = wattsOf(a.Lab, g)
	if out.Move = s.Stuck(g); out.Move == "" {
		out.Move = "goes elsewhere by hand"
		if g.Elsewhere == lab.ByItself && g.Host.Cluster != nil {
			out.Move = "restarts elsewhere by itself"
		}
	}
	return out, nil
}

func guestAsked(a Ask, s *service.Services) (*service.Guest, error) {
	d, err := deviceAsked(a, "guest")
	if err != nil {
		return nil, err
	}
	g, ok := s.Guest(d.ID)
	if !ok {
		return nil, &Wrong{"guest", fmt.Sprintf("%s is no VM or container.", d.Title())}
	}
	return g, nil
}

// startsWords is a guest's turn when its host boots: third, 60 s after the one before.
func startsWords(l *lab.Lab, g *service.Guest) string {
	var said []string
	if g.Starts != nil {
		said = append(said, fmt.Sprintf("as number %d", *g.Starts))
	}
	for _, id := range g.After {
		d, _ := lab.Find[lab.Device](l, id)
		said = append(said, "after "+d.Title())
	}
	if g.WaitS != nil {
		said = append(said, fmt.Sprintf("%.0f s after the one before", *g.WaitS))
	}
	return strings.Join(said, ", ")
}

// wattsOf is a guest's share of what its host draws, nil while that or what one of the
// guests takes is not known.
func wattsOf(l *lab.Lab, g *service.Guest) *float64 {
	grid := power.Of(l)
	n, ok := grid.Number(g.Host.Key())
	if !ok || g.Takes() == nil || g.Host.Takes.Unknown > 0 || g.Host.Takes.Known == 0 {
		return nil
	}
	draws := grid.Flow().Load(n).W[power.Typical]
	if draws == 0 {
		return nil
	}
	w := draws * float64(*g.Takes()) / float64(g.Host.Takes.Known)
	return &w
}

func guestText(g GuestCard) lines {
	t := lines{head: []string{"Guest", "Lives in", "Given", "Newest copy", "Elsewhere"}, none: "Name a guest, such as guest choir."}
	if g.Guest != "" {
		t.rows = [][]string{{g.Guest, g.Lives, g.Given, g.Copy, g.Move}}
	}
	return t
}
