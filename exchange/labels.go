package exchange

import (
	"errors"
	"fmt"
	"io"
	"math"
	"regexp"
	"strings"

	svg "github.com/ajstarks/svgo/float"
	"github.com/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gomono"
	"golang.org/x/image/font/gofont/gomonobold"
	"rsc.io/qr"

	"levelstaff/core/cabling"
)

// LabelSheet says how labels are printed. Sizes are millimetres.
type LabelSheet struct {
	WideMM float64 // of one label
	HighMM float64
	Wrap   bool   // wraps round the cable; otherwise it is a flag, folded in the middle
	Letter bool   // US letter paper; A4 otherwise
	Open   string // what a QR code opens, with the cable's id put behind; "" for none
}

// Labels are made on pages of so many millimetres.
const marginMM = 8

// Bounds of a label; a code's dots are to be so large that a telephone reads
// them off what an office printer prints.
const (
	leastMM = 5
	mostMM  = 190
	dotMM   = 0.25
)

func (s LabelSheet) page() (w, h float64) {
	if s.Letter {
		return 215.9, 279.4
	}
	return 210, 297
}

// grid is how many labels go beside and below each other.
func (s LabelSheet) grid() (columns, rows int, err error) {
	if !(s.WideMM >= leastMM && s.WideMM <= mostMM && s.HighMM >= leastMM && s.HighMM <= mostMM) {
		return 0, 0, fmt.Errorf("a label is %d to %d mm wide and high", leastMM, mostMM)
	}
	if s.Open != "" {
		const anyID = "00000000-0000-0000-0000-000000000000"
		q, err := qr.Encode(s.Open+anyID, qr.L)
		if err != nil {
			return 0, 0, fmt.Errorf("make a code of %q: %w", s.Open, err)
		}
		if s.panels(0, 0)[0].codeMM()/float64(q.Size) < dotMM {
			return 0, 0, errors.New("the code would be too small to be read; take a larger label, or print without the code")
		}
	}
	w, h := s.page()
	return int((w - 2*marginMM) / s.WideMM), int((h - 2*marginMM) / s.HighMM), nil
}

// panel is one printed half of a label: the text stands in it twice the same
// way, so that it reads from either side.
type panel struct {
	x, y, w, h float64
	code       bool
}

// panels are where a label at x, y is printed on: a flag at both halves; a wrap
// at the part that stays outside, which goes round the cable under the rest.
func (s LabelSheet) panels(x, y float64) []panel {
	code := s.Open != ""
	if s.Wrap {
		return []panel{{x, y, s.WideMM, s.HighMM / 2, code}}
	}
	return []panel{{x, y, s.WideMM / 2, s.HighMM, code}, {x + s.WideMM/2, y, s.WideMM / 2, s.HighMM, false}}
}

// sheetPen is what labels are drawn with, on paper or as SVG.
type sheetPen interface {
	newPage()
	frame(x, y, w, h float64)
	fold(x1, y1, x2, y2 float64)
	text(x, y, sizeMM float64, bold bool, s string) // in the middle of the line
	square(x, y, side float64)
}

// draw puts the labels on pages.
func (s LabelSheet) draw(labels []cabling.Label, pen sheetPen) error {
	columns, rows, err := s.grid()
	if err != nil {
		return err
	}
	if len(labels) == 0 {
		return errors.New("there is no cable to print a label for")
	}
	for i, l := range labels {
		at := i % (columns * rows)
		if at == 0 {
			pen.newPage()
		}
		x, y := marginMM+float64(at%columns)*s.WideMM, marginMM+float64(at/columns)*s.HighMM
		pen.frame(x, y, s.WideMM, s.HighMM)
		if s.Wrap {
			pen.fold(x, y+s.HighMM/2, x+s.WideMM, y+s.HighMM/2)
		} else {
			pen.fold(x+s.WideMM/2, y, x+s.WideMM/2, y+s.HighMM)
		}
		for _, p := range s.panels(x, y) {
			if err := s.print(p, l, pen); err != nil {
				return err
			}
		}
	}
	return nil
}

// padMM is what is left blank at a panel's edges.
const padMM = 1.2

// codeMM is the side of the code on a panel.
func (p panel) codeMM() float64 { return math.Min(p.h-2*padMM, p.w/2) }

// print fills a panel: a code where it is to have one, and beside it the label
// with where its ends go below, for which there has to be room.
func (s LabelSheet) print(p panel, l cabling.Label, pen sheetPen) error {
	const roomy = 16
	x, w := p.x+padMM, p.w-2*padMM
	if p.code {
		side := p.codeMM()
		if err := code(s.Open+string(l.Cable), x, p.y+(p.h-side)/2, side, pen); err != nil {
			return err
		}
		x, w = x+side+padMM, w-side-padMM
	}
	if w < roomy {
		block(pen, l.Text, x, p.y+padMM, w, p.h-2*padMM)
		return nil
	}
	block(pen, l.Text, x, p.y+padMM, w, p.h*0.54-padMM)
	for i, end := range []string{l.A, l.B} {
		const readable = 1.2
		if size := math.Min(p.h*0.16, w/wideOf(end)); size >= readable {
			pen.text(x+w/2, p.y+p.h*(0.68+0.2*float64(i)), size, false, end)
		}
	}
	return nil
}

// wideOf is how wide a text is for the size of its letters, which are all as
// wide.
func wideOf(text string) float64 { return 0.6 * float64(max(1, len([]rune(text)))) }

