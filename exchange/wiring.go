package exchange

import (
	"io"
	"strconv"

	svg "github.com/ajstarks/svgo"
	"github.com/emicklei/dot"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// graph is a Graphviz graph with a node for each device, in the cluster of its rack.
type graph struct {
	*dot.Graph
	lab   *lab.Lab
	nodes map[lab.ID]dot.Node
	in    map[lab.ID]*dot.Graph
}

func newGraph(l *lab.Lab) graph {
	g := graph{dot.NewGraph(dot.Undirected), l, map[lab.ID]dot.Node{}, map[lab.ID]*dot.Graph{}}
	g.Attr("label", l.Settings().Title())
	return g
}

// node is that of a device.
func (g graph) node(d lab.Device) dot.Node {
	n, made := g.nodes[d.ID]
	if !made {
		n = cluster(g.Graph, g.in, g.lab, d).Node(string(d.ID)).Attr("label", d.Title()).Attr("shape", "box")
		g.nodes[d.ID] = n
	}
	return n
}

// WriteDOT writes a lab's wiring as a Graphviz graph: a node for each device
// with a cable, an edge for each cable in its colour.
func WriteDOT(out io.Writer, l *lab.Lab) error {
	g := newGraph(l)
	node := func(e *lab.End, cable lab.ID) dot.Node {
		if e == nil {
			return g.Node("open "+string(cable)).Attr("label", "?").Attr("shape", "plaintext")
		}
		d, _ := lab.Find[lab.Device](l, e.Device)
		return g.node(d)
	}
	for c := range lab.Each[lab.Cable](l) {
		if c.A == nil && c.B == nil {
			continue
		}
		edge := g.Edge(node(c.A, c.ID), node(c.B, c.ID))
		if hex := c.Colour.Hex(); hex != "" {
			edge.Attr("color", hex)
		}
		if c.A != nil {
			edge.Attr("taillabel", c.A.Port)
		}
		if c.B != nil {
			edge.Attr("headlabel", c.B.Port)
		}
		if c.Label != "" {
			edge.Attr("label", c.Label)
		}
		if c.Kind.Cordless() {
			edge.Attr("style", "dashed")
		}
	}
	_, err := io.WriteString(out, g.String())
	return err
}

// cluster is the part of the graph for the rack that a device is in.
func cluster(g *dot.Graph, in map[lab.ID]*dot.Graph, l *lab.Lab, d lab.Device) *dot.Graph {
	r, ok := l.RackOf(d)
	if !ok {
		return g
	}
	if in[r.ID] == nil {
		in[r.ID] = g.Subgraph(string(r.ID), dot.ClusterOption{})
		in[r.ID].Attr("label", r.Name)
	}
	return in[r.ID]
}

// Measures of the drawing of trails, in pixels.
const (
	stripHigh = 56
	stopWide  = 132
	pieceWide = 110
	stopHigh  = 28
	besides   = 150 // for the speed and the length
)

// WriteTrails draws trails as strips, one below the other: stops and the
// cables between them in their colours.
func WriteTrails(out io.Writer, trails []cabling.Trail) {
	most := 1
	for _, t := range trails {
		most = max(most, len(t.Pieces)+1)
	}
	wide, high := most*(stopWide+pieceWide)+besides, max(1, len(trails))*stripHigh+20
	s := svg.New(out)
	s.Start(wide, high, `font-family="IBM Plex Sans Condensed, sans-serif" font-size="13"`)
	s.Title("Trails")
	s.Rect(0, 0, wide, high, `fill="#fbf9f4"`)
	for n, t := range trails {
		y := 10 + n*stripHigh + stripHigh/2
		x := 10
		for i, stop := range t.Stops {
			s.Roundrect(x, y-stopHigh/2, stopWide, stopHigh, 3, 3, `fill="`+stopFill(stop)+`" stroke="#18262b"`)
			s.Text(x+stopWide/2, y+5, fit(stop.Title+" "+stop.Port), `text-anchor="middle" fill="#18262b"`)
			x += stopWide
			if i >= len(t.Pieces) {
				break
			}
			drawPiece(s, x, y, t.Pieces[i])
			x += pieceWide
		}
		if t.End != cabling.EndsInPort {
			s.Text(x+8, y+5, endWords[t.End], `fill="#c23b22"`)
		}
		if t.End == cabling.EndsInPort {
			s.Text(wide-12, y-2, t.Speed.Words(), `text-anchor="end" fill="#18262b"`)
		}
		s.Text(wide-12, y+14, trailLength(t), `text-anchor="end" fill="#5c6a6e"`)
	}
	s.End()
}

var endWords = map[cabling.TrailEnd]string{cabling.EndsAtGap: "goes no further", cabling.EndsOpen: "? not found",
	cabling.EndsInLoop: "round in a circle"}

func stopFill(s cabling.Stop) string {
	if s.Kind == "joint" {
		return "#e9e3d4"
	}
	return "#eaf2f3"
}

func drawPiece(s *svg.SVG, x, y int, p cabling.Leg) {
	colour := p.Hex
	if colour == "" {
		colour = "#8b9092"
	}
	style := `stroke-width="4" stroke="` + colour + `"`
	if p.State == lab.CableFaulty {
		style += ` stroke-dasharray="6 4"`
	}
	s.Line(x, y, x+pieceWide, y, `stroke-width="6" stroke="#18262b" stroke-opacity="0.45"`) // so that white is seen
	s.Line(x, y, x+pieceWide, y, style)
	above := "?"
	if p.LengthM != nil {
		above = figure(p.LengthM) + " m"
	}
	s.Text(x+pieceWide/2, y-6, above, `text-anchor="middle" fill="#5c6a6e" font-size="11"`)
	if below := p.Run + p.Label; below != "" {
		s.Text(x+pieceWide/2, y+15, fit(below), `text-anchor="middle" fill="#5c6a6e" font-size="11"`)
	}
}

func trailLength(t cabling.Trail) string {
	say := strconv.FormatFloat(t.LengthM, 'f', -1, 64) + " m"
	switch {
	case t.Lacks == len(t.Pieces):
		return "? m"
	case t.Lacks > 0:
		return "at least " + say
	}
	return say
}

func fit(s string) string {
	const most = 20
	if r := []rune(s); len(r) > most {
		return string(r[:most-1]) + "…"
	}
	return s
}
