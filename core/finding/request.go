package finding

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"levelstaff/core/lab"
	"levelstaff/core/request"
)

// wayChecks are those about how one gets to services.
var wayChecks = []check{
	{"name-wrong", "a name whose way leads nowhere", nameWrong},
	{"past-proxy", "a name that goes past the proxy of others", pastProxy},
	{"not-reached", "a service that nobody reaches", notReached},
	{"reached-too-far", "a service reached from where it should not be", reachedTooFar},
	{"open-no-sign-in", "a service open to the world without a sign-in", openNoSignIn},
}

// certificateChecks are those about certificates.
var certificateChecks = []dated{
	{"certificate", "a certificate about to end", certificateEnds},
}

// OfWays runs the checks about how one gets to services and what needs what alone.
func OfWays(l *lab.Lab, today lab.Day) []Finding {
	return run(l, slices.Concat(needChecks, wayChecks, on(today, certificateChecks)), today)
}

func nameWrong(l *lab.Lab, tell found) {
	for n := range lab.Each[lab.Name](l) {
		if why, fix := request.Of(l).Wrong(n); why != "" {
			tell(Watch, strings.TrimSpace(fmt.Sprintf("The name %s does not get there: %s %s", n.Name, why, fix)), n)
		}
	}
}

// pastProxy tells of names that lead straight to what another name reaches through a
// proxy, which may be what asks for a sign-in or has the certificate.
func pastProxy(l *lab.Lab, tell found) {
	for v := range lab.Each[lab.Service](l) {
		var through, straight []lab.Name
		var proxy lab.Device // of the first one that has any
		for _, n := range request.Of(l).NamesOf()[v.ID] {
			hops := n.Hops()
			if by := proxyOf(l, hops, v); by.ID != "" {
				if through = append(through, n); proxy.ID == "" {
					proxy = by
				}
			} else if len(hops) == 1 && hops[0].Tunnel == "" && !passesOn(l, hops[0], v) {
				straight = append(straight, n)
			}
		}
		for _, n := range straight {
			if len(through) > 0 {
				tell(Watch, fmt.Sprintf("The name %s leads straight to %s, past %s, which %s goes through.", n.Name, v.Title(), proxy.Title(),
					through[0].Name), n, v)
			}
		}
	}
}

// proxyOf is the last thing on the way to a service that passes it on, and is not where the
// service runs.
func proxyOf(l *lab.Lab, hops []lab.Hop, v lab.Service) lab.Device {
	for _, h := range slices.Backward(hops[:max(len(hops)-1, 0)]) {
		if h.Tunnel == "" && passesOn(l, h, v) {
			return l.HopDevice(h)
		}
	}
	return lab.Device{}
}

// passesOn reports whether what a name leads to is not yet where a service runs.
func passesOn(l *lab.Lab, h lab.Hop, v lab.Service) bool {
	return h.Service != v.ID && h.Device != v.In && l.HopDevice(h).ID != l.HopDevice(lab.Hop{Service: v.ID}).ID
}

// notReached tells of services that nobody gets to, as far as it is known where they are.
func notReached(l *lab.Lab, tell found) {
	q := request.Of(l)
	for _, row := range q.Table() {
		d, ok := lab.Find[lab.Device](l, row.Service.In)
		if row.Service.State != lab.Running || !ok || d.State != lab.Running || row.Service.Exposure == lab.OnHost ||
			q.PlaceOf(lab.EndpointOf(d.Key())).Nowhere() || len(row.Cells) < 2 ||
			slices.ContainsFunc(row.Cells, func(c request.Cell) bool { return c.Arrives }) {
			continue
		}
		at := q.Places()[0]
		tell(Watch, fmt.Sprintf("Nobody reaches %s; from %s: %s", row.Service.Title(), at.Title, row.Cells[0].Why), row.Service)
	}
}

