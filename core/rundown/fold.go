package rundown

import (
	"errors"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// A thing may take several lines of a text: one that ends with a comma goes on in
// the next where that is further in and begins nothing of its own, and so does one
// that ends with a colon where what follows is a fact of its thing.
//
//	sheet "Fell R28": server, 2U high, 447mm wide, 710mm deep,
//	        8 bays 3.5in sata/sas, 750W a supply
//
// It is read as one line, whose columns count on from one to the next; what is
// said of it to a person is put back to where it stands.

// fold is where a thing's line goes on in another line of the text.
type fold struct {
	line     int // of the text
	from, to int // the columns of the whole that are in it
}

// folds are those of each thing that takes more than a line, by its first one.
type folds map[place][]fold

// whole is a line with those below that it goes on in, and how many these are.
func (p *parser) whole(number int, l text.Line, below []string) (whole text.Line, slip *text.Mistake, more int) {
	var t *thing
	list := []fold{{number, 1, l.End}}
	deep, opened, comma := l.Indent, l.EndsWith(":"), l.EndsWith(",")
	for more < len(below) {
		next, wrong := p.ahead.Line(number, below[more])
		if len(next.Tokens) == 0 || next.Indent <= deep {
			break
		}
		if t == nil {
			if t = p.thingOf(number, l); t == nil {
				return l, nil, 0
			}
		}
		if beginsThing(t.scope(), next.Tokens) || !comma && !(opened && t.says(next.Tokens)) {
			break
		}
		more++
		comma = next.EndsWith(",")
		list = append(list, fold{number + more, l.End, l.End + next.End - 1})
		if l.End+next.End > maxMerged {
			slip = tooLong(number, l.End+next.End)
			continue // what is too much of it is no other thing
		}
		l = l.And(next)
		if wrong != nil {
			slip = wrong
			slip.Column, slip.EndColumn = slip.Column+list[more].from-1, slip.EndColumn+list[more].from-1
			break
		}
	}
	if more > 0 {
		if p.doc.folds == nil {
			p.doc.folds = folds{}
		}
		p.doc.folds[place{p.file, number}] = list
	}
	return l, slip, more
}

// thingOf is the thing that a line is about; nil where that cannot be told.
func (p *parser) thingOf(number int, l text.Line) *thing {
	t := &thing{line: number}
	if _, err := t.head(p.kinds, slices.Clone(l.Tokens)); err != nil {
		return nil
	}
	return t
}

// says reports whether the first phrase is a fact of the thing.
func (t *thing) says(tokens []text.Token) bool {
	for phrase := range pieces(tokens) {
		_, err := t.read(phrase)
		return err == nil
	}
	return false
}

// dangling is the mistake of a line that says a fact where none above goes on with
// it, as when the line of its thing was taken out; else the one it was.
func (t *thing) dangling(tokens []text.Token, was *text.Mistake) *text.Mistake {
	if t.indent == 0 || was.Nearest != "" || !(&thing{kind: lab.KindDevice, device: lab.Other}).says(tokens) {
		return was
	}
	m := t.at(tokens, errors.New("this is a fact, and no line above goes on with it"))
	m.Expected = "a comma at the end of the line above, or this one taken out too"
	return m
}

// beginsThing reports whether a line below one about something is surely about a
// thing of its own: it has a colon, is a cable's, or begins with a seat, a place and
// a kind, or a kind and a name.
func beginsThing(of scope, tokens []text.Token) bool {
	if slices.ContainsFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator && t.Text == ":" }) {
		return true
	}
	if _, n, _ := readSeats(tokens); n > 0 {
		return true
	}
	if s, _, err := readStrand(tokens); s != nil || err != nil {
		return true
	}
	first := tokens
	if n := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator }); n >= 0 {
		first = tokens[:n]
	}
	if len(first) == 0 {
		return false
	}
	_, n, err := readWhere(first)
	if err != nil || n == len(first) {
		return false
	}
	_, used := readKind(first[n:])
	switch rest := first[n+used:]; {
	case used > 0:
		return n > 0 || len(rest) == 0 || rest[0].Kind == text.Quoted
	case len(rest) > 1 && rest[len(rest)-1].Kind == text.Quoted:
		_, err := readFact(of, first)
		_, own := readOwnKind(rest)
		return own > 0 && err != nil
	}
	return false
}

// put tells where in the text a place in a thing's line is.
func (f folds) put(file string, line, col, end *int) {
	for _, part := range slices.Backward(f[place{file, *line}]) {
		if *col < part.from {
			continue
		}
		*line, *col, *end = part.line, *col-part.from+1, min(*end, part.to)-part.from+1
		return
	}
}

// unfold tells of the text's own lines what was worked out of whole ones.
func (p *Plan) unfold(f folds) {
	p.folds = f
	for i := range p.Mistakes {
		m := &p.Mistakes[i]
		f.put(m.File, &m.Line, &m.Column, &m.EndColumn)
	}
	for i := range p.Kept {
		k := &p.Kept[i]
		f.put(k.File, &k.Line, &k.Column, &k.EndColumn)
	}
	for at, list := range f {
		for _, part := range list {
			if keys := p.Lines[at.line]; len(keys) > 0 {
				p.Lines[part.line] = keys
			}
		}
	}
}
