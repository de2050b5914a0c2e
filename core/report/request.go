package report

import (
	"fmt"
	"strconv"
	"strings"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/request"
	"levelstaff/core/rundown"
)

// RequestWay is how far a request gets from a reader's place.
type RequestWay struct {
	Arrives bool `json:"arrives" required:"true"`
	// Steps end with the one that is not reached, where one is not.
	Steps   []RequestStep `json:"steps" required:"true" nullable:"false"`
	StopsAt string        `json:"stops_at" required:"true" description:"What is not reached; empty where all is"`
	Why     string        `json:"why" required:"true" description:"Why one gets no further, in a sentence"`
	Fix     string        `json:"fix" required:"true" description:"The least change that lets it through; empty where none is known"`
	Line    string        `json:"line,omitempty" description:"That change as a line, where it is one"`
	SignIn  lab.SignIn    `json:"sign_in,omitempty" description:"Whether one signs in on the way; absent while unknown"`
	By      string        `json:"by,omitempty" description:"The name that was asked for"`
	Service lab.ID        `json:"service_id,omitempty" description:"What answers in the end; absent where that is not known"`
}

// RequestStep is one thing on the way.
type RequestStep struct {
	Title string           `json:"title" required:"true"`
	Kind  request.StepKind `json:"kind" required:"true"`
	By    string           `json:"by" required:"true" description:"How one gets there, or what it does"`
	Port  int              `json:"port,omitempty" description:"That is asked for there; absent while unknown"`
	Of    lab.RecordKind   `json:"record_kind,omitempty"`
	ID    lab.ID           `json:"id,omitempty"`
	To    string           `json:"to,omitempty" description:"The page that shows it"`
	// The two devices between which the cables run, or the hosts of two guests; absent where
	// the step takes none.
	WayFrom lab.ID `json:"way_from_id,omitempty"`
	WayTo   lab.ID `json:"way_to_id,omitempty"`
}

// placeText is a place as request takes it.
func placeText(l *lab.Lab, p request.Place) string {
	switch is := l.Get(p.Key()).(type) {
	case lab.VLAN:
		if is.Domain == "" {
			return "vlan:" + strconv.Itoa(is.Number)
		}
		return "vlan:" + string(is.ID)
	case lab.Subnet:
		return "subnet:" + is.CIDR.String()
	case lab.WirelessNetwork:
		return "wireless:" + is.Name
	case lab.RemoteAccess:
		return "remote:" + is.Name
	case lab.Device:
		return "device:" + string(is.ID)
	}
	return string(lab.Internet)
}

// placeAsked is a place as it is asked for: vlan:30, subnet:10.0.0.0/24, device:ID, guest:ID,
// wireless:NAME, remote:NAME or internet; a device and a VLAN also by name.
func placeAsked(l *lab.Lab, said string) (request.Place, error) {
	q := request.Of(l)
	kind, name, _ := strings.Cut(strings.TrimSpace(said), ":")
	none := func(what string) (request.Place, error) {
		return request.Place{}, &Wrong{"from", fmt.Sprintf("There is no %s %q, by name or ID.", what, name)}
	}
	switch kind {
	case string(lab.Internet):
		return q.PlaceOf(lab.Endpoint{Kind: lab.Internet}), nil
	case "vlan":
		if n, err := strconv.Atoi(name); err == nil {
			for v := range lab.Each[lab.VLAN](l) {
				if v.Number == n {
					return q.PlaceOf(lab.EndpointOf(v.Key())), nil
				}
			}
		}
		if v, ok := byNameOrID[lab.VLAN](l, name); ok {
			return q.PlaceOf(lab.EndpointOf(v.Key())), nil
		}
		return none("VLAN")
	case "subnet":
		for _, s := range address.Of(l).Subnets() {
			if s.CIDR.String() == name || string(s.ID) == name {
				return q.PlaceOf(lab.EndpointOf(s.Key())), nil
			}
		}
		return none("subnet")
	case "wireless":
		if w, ok := byNameOrID[lab.WirelessNetwork](l, name); ok {
			return q.Wireless(w), nil
		}
		return none("wireless network")
	case "remote":
		if a, ok := byNameOrID[lab.RemoteAccess](l, name); ok {
			return q.PlaceOf(lab.EndpointOf(a.Key())), nil
		}
		return none("remote access")
	case "device", "guest":
		d, err := deviceAsked(Ask{Lab: l, With: map[string]string{"from": name}}, "from")
		if err != nil {
			return none("device")
		}
		return q.PlaceOf(lab.EndpointOf(d.Key())), nil
	}
	return request.Place{}, &Wrong{"from",
		fmt.Sprintf("%q is not a reader's place; it is such as vlan:30, subnet:10.0.0.0/24, device:ID, guest:ID, "+
			"wireless:NAME, remote:NAME or internet.", said)}
}

