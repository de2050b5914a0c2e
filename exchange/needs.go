package exchange

import (
	"fmt"
	"io"
	"strings"

	"github.com/emicklei/dot"

	"levelstaff/core/drill"
	"levelstaff/core/lab"
)

// What needs what as a graph: an arrow from each thing to what it needs, dashed where it
// goes on without, and with “or” where another one would do too.

// needWords is how an arrow of a need is labelled.
func needWords(e drill.Edge) string {
	if len(e.Any) > 1 {
		return e.How + " (or)"
	}
	return e.How
}

// WriteNeedsDOT writes what needs what as a Graphviz graph.
func WriteNeedsDOT(out io.Writer, l *lab.Lab) error {
	w := drill.Of(l)
	g := dot.NewGraph(dot.Directed)
	g.Attr("label", l.Settings().Title())
	node := func(k lab.Key) dot.Node {
		n := g.Node(string(k.ID)).Attr("label", w.Title(k)).Attr("shape", "box")
		switch k.Kind {
		case lab.KindService:
			n.Attr("style", "rounded")
		case lab.KindPool, lab.KindDataset, lab.KindShare:
			n.Attr("shape", "cylinder")
		}
		return n
	}
	for _, e := range w.Edges() {
		of := node(e.Of)
		for _, k := range e.Any {
			edge := g.Edge(of, node(k)).Attr("label", needWords(e))
			if e.Soft {
				edge.Attr("style", "dashed")
			}
		}
	}
	_, err := io.WriteString(out, g.String())
	return err
}

// WriteNeedsMermaid writes what needs what as a flowchart for pages of Markdown.
func WriteNeedsMermaid(out io.Writer, l *lab.Lab) error {
	w := drill.Of(l)
	var b strings.Builder
	b.WriteString("flowchart TB\n")
	number := map[lab.Key]string{}
	node := func(k lab.Key) string {
		if n, known := number[k]; known {
			return n
		}
		number[k] = fmt.Sprintf("n%d", len(number)+1)
		shape := `  %s["%s"]`
		switch k.Kind {
		case lab.KindService:
			shape = `  %s(["%s"])`
		case lab.KindPool, lab.KindDataset, lab.KindShare:
			shape = `  %s[("%s")]`
		}
		fmt.Fprintf(&b, shape+"\n", number[k], mermaidText.Replace(w.Title(k)))
		return number[k]
	}
	for _, e := range w.Edges() {
		of, arrow := node(e.Of), `  %s -- "%s" --> %s`
		if e.Soft {
			arrow = `  %s -. "%s" .-> %s`
		}
		for _, k := range e.Any {
			to := node(k)
			fmt.Fprintf(&b, arrow+"\n", of, mermaidText.Replace(needWords(e)), to)
		}
	}
	_, err := io.WriteString(out, b.String())
	return err
}
