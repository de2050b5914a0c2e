package exchange

import (
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/core/rundown"
)

// A VLAN plan is a table with a line for each port of what carries VLANs and a
// column for each VLAN: U where it is untagged, T where it is tagged.
const (
	planDevice, planPort, planTo = "device", "port", "leads to"
	untaggedCell, taggedCell     = "U", "T"
)

// planRows are the lines of a lab's plan, the first one naming the columns.
func planRows(l *lab.Lab) [][]string {
	grid := network.Of(l).Grid()
	head := []string{planDevice, planPort, planTo}
	for _, v := range grid.VLANs {
		head = append(head, planColumn(v))
	}
	rows := [][]string{head}
	for _, d := range grid.Devices {
		if d.Passes {
			continue
		}
		for _, p := range d.Ports {
			row := []string{d.Title, p.Port, ""}
			if p.To != nil {
				row[2] = p.To.Title
			}
			for _, v := range grid.VLANs {
				row = append(row, planCell(d, p, v))
			}
			rows = append(rows, row)
		}
	}
	return rows
}

func planColumn(v network.GridVLAN) string {
	say := strings.TrimSpace(strconv.Itoa(v.Number) + " " + v.Name)
	if v.Domain != "" {
		say += " (" + v.Domain + ")"
	}
	return say
}

func planCell(d network.GridDevice, p network.GridPort, v network.GridVLAN) string {
	carries, tagged := lab.Carried{Untagged: p.Untagged, Tagged: p.Tagged}.Has(v.Number)
	switch {
	case !carries || v.Domain != d.Domain:
		return ""
	case tagged:
		return taggedCell
	}
	return untaggedCell
}

// WriteVLANPlanCSV writes the plan as CSV.
func WriteVLANPlanCSV(w io.Writer, l *lab.Lab) error { return writeCSV(w, slices.Values(planRows(l))) }

// WriteVLANPlanXLSX writes the plan as a workbook.
func WriteVLANPlanXLSX(w io.Writer, l *lab.Lab) error {
	return writeTextXLSX(w, "VLAN plan", planRows(l))
}

// ReadVLANPlan reads a plan, CSV or a workbook, and works out what each line would
// change. A column that is not there is left as it is. The error says what is wrong
// with the file as a whole.
func ReadVLANPlan(l *lab.Lab, data []byte) (Sheet, error) {
	t, err := readTable(data)
	if err != nil {
		return Sheet{}, err
	}
	plan, err := planOf(l, t.names)
	if err != nil {
		return Sheet{}, err
	}
	for _, row := range t.rows {
		plan.row(row)
	}
	return plan.sheet(), nil
}

// plan is one while it is read.
type plan struct {
	lab          *lab.Lab
	device, port int
	columns      []planVLAN
	rows         []Row
	is           *lab.Changing
	wide         int
}

// planVLAN is the VLAN of a column.
type planVLAN struct {
	at, number int
	domain     string
}

func planOf(l *lab.Lab, names []string) (*plan, error) {
	p := &plan{lab: l, device: -1, port: -1, is: l.Changing(), wide: len(names)}
	for i, name := range names {
		name = strings.TrimSpace(name)
		switch strings.ToLower(name) {
		case planDevice, "switch":
			p.device = i
			continue
		case planPort:
			p.port = i
			continue
		}
		number, rest, _ := strings.Cut(name, " ")
		n, err := strconv.Atoi(number)
		if err != nil {
			continue // where it leads to, or a note
		}
		v, err := lab.ReadVLANs(number)
		if err != nil || v.One() == 0 {
			return nil, fmt.Errorf("column %d: a VLAN's number is 1 to 4094, not %d", i+1, n)
		}
		domain := ""
		if open := strings.LastIndexByte(rest, '('); open >= 0 && strings.HasSuffix(rest, ")") {
			domain = rest[open+1 : len(rest)-1]
		}
		p.columns = append(p.columns, planVLAN{i, n, domain})
	}
	switch {
	case p.device < 0 || p.port < 0:
		return nil, fmt.Errorf("the first line has to name the columns %s and %s, and one for each VLAN, such as 20 servers", planDevice,
			planPort)
	case len(p.columns) == 0:
		return nil, fmt.Errorf("no column is a VLAN; name each by its number, such as 20 or 20 servers")
	}
	return p, nil
}

func (p *plan) row(in line) {
	r := Row{Line: in.number, Title: strings.TrimSpace(in.cells[0])}
	defer func() { p.rows = append(p.rows, r) }()
	refuse := func(format string, args ...any) { r.Verb, r.Say = RowRefused, fmt.Sprintf(format, args...) }
	if len(in.cells) != p.wide {
		refuse("it has %d cells, and the first line names %d columns", len(in.cells), p.wide)
		return
	}
	name, said := unguarded(strings.TrimSpace(in.cells[p.device])), unguarded(strings.TrimSpace(in.cells[p.port]))
	r.Title = name + "/" + said
	id, ok := rundown.DeviceNamed(p.lab)(name)
	if !ok {
		refuse("there is no one device called “%s”", name)
		return
	}
	d := p.is.Now(lab.Key{Kind: lab.KindDevice, ID: id}).(lab.Device)
	ports := p.lab.PortsOf(d)
	port, ok := ports.Find(said)
	if !ok {
		if ports.Known || said == "" {
			refuse("%s has no port “%s”; it has %s", d.Title(), said, ports.Words())
			return
		}
		port = said
	}
	is, err := p.carrying(d, port, in.cells)
	if err != nil {
		refuse("%s", err)
		return
	}
	if r.Verb = RowSame; !lab.Same(is, d) {
		r.Verb, r.Say = RowChanged, fmt.Sprintf("%s (was %s)", carriedWords(is, port), carriedWords(d, port))
	}
	p.is.Put(is)
}

