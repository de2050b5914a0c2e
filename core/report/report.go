// Package report lists what can be worked out of a lab and asked for by a name:
// by the API, on the command line, and in the API's document, all from one
// table.
package report

import (
	"fmt"
	"io"
	"slices"
	"text/tabwriter"

	"levelstaff/core/lab"
)

// Report is one of them.
type Report struct {
	Name   string // in an address and on the command line
	Says   string // what it tells, for who looks for one
	Params []Param
	Answer any // an empty answer, for what describes it

	of   func(Ask) (any, error)
	text func(any) lines
}

// Param is something that a report can be asked for in particular.
type Param struct {
	Name, Says string
}

// Ask is what a report is asked of.
type Ask struct {
	Lab   *lab.Lab // that is looked at
	Built *lab.Lab // as it stands; the same where no other one is looked at
	Day   lab.Day  // today
	With  map[string]string
}

// Wrong is the error of a parameter that cannot be.
type Wrong struct{ Param, Say string }

// Error says what would be right.
func (w *Wrong) Error() string { return w.Say }

// lines is a table of plain text, or what to say where there is none.
type lines struct {
	head []string
	none string
	rows [][]string
	foot string
}

// all are the reports there are. A new one is a line here.
func all() []Report {
	return []Report{
		report("space", "What is free in every rack, and what it carries", spaceOf, spaceText),
		report("findings", "What the checks noticed", findingsOf, findingsText),
		report("gear", "What all parts of the lab come to", gearOf, gearText),
		report("bin", "What lies in the spares bin and what is on order", binOf, binText),
		report("money", "What the gear cost, what it costs each year, and what expires", moneyOf, moneyText),
		report("leads", "Every cable with its ends in words and the length it should have", leadsOf, leadsText),
		report("runs", "How full each run is", runsOf, runsText),
		report("ports", "Used and free ports of each rack and of the lab", portsOf, portsText),
		report("openings", "Free ports where a device of a speed could be plugged in", openingsOf, openingsText,
			Param{"speed_mb", "In Mbit/s; 10000 if left out"}),
		report("to_buy", "Leads that are wanted, less what the spares bin has", toBuyOf, toBuyText),
		report("ways_in", "Which console, KVM input or management port reaches which device", waysInOf, waysInText),
		report("vlans", "Where each VLAN reaches over the cables, in how many pieces, and which links rest", vlansOf, vlansText),
		report("subnets", "How full each subnet is, and which address is free next", subnetsOf, subnetsText),
		report("reach", "Who may reach whom, and whether wiring and legs let it", reachOf, reachText),
		report("lines", "The lines outside, and what is left without each of them", linesOf, linesText),
		report("ways", "The widest way between two devices: its hops, what holds it down, what stands by", waysOf, waysText,
			Param{"from", "The device it begins at, by name or ID"}, Param{"to", "The device it leads to"},
			Param{"vlan", "Only over links that carry this VLAN; over all if left out"}),
		report("threads", "Links and devices whose loss cuts something off, the worst first", threadsOf, threadsText),
		report("feeds", "How power flows: what each thing gives or draws, its limit, what feeds it", feedsOf, feedsText),
		report("losses", "What goes dark when a breaker, UPS, strip, outlet or lead is lost, and when two feeds are", lossesOf, lossesText),
		report("poe", "What switches give over the network, by class, and what is left of their budgets", poeOf, poeText),
		report("battery", "How long each UPS holds what hangs on it, and what that rests on", batteriesOf, batteriesText,
			Param{"add", "So many W more, or less below zero, to see how long it would hold then"}),
		report("shutdown", "What goes when after the mains have failed, and what is lost", shutdownOf, shutdownText,
			Param{"back", "After so many minutes the mains come back"}),
		report("cost", "What a month of power costs, by device, rack and circuit", costsOf, costsText,
			Param{"off", "The part of the day that things might be off in; 23:00-07:00 if left out"},
			Param{"aim", "What a month is to cost, to see which price or how many hours a day would make it so"}),
		report("heat", "The heat and the noise of every rack and place, and the air that takes it away", heatsOf, heatsText,
			Param{"rise", "By how many kelvin the air may get warmer; 10 if left out"}),
		report("pools", "What each pool has room for, what may fail, and which drives it is made of", poolsOf, poolsText),
		report("layouts", "What bays of a device would come to in each layout", layoutsOf, layoutsText,
			Param{"device", "The device, by name or ID"}, Param{"bays", "Which bays: 1,2,3"}),
		report("copies", "Where the copies of each dataset are, and what is lost with its pool, its device and the house", copiesOf, copiesText),
		report("shares", "Who mounts each share, over which VLAN, and how wide the way is", sharesOf, sharesText),
		report("data_lost", "Which datasets are lost with something, and how old what is left of them is", dataLostOf, dataLostText,
			Param{"with", "The house, or part:ID, pool:ID, device:ID or place:ID; the house if left out"}),
		report("hosts", "What runs guests, and what of its memory and cores it has given them", hostsOf, hostsText),
		report("without", "Where the guests of a host go when it is gone, and which stay dark", withoutOf, withoutText,
			Param{"host", "The host, by name or ID"}, Param{"planned",
				"true where it is taken out on purpose: what is on its drives is moved before"}),
		report("room_for", "Where a guest would fit, and how many like it", roomForOf, roomForText,
			Param{"memory_bytes", "What it takes; the mean of the guests there are if both are left out"}, Param{"vcpus", "How many it has"},
			Param{"without", "A host that is gone, whose guests are on the others"}),
		report("guest", "Where a VM or container lives, what it is given, how old its newest copy is", guestOf, guestText,
			Param{"guest", "The guest, by name or ID"}),
		report("fits", "What each host has for a guest, and what it lacks", fitsOf, fitsText, Param{"guest", "The guest, by name or ID"}),
		report("if_gone", "What stops when something goes, what carries on with less, and who notices", goneOf, goneText,
			Param{"kind", "What kind of thing: device, guest, part, cable, service, pool, dataset, share, circuit, line, tunnel or port"},
			Param{"id", "Its name or ID; of an outlet DEVICE/PORT"}),
		report("needs", "What needs what beyond power, gateways and name servers, as a picture folded by stack", needsOf, needsText,
			Param{"open", "The stacks that are not folded: their IDs with commas between them, or all"}),
		report("request", "How a request gets from a reader's place to what answers, or where it is stopped", requestOf, requestText,
			Param{"from", "Where the reader is: vlan:30, subnet:10.0.0.0/24, device:ID, guest:ID, wireless:NAME, remote:NAME or internet"},
			Param{"to", "What is asked for: a name, a service or a device"}),
		report("reached", "Every service by every place that a reader may be at, and whether one signs in", reachedOf, reachedText),
		report("exposure", "From where each service is reached, and whether one signs in", exposureOf, exposureText),
		report("worst", "What stops when any one thing goes, the most harmful first", worstOf, worstText),
		report("circles", "What waits for itself in a dark lab, and where to cut that", circlesOf, circlesText),
		report("start", "In which order a dark lab comes up, with the waits that are written down", startOf, startText),
		report("slow", "Links that run below what their ends or cables could do, and the cheapest fix", slowOf, slowText),
	}
}

