package exchange

import (
	"fmt"
	"io"
	"strings"

	"github.com/emicklei/dot"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// What runs where as a graph: a box for each host with its guests in it, those that have
// others in them boxes themselves, each service in what it runs in, and a dashed line from
// a container to the guest whose network it shares.

// walkRuns goes through what runs on a lab's hosts: open and shut enclose what is in a host
// or a guest that has something in it, leaf is a guest or a service without. It ends with
// what runs on nothing.
func walkRuns(l *lab.Lab, open func(lab.Record), leaf func(lab.Record), shut func()) {
	in := map[lab.ID][]lab.Service{}
	for v := range lab.Each[lab.Service](l) {
		in[v.In] = append(in[v.In], v)
	}
	var walk func(d lab.Device)
	walk = func(d lab.Device) {
		guests := l.GuestsOn(d.ID)
		if d.IsGuest() && len(guests)+len(in[d.ID]) == 0 {
			leaf(d)
			return
		}
		if len(guests)+len(in[d.ID]) == 0 {
			return
		}
		open(d)
		for _, g := range guests {
			walk(g)
		}
		for _, v := range in[d.ID] {
			leaf(v)
		}
		shut()
	}
	for d := range lab.Each[lab.Device](l) {
		if !d.IsGuest() || d.At == nil {
			walk(d)
		}
	}
	for _, v := range in[""] {
		leaf(v)
	}
}

// runsWords is a guest or a service as its box says it.
func runsWords(r lab.Record) string {
	d, ok := r.(lab.Device)
	if !ok {
		return r.Title()
	}
	said := d.Title()
	if d.IsGuest() && d.Given != nil {
		said += ", " + text.MemoryText(*d.Given)
	}
	if d.State != lab.Running {
		said += ", " + string(d.State)
	}
	return said
}

// sharing goes through the containers that share the network of another guest.
func sharing(l *lab.Lab, do func(from, of lab.ID)) {
	for d := range lab.Guests(l) {
		if d.NetworkOf != "" {
			do(d.ID, d.NetworkOf)
		}
	}
}

// WriteRunsDOT writes what runs where as a Graphviz graph.
func WriteRunsDOT(out io.Writer, l *lab.Lab) error {
	g := dot.NewGraph(dot.Directed)
	g.Attr("label", l.Settings().Title())
	g.Attr("compound", "true")
	nodes := map[lab.ID]dot.Node{}
	up := []*dot.Graph{g}
	walkRuns(l, func(r lab.Record) {
		id := string(r.Key().ID)
		sub := up[len(up)-1].Subgraph(id, dot.ClusterOption{})
		sub.Attr("label", runsWords(r))
		nodes[r.Key().ID] = sub.Node(id).Attr("shape", "point").Attr("style", "invis")
		up = append(up, sub)
	}, func(r lab.Record) {
		n := up[len(up)-1].Node(string(r.Key().ID)).Attr("label", runsWords(r)).Attr("shape", "box")
		if _, service := r.(lab.Service); service {
			n.Attr("style", "rounded")
		}
		nodes[r.Key().ID] = n
	}, func() { up = up[:len(up)-1] })
	sharing(l, func(from, of lab.ID) {
		g.Edge(nodes[from], nodes[of]).Attr("style", "dashed").Attr("label", "network of")
	})
	_, err := io.WriteString(out, g.String())
	return err
}

// mermaidText is a text that nothing in it ends.
var mermaidText = strings.NewReplacer(`"`, "#quot;", "#", "#35;", "<", "#lt;", ">", "#gt;", "\n", " ")

// WriteRunsMermaid writes what runs where as a flowchart for pages of Markdown.
func WriteRunsMermaid(out io.Writer, l *lab.Lab) error {
	var b strings.Builder
	b.WriteString("flowchart TB\n")
	number := map[lab.ID]string{}
	deep := 1
	line := func(format string, args ...any) {
		b.WriteString(strings.Repeat("  ", deep))
		fmt.Fprintf(&b, format+"\n", args...)
	}
	name := func(r lab.Record) string {
		id := r.Key().ID
		number[id] = fmt.Sprintf("n%d", len(number)+1)
		return number[id]
	}
	walkRuns(l, func(r lab.Record) {
		line(`subgraph %s["%s"]`, name(r), mermaidText.Replace(runsWords(r)))
		deep++
	}, func(r lab.Record) {
		shape := `%s["%s"]`
		if _, service := r.(lab.Service); service {
			shape = `%s(["%s"])`
		}
		line(shape, name(r), mermaidText.Replace(runsWords(r)))
	}, func() {
		deep--
		line("end")
	})
	sharing(l, func(from, of lab.ID) { line(`%s -. "network of" .-> %s`, number[from], number[of]) })
	_, err := io.WriteString(out, b.String())
	return err
}