// byNameOrID finds a record of a kind by its ID or its name.
func byNameOrID[R lab.Record](l *lab.Lab, said string) (R, bool) {
	if r, ok := lab.Find[R](l, lab.ID(said)); ok {
		return r, true
	}
	for r := range lab.Each[R](l) {
		if said != "" && lab.FoldName(lab.OwnName(r)) == lab.FoldName(said) {
			return r, true
		}
	}
	var none R
	return none, false
}

func requestOf(a Ask) (RequestWay, error) {
	out := RequestWay{Steps: []RequestStep{}}
	if a.With["from"] == "" && a.With["to"] == "" {
		return out, nil
	}
	from, err := placeAsked(a.Lab, a.With["from"])
	if err != nil {
		return out, err
	}
	to, ok := request.Of(a.Lab).Target(a.With["to"])
	if !ok {
		return out, &Wrong{"to", fmt.Sprintf("There is no name, service or device %q; write it whole, such as library.quarry.home.arpa.",
			a.With["to"])}
	}
	return requestWay(a.Lab, request.Of(a.Lab).Way(from, to)), nil
}

func requestWay(l *lab.Lab, w request.Way) RequestWay {
	out := RequestWay{Arrives: w.Arrives, Steps: []RequestStep{}, StopsAt: w.StopsAt(), Why: w.Why, Fix: w.Fix, SignIn: w.SignIn,
		Service: w.Service.ID, By: w.By.Name}
	if w.Put != nil {
		out.Line = rundown.LineOf(l, w.Put)
	}
	host := func(id lab.ID) lab.ID {
		d, _ := lab.Find[lab.Device](l, id)
		h, _ := l.HostOf(d)
		return h.ID
	}
	for _, s := range w.Steps {
		step := RequestStep{Title: s.Title, Kind: s.Kind, By: s.By, Port: s.Port, Of: s.About.Kind, ID: s.About.ID}
		if r := l.Get(s.About); r != nil {
			step.To = rundown.AboutOf(l, r).To
		}
		if a, b := host(s.From), host(s.To); a != "" && b != "" && a != b {
			step.WayFrom, step.WayTo = a, b
		}
		out.Steps = append(out.Steps, step)
	}
	return out
}

func requestText(r RequestWay) lines {
	t := lines{head: []string{"", "", ""}, none: "Name where the reader is and what is asked for: from=vlan:30 to=library.quarry.home.arpa."}
	for _, s := range r.Steps {
		title := s.Title
		if s.Port > 0 && s.Kind != request.AtService && s.Kind != request.NameServer {
			title += ":" + strconv.Itoa(s.Port)
		}
		t.rows = append(t.rows, []string{strings.ReplaceAll(string(s.Kind), "_", " "), title, s.By})
	}
	switch {
	case r.Arrives:
		t.foot = "It arrives."
	case r.Why != "":
		t.foot = strings.TrimSpace("It stops there: " + r.Why + " " + r.Fix)
	}
	return t
}

// ExposedServices is from where each service that runs is reached.
type ExposedServices struct {
	Services []ExposedService `json:"services" required:"true" nullable:"false"`
}

// ExposedService is one of them.
type ExposedService struct {
	Name string   `json:"name" required:"true"`
	ID   lab.ID   `json:"id" required:"true"`
	From []string `json:"from" required:"true" nullable:"false" description:"The readers' places, as request takes them"`
	// SignIn is absent where that is not known of every way.
	SignIn *bool        `json:"sign_in,omitempty" description:"Whether one signs in, whichever way one comes"`
	Meant  lab.Exposure `json:"exposure,omitempty" description:"From where it is meant to be reached, as written down"`
}