// carriedWords is what a port carries as one reads it.
func carriedWords(d lab.Device, port string) string {
	c := d.CarriesAt(port)
	var said []string
	if c.Untagged > 0 {
		said = append(said, fmt.Sprintf("untagged %d", c.Untagged))
	}
	if c.Tagged != "" {
		said = append(said, "tagged "+strings.ReplaceAll(string(c.Tagged), ",", ", "))
	}
	if len(said) == 0 {
		return "no VLAN"
	}
	return strings.Join(said, ", ")
}

// carrying is a device with a port that carries what the cells of a line say.
func (p *plan) carrying(d lab.Device, port string, cells []string) (lab.Device, error) {
	untagged := 0
	for _, c := range p.columns {
		said := strings.ToUpper(strings.TrimSpace(cells[c.at]))
		if said != "" && c.domain != d.Domain {
			return d, fmt.Errorf("column %d: %s is not in the switching domain of VLAN %d", c.at+1, d.Title(), c.number)
		}
		switch said {
		case "", "-":
			if c.domain == d.Domain {
				d = d.NotCarrying(port, c.number)
			}
		case untaggedCell, "UNTAGGED":
			if untagged > 0 {
				return d, fmt.Errorf("it is untagged in %d and in %d; a port carries one VLAN untagged", untagged, c.number)
			}
			untagged = c.number
			d = d.Carrying(port, c.number, false)
		case taggedCell, "TAGGED", "X":
			d = d.Carrying(port, c.number, true)
		default:
			return d, fmt.Errorf("column %d: “%s” is neither U for untagged nor T for tagged; leave it empty where the port does not carry the VLAN",
				c.at+1, cells[c.at])
		}
	}
	return d, nil
}

func (p *plan) sheet() Sheet {
	s := Sheet{Rows: p.rows, Changes: p.is.Changes()}
	for _, r := range p.rows {
		if r.Verb == RowRefused {
			s.Refused++
		}
	}
	return s
}

// PasteVLANs takes cells as a spreadsheet has them, lines with tabs between, from a
// port and a VLAN on. The error names the line and the column that is out of place.
func PasteVLANs(l *lab.Lab, device lab.ID, port string, number int, pasted string) ([]lab.Change, error) {
	grid := network.Of(l).Grid()
	i := slices.IndexFunc(grid.Devices, func(d network.GridDevice) bool { return d.Device == device })
	if i < 0 {
		return nil, fmt.Errorf("there is no such device in the grid")
	}
	d, _ := lab.Find[lab.Device](l, device)
	vlans := slices.DeleteFunc(slices.Clone(grid.VLANs), func(v network.GridVLAN) bool { return v.Domain != d.Domain })
	row := slices.IndexFunc(grid.Devices[i].Ports, func(p network.GridPort) bool { return p.Port == port })
	col := slices.IndexFunc(vlans, func(v network.GridVLAN) bool { return v.Number == number })
	if row < 0 || col < 0 {
		return nil, fmt.Errorf("the cells begin at no port or VLAN of %s", d.Title())
	}
	ports := grid.Devices[i].Ports[row:]
	vlans = vlans[col:]
	lines := strings.Split(strings.TrimRight(strings.ReplaceAll(pasted, "\r\n", "\n"), "\n"), "\n")
	if len(lines) > len(ports) {
		return nil, fmt.Errorf("%d lines were pasted, and %s has %d ports from %s on", len(lines), d.Title(), len(ports), port)
	}
	p := &plan{lab: l}
	wide := len(strings.Split(lines[0], "\t"))
	for n, line := range lines {
		cells := strings.Split(line, "\t")
		switch {
		case len(cells) != wide:
			return nil, fmt.Errorf("line %d has %d cells, and the first has %d", n+1, len(cells), wide)
		case len(cells) > len(vlans):
			return nil, fmt.Errorf("line %d has %d cells, and there are %d VLANs from %d on", n+1, len(cells), len(vlans), number)
		}
		p.columns = p.columns[:0]
		for k := range cells {
			p.columns = append(p.columns, planVLAN{k, vlans[k].Number, vlans[k].Domain})
		}
		is, err := p.carrying(d, ports[n].Port, cells)
		if err != nil {
			return nil, fmt.Errorf("line %d: %w", n+1, err)
		}
		d = is
	}
	if c, ok := l.Put(d); ok {
		return []lab.Change{c}, nil
	}
	return nil, nil
}

// WriteNetworkDOT writes the network as a Graphviz graph: a node for each device
// with a link, an edge for each link with its VLANs.
func WriteNetworkDOT(out io.Writer, l *lab.Lab) error {
	g := newGraph(l)
	m := network.Of(l).Map()
	for _, n := range m.Nodes {
		d, _ := lab.Find[lab.Device](l, n.Device)
		g.node(d)
	}
	for _, link := range m.Links {
		a, _ := lab.Find[lab.Device](l, link.A)
		b, _ := lab.Find[lab.Device](l, link.B)
		edge := g.Edge(g.node(a), g.node(b)).Attr("taillabel", link.PortA).Attr("headlabel", link.PortB)
		var vlans []string
		for _, s := range link.Strands {
			say := strconv.Itoa(m.VLANs[s.VLAN].Number)
			if s.Tagged {
				say += "t"
			}
			vlans = append(vlans, say)
		}
		if len(vlans) > 0 {
			edge.Attr("label", strings.Join(vlans, ", "))
		}
		if link.Rests || link.Air {
			edge.Attr("style", map[bool]string{true: "dotted", false: "dashed"}[link.Rests])
		}
	}
	_, err := io.WriteString(out, g.String())
	return err
}