// reachedTooFar compares from where a name or a service is meant to be reached with from
// where it is.
func reachedTooFar(l *lab.Lab, tell found) {
	q := request.Of(l)
	for n := range lab.Each[lab.Name](l) {
		tooFar(q, n, n.Exposed, request.Target{Name: n}, tell)
	}
	for v := range lab.Each[lab.Service](l) {
		if v.State != lab.Running {
			continue
		}
		tooFar(q, v, v.Exposed, request.ServiceTarget(v), tell)
		for _, n := range q.NamesOf()[v.ID] {
			if n.Exposure == "" {
				tooFar(q, v, v.Exposed, request.Target{Name: n}, tell)
			}
		}
	}
}

func tooFar(q *request.Requests, r lab.Record, meant lab.Exposed, to request.Target, tell found) {
	if meant.Exposure == "" || meant.Exposure == lab.OnHost {
		return
	}
	var from []string
	level, shut := Watch, ""
	for _, p := range q.Places() {
		w := q.Way(p, to)
		outside := p.Kind == lab.Internet
		switch may := mayFrom(q, p, meant); {
		case w.Arrives && !may:
			if from = append(from, p.Title); outside {
				level = Act
			}
		case outside && !w.Arrives && to.Name.ID != "":
			shut = w.Why
		}
	}
	if from != nil {
		tell(level, fmt.Sprintf("%s is meant for %s, and is reached from %s too.", r.Title(), meantFor(meant), lab.Listed(from, 4)), r)
	}
	if shut != "" && (meant.Exposure == lab.WholeWorld || meant.Exposure == lab.ByTunnel) {
		tell(Watch, fmt.Sprintf("%s is meant to be reached from outside, and is not: %s", r.Title(), shut), r)
	}
}

// mayFrom reports whether a place is among those that something is meant for. A remote
// access is the house's own.
func mayFrom(q *request.Requests, p request.Place, meant lab.Exposed) bool {
	switch meant.Exposure {
	case lab.WholeLab:
		return p.Kind != lab.Internet
	case lab.SomeVLANs:
		number, in := q.VLANOf(p)
		if !in {
			return p.Kind != lab.Internet && p.Kind != lab.EndpointKind(lab.KindSubnet)
		}
		for n := range meant.Within.Numbers() {
			if n == number {
				return true
			}
		}
		return false
	}
	return true
}

func meantFor(meant lab.Exposed) string {
	if meant.Exposure == lab.SomeVLANs {
		return "VLAN " + strings.ReplaceAll(string(meant.Within), ",", ", ")
	}
	return "the lab alone"
}

func openNoSignIn(l *lab.Lab, tell found) {
	for _, e := range request.Of(l).Exposures() {
		by := ""
		if e.Name.ID != "" {
			by = " by " + e.Name.Name
		}
		switch {
		case !e.Outside || e.OutsideSignIn == lab.SignInAsked:
		case e.OutsideSignIn == lab.SignInNone:
			tell(Act, fmt.Sprintf("%s is reached from anywhere outside%s, and nobody has to sign in.", e.Service.Title(), by), e.Service)
		default:
			tell(Watch, fmt.Sprintf("%s is reached from anywhere outside%s, and it is not written down whether one signs in.", e.Service.Title(),
				by), e.Service)
		}
	}
}

// certificateSoon is how many days before its end a certificate is watched.
const certificateSoon = 30

func certificateEnds(l *lab.Lab, today lab.Day, tell found) {
	now, err := time.Parse(time.DateOnly, string(today))
	if err != nil {
		return
	}
	check := func(r lab.Record, until lab.When) {
		last, ok := until.Last()
		days := int(last.Sub(now).Hours() / 24)
		switch {
		case until == "" || !ok || days > certificateSoon:
		case days < 0:
			tell(Act, fmt.Sprintf("The certificate of %s ended on %s.", r.Title(), until), r)
		default:
			tell(Watch, fmt.Sprintf("The certificate of %s ends on %s, in %s.", r.Title(), until, daysWords(days)), r)
		}
	}
	for n := range lab.Each[lab.Name](l) {
		check(n, n.Certificate)
	}
	for v := range lab.Each[lab.Service](l) {
		check(v, v.Certificate)
	}
}

func daysWords(n int) string {
	if n == 1 {
		return "1 day"
	}
	return strconv.Itoa(n) + " days"
}