func report[T any](name, says string, of func(Ask) (T, error), text func(T) lines, params ...Param) Report {
	var none T
	return Report{name, says, params, none,
		func(a Ask) (any, error) { return of(a) },
		func(answer any) lines { return text(answer.(T)) }}
}

// All lists the reports by name.
func All() []Report {
	list := all()
	slices.SortFunc(list, func(a, b Report) int {
		if a.Name < b.Name {
			return -1
		}
		return 1
	})
	return list
}

// Named finds a report; ok is false where there is none of that name.
func Named(name string) (r Report, ok bool) {
	list := all()
	i := slices.IndexFunc(list, func(r Report) bool { return r.Name == name })
	if i < 0 {
		return Report{}, false
	}
	return list[i], true
}

// Of works the report out. The error is a *Wrong.
func (r Report) Of(a Ask) (any, error) { return r.of(a) }

// Print writes an answer of the report as plain text, in columns.
func (r Report) Print(out io.Writer, answer any) error {
	t := r.text(answer)
	if len(t.rows) == 0 {
		_, err := fmt.Fprintln(out, t.none)
		return err
	}
	w := tabwriter.NewWriter(out, 0, 0, 2, ' ', 0)
	if len(t.head) > 0 {
		t.rows = append([][]string{t.head}, t.rows...)
	}
	for _, row := range t.rows {
		for i, cell := range row {
			if i > 0 {
				fmt.Fprint(w, "\t")
			}
			fmt.Fprint(w, cell)
		}
		fmt.Fprintln(w)
	}
	if t.foot != "" {
		fmt.Fprintln(w, "\n"+t.foot)
	}
	return w.Flush()
}
