package exchange

import (
	"errors"
	"fmt"
	"io"
	"math"

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

// Bounds of a label.
const (
	leastMM = 5
	mostMM  = 190
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

// letterWide is how wide a letter of the type is for its size.
const letterWide = 0.6

func (s LabelSheet) print(p panel, l cabling.Label, pen sheetPen) error {
	const pad = 1.2
	x, w := p.x+pad, p.w-2*pad
	if p.code {
		side := math.Min(p.h-2*pad, p.w/2)
		if err := code(s.Open+string(l.Cable), x, p.y+(p.h-side)/2, side, pen); err != nil {
			return err
		}
		x, w = x+side+pad, w-side-pad
	}
	size := math.Min(p.h*0.4, w/(letterWide*float64(max(1, len([]rune(l.Text))))))
	small := math.Min(size*0.6, p.h*0.16)
	pen.text(x+w/2, p.y+p.h*0.42, size, true, l.Text)
	for i, end := range []string{l.A, l.B} {
		fits := math.Min(small, w/(letterWide*float64(max(1, len([]rune(end))))))
		pen.text(x+w/2, p.y+p.h*(0.66+0.2*float64(i)), fits, false, end)
	}
	return nil
}

// code draws a QR code (ISO/IEC 18004).
func code(what string, x, y, side float64, pen sheetPen) error {
	q, err := qr.Encode(what, qr.M)
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
		return fmt.Errorf("%d labels do not go on a page of %d; print fewer, or as a PDF", len(labels), columns*rows)
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
	p.Text(x, y, s, fmt.Sprintf(`font-family="IBM Plex Mono, monospace" font-weight="%s" font-size="%.2f" text-anchor="middle"`, weight, sizeMM))
}

func (p svgPen) square(x, y, side float64) { p.Rect(x, y, side, side) }