func exposureOf(a Ask) (ExposedServices, error) {
	out := ExposedServices{[]ExposedService{}}
	for _, e := range request.Of(a.Lab).Exposures() {
		row := ExposedService{Name: e.Service.Title(), ID: e.Service.ID, From: []string{}, Meant: e.Service.Exposure}
		for _, p := range e.From {
			row.From = append(row.From, placeText(a.Lab, p))
		}
		if e.SignIn != "" {
			asked := e.SignIn == lab.SignInAsked
			row.SignIn = &asked
		}
		out.Services = append(out.Services, row)
	}
	return out, nil
}

func exposureText(r ExposedServices) lines {
	t := lines{head: []string{"SERVICE", "SIGN-IN", "REACHED FROM"}, none: "no services yet"}
	for _, s := range r.Services {
		sign := "?"
		if s.SignIn != nil {
			sign = map[bool]string{true: "yes", false: "no"}[*s.SignIn]
		}
		from := strings.Join(s.From, ", ")
		if from == "" {
			from = "nowhere"
		}
		t.rows = append(t.rows, []string{s.Name, sign, from})
	}
	return t
}

// ReachedServices is every service by every reader's place.
type ReachedServices struct {
	Places   []ReaderPlace    `json:"places" required:"true" nullable:"false"`
	Services []ReachedService `json:"services" required:"true" nullable:"false"`
	Names    []string         `json:"names" required:"true" nullable:"false" description:"All names that can be asked for"`
}

// ReaderPlace is where a reader may be.
type ReaderPlace struct {
	From  string `json:"from" required:"true" description:"As request takes it"`
	Kind  string `json:"kind" required:"true" enum:"vlan,wireless_network,remote_access,internet"`
	Title string `json:"title" required:"true"`
	In    string `json:"in,omitempty" description:"Of a wireless network its VLAN as a place, from which the same is reached"`
}

// ReachedService is one service.
type ReachedService struct {
	Name  string        `json:"name" required:"true"`
	ID    lab.ID        `json:"id" required:"true"`
	Worth lab.Worth     `json:"worth,omitempty"`
	Names []string      `json:"names" required:"true" nullable:"false" description:"Those that lead to it"`
	Cells []ReachedCell `json:"cells" required:"true" nullable:"false" description:"By place, in their order"`
}

// ReachedCell is how a service is reached from one place.
type ReachedCell struct {
	Arrives  bool       `json:"arrives" required:"true"`
	To       string     `json:"to" required:"true" description:"What is asked for: a name, or the service itself"`
	Straight bool       `json:"straight,omitempty" description:"None of its names gets there, but its own address does"`
	SignIn   lab.SignIn `json:"sign_in,omitempty" description:"Absent while unknown"`
	Why      string     `json:"why,omitempty"`
}

func reachedOf(a Ask) (ReachedServices, error) {
	q := request.Of(a.Lab)
	out := ReachedServices{[]ReaderPlace{}, []ReachedService{}, q.Names()}
	for _, p := range q.Places() {
		place := ReaderPlace{From: placeText(a.Lab, p), Kind: string(p.Kind), Title: p.Title}
		if p.In.ID != "" {
			place.In = placeText(a.Lab, q.PlaceOf(lab.EndpointOf(p.In)))
		}
		out.Places = append(out.Places, place)
	}
	for _, r := range q.Table() {
		row := ReachedService{r.Service.Title(), r.Service.ID, r.Service.Worth, append([]string{}, r.Names...), []ReachedCell{}}
		for _, c := range r.Cells {
			to := string(r.Service.ID)
			if c.By.ID != "" && !c.Straight {
				to = q.Whole(c.By)
			}
			row.Cells = append(row.Cells, ReachedCell{c.Arrives, to, c.Straight, c.SignIn, c.Why})
		}
		out.Services = append(out.Services, row)
	}
	return out, nil
}

func reachedText(r ReachedServices) lines {
	t := lines{head: []string{"SERVICE"}, none: "no services yet",
		foot: "yes: reached, with sign-in; open: without; ?: reached, and nothing says"}
	for _, p := range r.Places {
		t.head = append(t.head, strings.ToUpper(p.Title))
	}
	for _, s := range r.Services {
		row := []string{s.Name}
		for _, c := range s.Cells {
			say := "-"
			if c.Arrives {
				say = map[lab.SignIn]string{lab.SignInAsked: "yes", lab.SignInNone: "open", "": "?"}[c.SignIn]
			}
			row = append(row, say)
		}
		t.rows = append(t.rows, row)
	}
	if len(t.rows) == 0 {
		t.foot = ""
	}
	return t
}