// block writes a text as large as a room allows, in one line or more.
func block(pen sheetPen, text string, x, y, w, h float64) {
	list, size := broken(text, w, h)
	top := y + (h-lineHigh*size*float64(len(list)))/2
	for i, line := range list {
		const baseline = 0.92
		pen.text(x+w/2, top+size*(lineHigh*float64(i)+baseline), size, true, line)
	}
}

// lineHigh is from one line to the next, for the size of its letters.
const lineHigh = 1.15

var breakable = regexp.MustCompile(`[^→ _-]*[→ _-]*`)

// broken is a text in the lines in which its letters are largest, and how large
// they are. A line ends after a space, an arrow or a hyphen, never within a
// port; another line has to be worth it.
func broken(text string, w, h float64) (best []string, size float64) {
	const worth = 1.4
	pieces := breakable.FindAllString(text, -1)
	for letters := len([]rune(text)); letters > 0; letters-- {
		list := filled(pieces, letters)
		longest := 0.0
		for _, line := range list {
			longest = math.Max(longest, wideOf(line))
		}
		if fits := math.Min(w/longest, h/(lineHigh*float64(len(list)))); fits > size*worth {
			best, size = list, fits
		}
	}
	return best, size
}

// filled puts pieces into lines of so many letters, or of one piece where that
// is longer.
func filled(pieces []string, letters int) []string {
	var list []string
	for _, piece := range pieces {
		last := len(list) - 1
		if last >= 0 && len([]rune(list[last]+piece)) <= letters {
			list[last] += piece
		} else if piece != "" {
			list = append(list, piece)
		}
	}
	for i := range list {
		list[i] = strings.TrimSpace(list[i])
	}
	return list
}

// code draws a QR code (ISO/IEC 18004).
func code(what string, x, y, side float64, pen sheetPen) error {
	q, err := qr.Encode(what, qr.L)
	if err != nil {
		return fmt.Errorf("make a code of %q: %w", what, err)
	}
	dot := side / float64(q.Size)
	for row := range q.Size {
		for column := range q.Size {
			if q.Black(column, row) {
				pen.square(x+float64(column)*dot, y+float64(row)*dot, dot)
			}
		}
	}
	return nil
}

// WriteLabelsPDF prints labels on as many pages as they need.
func WriteLabelsPDF(out io.Writer, labels []cabling.Label, s LabelSheet) error {
	w, h := s.page()
	p := fpdf.NewCustom(&fpdf.InitType{UnitStr: "mm", Size: fpdf.SizeType{Wd: w, Ht: h}})
	p.SetMargins(0, 0, 0)
	p.SetAutoPageBreak(false, 0)
	p.SetTitle("Cable labels", true)
	p.AddUTF8FontFromBytes("label", "", gomono.TTF)
	p.AddUTF8FontFromBytes("label", "B", gomonobold.TTF)
	if err := s.draw(labels, pdfPen{p}); err != nil {
		return err
	}
	if err := p.Output(out); err != nil {
		return fmt.Errorf("write the labels: %w", err)
	}
	return nil
}

type pdfPen struct{ *fpdf.Fpdf }

func (p pdfPen) newPage() { p.AddPage() }

func (p pdfPen) frame(x, y, w, h float64) {
	p.SetDrawColor(190, 190, 190)
	p.SetLineWidth(0.1)
	p.Rect(x, y, w, h, "D")
}

func (p pdfPen) fold(x1, y1, x2, y2 float64) {
	p.SetDashPattern([]float64{1, 1}, 0)
	p.Line(x1, y1, x2, y2)
	p.SetDashPattern(nil, 0)
}

func (p pdfPen) text(x, y, sizeMM float64, bold bool, s string) {
	const pointMM = 0.3528
	style := ""
	if bold {
		style = "B"
	}
	p.SetFont("label", style, sizeMM/pointMM)
	p.Text(x-p.GetStringWidth(s)/2, y, s)
}

func (p pdfPen) square(x, y, side float64) {
	p.SetFillColor(0, 0, 0)
	p.Rect(x, y, side, side, "F")
}

// WriteLabelsSVG draws the first page of labels, to scale.
func WriteLabelsSVG(out io.Writer, labels []cabling.Label, s LabelSheet) error {
	if columns, rows, err := s.grid(); err == nil && len(labels) > columns*rows {
		return fmt.Errorf("%d labels do not fit on a page of %d; print fewer, or as a PDF", len(labels), columns*rows)
	}
	w, h := s.page()
	pen := svgPen{svg.New(out)}
	pen.StartviewUnit(w, h, "mm", 0, 0, w, h)
	err := s.draw(labels, pen)
	pen.End()
	return err
}

type svgPen struct{ *svg.SVG }

func (p svgPen) newPage() { p.Title("Cable labels") }

func (p svgPen) frame(x, y, w, h float64) {
	p.Rect(x, y, w, h, `fill="none" stroke="#bebebe" stroke-width="0.1"`)
}

func (p svgPen) fold(x1, y1, x2, y2 float64) {
	p.Line(x1, y1, x2, y2, `stroke="#bebebe" stroke-width="0.1" stroke-dasharray="1 1"`)
}

func (p svgPen) text(x, y, sizeMM float64, bold bool, s string) {
	weight := "400"
	if bold {
		weight = "700"
	}
	p.Text(x, y, s, fmt.Sprintf(`font-family="IBM Plex Mono, monospace" font-weight="%s" font-size="%.2f" text-anchor="middle"`, weight,
		sizeMM))
}

func (p svgPen) square(x, y, side float64) { p.Rect(x, y, side, side) }
