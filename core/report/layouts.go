package report

import (
	"fmt"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/storage"
	"levelstaff/core/text"
)

// LayoutsOf is what some drives would come to in each layout.
type LayoutsOf struct {
	Drives  string      `json:"drives" required:"true" description:"What they are"`
	Text    string      `json:"text" required:"true" description:"How a line names them"`
	Taken   []string    `json:"taken" required:"true" nullable:"false" description:"Bays whose drives are in a pool already"`
	Empty   []int       `json:"empty" required:"true" nullable:"false" description:"Bays without a drive"`
	Layouts []LayoutRow `json:"layouts" required:"true" nullable:"false"`
}

// LayoutRow is what they would come to in one.
type LayoutRow struct {
	Layout  lab.Layout  `json:"layout" required:"true"`
	Words   string      `json:"words" required:"true"`
	Usable  *int64      `json:"usable_bytes,omitempty" description:"At least; absent while unknown"`
	Unused  int64       `json:"unused_bytes" required:"true"`
	MayFail PoolMayFail `json:"may_fail" required:"true"`
	Fails   string      `json:"may_fail_words" required:"true"`
}

// layoutsOf works out what bays of a device would come to in every layout that so many
// drives can be in.
func layoutsOf(a Ask) (LayoutsOf, error) {
	out := LayoutsOf{Taken: []string{}, Empty: []int{}, Layouts: []LayoutRow{}}
	if a.With["device"] == "" {
		return out, nil
	}
	d, err := deviceAsked(a, "device")
	if err != nil {
		return out, err
	}
	s := storage.Of(a.Lab)
	var drives []lab.PoolDrive
	var bays []int
	for typed := range strings.SplitSeq(a.With["bays"], ",") {
		n, err := strconv.Atoi(strings.TrimSpace(typed))
		if err != nil || n < 1 || n > 512 {
			return out, &Wrong{"bays", fmt.Sprintf("%q is not a bay; write them such as 1,2,3.", typed)}
		}
		one := lab.PoolDrive{Device: d.ID, Bay: n}
		part, ok := a.Lab.DriveOf(one)
		if !ok {
			out.Empty = append(out.Empty, n)
			continue
		}
		for _, p := range s.PoolsWith(part.ID) {
			out.Taken = append(out.Taken, fmt.Sprintf("bay %d in %s", n, p.Name))
		}
		drives, bays = append(drives, one), append(bays, n)
	}
	for _, layout := range lab.Layouts() {
		set := lab.DriveSet{Layout: layout, Drives: drives}
		if layout == lab.Replicated || !set.Possible() {
			continue
		}
		p := s.Try(lab.Pool{Device: d.ID, Sets: []lab.DriveSet{set}})
		out.Drives = p.Sets[0].Sizes()
		out.Layouts = append(out.Layouts, LayoutRow{layout, p.Words(), knownBytes(p.Spans.Least.Usable), p.Spans.Least.Unused,
			PoolMayFail(p.MayFail), p.MayFailWords()})
	}
	out.Text = "bay " + text.Ranges(bays)
	return out, nil
}

func layoutsText(o LayoutsOf) lines {
	t := lines{head: []string{"Layout", "Usable", "Unused", "May fail"},
		none: "Name a device and its bays, such as device silo and bays 1,2,3."}
	for _, r := range o.Layouts {
		t.rows = append(t.rows, []string{string(r.Layout), bytesText(r.Usable), storage.Size(r.Unused), r.Fails})
	}
	return t
}
