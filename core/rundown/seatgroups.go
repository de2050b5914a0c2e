package rundown

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

var formWords = map[string]lab.Form{"3.5in": "3.5in", `3.5"`: "3.5in", "3.5": "3.5in", "lff": "3.5in", "2.5in": "2.5in", `2.5"`: "2.5in",
	"2.5": "2.5in", "sff": "2.5in", "m.2": "m.2", "m2": "m.2", "5.25in": "5.25in", `5.25"`: "5.25in", "1.8in": "1.8in"}

func (r *groupReader) form() lab.Form {
	for i, t := range r.tokens {
		if f, ok := formWords[t.Plain]; ok {
			r.tokens = slices.Delete(slices.Clone(r.tokens), i, i+1)
			r.word("in", "inch")
			return f
		}
	}
	return ""
}

var interfaceWord = regexp.MustCompile(`^((?:sata|sas|nvme|ide|scsi)(?:/(?:sata|sas|nvme|ide|scsi))*)$`)

func readBays(r *groupReader) (lab.BayGroup, error) {
	n, err := r.count()
	g := lab.BayGroup{Count: n}
	if err != nil {
		return g, err
	}
	r.word("bays", "bay", "drive bays", "drive bay")
	g.Form = r.form()
	if m := r.match(interfaceWord); m != nil {
		g.Interfaces = strings.Split(m[1], "/")
	}
	if w, ok := r.word("front", "rear", "back", "inside"); ok && w != "front" {
		g.Side = lab.Side(cmp.Or(string(faceWords[w]), w))
	}
	return g, nil
}

func baysText(g lab.BayGroup) string {
	s := strings.TrimSpace(fmt.Sprintf("%d bays %s", g.Count, g.Form))
	if len(g.Interfaces) > 0 {
		s += " " + strings.Join(g.Interfaces, "/")
	}
	if g.Side != "" {
		s += " " + string(g.Side)
	}
	return s
}

var (
	lanesWord = regexp.MustCompile(`^x(1|2|4|8|16)$`)
	wideWord  = regexp.MustCompile(`^([0-9.]+)(mm|cm|in)$`)
)

func readSlots(r *groupReader) (lab.SlotGroup, error) {
	n, err := r.count()
	g := lab.SlotGroup{Count: n}
	if err != nil {
		return g, err
	}
	r.word("slots", "slot", "expansion slots", "pcie slots", "pci slots")
	r.word("pcie", "pci")
	if w, ok := r.after("wired"); ok {
		m := lanesWord.FindStringSubmatch(w.Plain)
		if m == nil {
			return g, fmt.Errorf("how many lanes are wired? Write wired x8")
		}
		g.Wired, _ = strconv.Atoi(m[1])
	}
	if m := r.match(lanesWord); m != nil {
		g.Lanes, _ = strconv.Atoi(m[1])
	}
	if w, ok := r.word("half height", "low profile", "full height", "half", "full"); ok && (w[0] == 'h' || w[0] == 'l') {
		g.Height = lab.HalfHeight
	}
	if w, ok := r.word("2 wide", "3 wide", "4 wide", "1 wide"); ok {
		g.Wide = int(w[0] - '0')
	}
	if w := r.match(wideWord); w != nil {
		v, err := text.ReadMeasure([]text.Token{{Kind: text.Word, Text: w[0], Plain: w[0]}}, text.Length, false)
		if err != nil {
			return g, err
		}
		g.LengthMM = v
	}
	return g, nil
}

func slotsText(g lab.SlotGroup) string {
	s := fmt.Sprintf("%d slots", g.Count)
	if g.Lanes > 0 {
		s += fmt.Sprintf(" x%d", g.Lanes)
	}
	if g.Wired > 0 {
		s += fmt.Sprintf(" wired x%d", g.Wired)
	}
	if g.Height == lab.HalfHeight {
		s += " half height"
	}
	if g.LengthMM != nil {
		s += " " + text.Length.Text(*g.LengthMM)
	}
	if g.Wide > 0 {
		s += fmt.Sprintf(" %d wide", g.Wide)
	}
	return s
}

func readOutlets(r *groupReader) (lab.OutletGroup, error) {
	n, err := r.count()
	g := lab.OutletGroup{Count: n}
	if err != nil {
		return g, err
	}
	r.word(nouns["outlets"]...)
	_, g.Battery = r.word("battery", "on battery", "held")
	_, g.Filtered = r.word("filtered", "surge only", "only filtered", "surge")
	_, g.Switched = r.word("switched", "switchable")
	_, g.Metered = r.word("metered", "measured")
	if g.Battery && g.Filtered {
		return g, fmt.Errorf("outlets are held by the battery or only filtered, and not both")
	}
	g.Face = r.face()
	g.Connector = r.connector()
	return g, nil
}

func outletsText(g lab.OutletGroup) string {
	s := strings.TrimSpace(fmt.Sprintf("%d outlets %s", g.Count, connectorText(g.Connector)))
	for _, is := range []struct {
		so   bool
		word string
	}{{g.Battery, "battery"}, {g.Filtered, "filtered"}, {g.Switched, "switched"}, {g.Metered, "metered"}} {
		if is.so {
			s += " " + is.word
		}
	}
	if g.Face != "" {
		s += " " + string(g.Face)
	}
	return s
}
