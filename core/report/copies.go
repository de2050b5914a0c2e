package report

import (
	"encoding/json"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/storage"
)

// Copies are the datasets of a lab with where their copies are.
type Copies struct {
	Datasets []CopiesRow `json:"datasets" required:"true" nullable:"false" description:"What matters most first"`
}

// CopiesRow is a dataset with its copies.
type CopiesRow struct {
	Name     string    `json:"name" required:"true"`
	ID       lab.ID    `json:"id" required:"true"`
	Bytes    *int64    `json:"size_bytes,omitempty"`
	Worth    lab.Worth `json:"worth,omitempty"`
	Copies   int       `json:"copies" required:"true" description:"The original counted; what is in the same pool, or not all there, is none"`
	Devices  int       `json:"devices" required:"true"`
	Outside  int       `json:"outside" required:"true" description:"Out of the house"`
	Holds    bool      `json:"holds_321" required:"true" description:"Three copies on two devices at least, one out of the house"`
	Missing  string    `json:"missing,omitempty" description:"What keeps it from that"`
	LostIf   LostIf    `json:"lost_if" required:"true"`
	Strip    []HeldRow `json:"strip" required:"true" nullable:"false" description:"Where it lives first, then its copies, the nearest first"`
	Restored lab.When  `json:"restored,omitempty" description:"When somebody last got something back"`
}

// LostIf is what is lost with where a dataset lives.
type LostIf struct {
	Pool   LostPart `json:"pool" required:"true"`
	Device LostPart `json:"device" required:"true"`
	House  LostPart `json:"house" required:"true"`
}

// LostPart is what is lost of a dataset: "all" where nothing is left, or what came in
// so many hours.
type LostPart struct{ storage.Loss }

// LostHours is what came since what is left was made.
type LostHours struct {
	AtMostH *float64 `json:"at_most_h,omitempty" description:"By the schedule; absent while unknown"`
	NowH    *float64 `json:"now_h,omitempty" description:"By the last run; absent while unknown"`
	Words   string   `json:"words" required:"true"`
}

// JSONSchemaOneOf shows the published schema what MarshalJSON writes.
func (LostPart) JSONSchemaOneOf() []any { return []any{"", LostHours{}} }

// MarshalJSON writes "all", or the hours.
func (p LostPart) MarshalJSON() ([]byte, error) {
	if p.All {
		return json.Marshal("all")
	}
	return json.Marshal(LostHours{p.AtMostH, p.Now, p.Words()})
}

// HeldRow is where a dataset lives, or a copy of it.
type HeldRow struct {
	Title   string           `json:"title" required:"true"`
	Where   storage.Distance `json:"where" required:"true"`
	CopyID  lab.ID           `json:"copy_id,omitempty" description:"Absent for the original"`
	On      lab.Key          `json:"on" required:"true"`
	From    string           `json:"from,omitempty" description:"The copy that it is made of"`
	Often   string           `json:"often,omitempty"`
	AtMostH *float64         `json:"at_most_h,omitempty" description:"How much older than the original it gets"`
	NowH    *float64         `json:"now_h,omitempty" description:"How old it is by its last run"`
	Late    bool             `json:"late,omitempty" description:"It should have run since, twice over"`
	Part    bool             `json:"part,omitempty" description:"It does not fit where it goes"`
	ByHand  bool             `json:"by_hand,omitempty"`
	Coded   lab.Coded        `json:"encryption,omitempty"`
	Via     string           `json:"via,omitempty" description:"The tunnel that it goes through"`
}

func copiesOf(a Ask) (Copies, error) {
	s := storage.Of(a.Lab)
	out := Copies{[]CopiesRow{}}
	for _, d := range s.Data() {
		row := CopiesRow{Name: d.Name, ID: d.ID, Bytes: d.Bytes, Worth: d.Worth, Holds: d.Holds321(), Missing: d.Missing(),
			Restored: d.Restored(), Strip: []HeldRow{held(a, d, d.Original)}}
		row.Copies, row.Devices, row.Outside = d.Count()
		for _, c := range d.Copies {
			row.Strip = append(row.Strip, held(a, d, c))
		}
		row.LostIf = LostIf{LostPart{s.LossIf(d, storage.OfPool, a.Day)}, LostPart{s.LossIf(d, storage.OfDevice, a.Day)},
			LostPart{s.LossIf(d, storage.OfHouse, a.Day)}}
		out.Datasets = append(out.Datasets, row)
	}
	return out, nil
}

func held(a Ask, d *storage.Data, h storage.Held) HeldRow {
	row := HeldRow{Title: h.Title(), Where: h.Where, On: h.Holder.Key(), AtMostH: h.AtMostH, Part: h.Part}
	if h.Copy == nil {
		return row
	}
	c := h.Copy
	row.CopyID, row.NowH, row.Late = c.ID, d.Age(h, a.Day), d.Late(h, a.Day)
	row.ByHand, row.Coded = c.ByHand, c.Coded
	if from := d.Source(c); from != nil {
		row.From = from.Title()
	} else if c.From != nil {
		row.From = a.Lab.HolderWords(c.From)
	}
	if c.EveryH != nil {
		row.Often = rundown.EveryText(*c.EveryH)
	}
	if t, ok := lab.Find[lab.Tunnel](a.Lab, c.Via); ok {
		row.Via = t.Name
	}
	return row
}

func copiesText(c Copies) lines {
	t := lines{head: []string{"Dataset", "Lives on", "Copies", "Devices", "Outside", "3-2-1", "Lost with the pool", "with the device",
		"with the house"},
		none: "There are no datasets yet; a line such as dataset \"choir scores\" on vault: 6TB makes one."}
	words := func(p LostPart) string { return p.Words() }
	for _, d := range c.Datasets {
		holds := "holds"
		if !d.Holds {
			holds = d.Missing
		}
		t.rows = append(t.rows, []string{d.Name, d.Strip[0].Title, strconv.Itoa(d.Copies), strconv.Itoa(d.Devices), strconv.Itoa(d.Outside),
			holds,
			words(d.LostIf.Pool), words(d.LostIf.Device), words(d.LostIf.House)})
	}
	return t
}

// DataLost is what is lost when something goes.
type DataLost struct {
	Lost []LostRow `json:"lost" required:"true" nullable:"false" description:"What matters most first"`
}

// LostRow is a dataset of which something is lost.
type LostRow struct {
	Name    string    `json:"name" required:"true"`
	ID      lab.ID    `json:"id" required:"true"`
	Worth   lab.Worth `json:"worth,omitempty"`
	All     bool      `json:"all" required:"true"`
	AtMostH *float64  `json:"at_most_h,omitempty" description:"What came in so many hours, by the schedules"`
	NowH    *float64  `json:"now_h,omitempty" description:"And by the last runs"`
	Words   string    `json:"words" required:"true"`
}

// LostWith is what is lost with some records, or with the house where none is named.
func LostWith(l *lab.Lab, day lab.Day, keys ...lab.Key) DataLost {
	if len(keys) == 0 {
		keys = []lab.Key{storage.House()}
	}
	out := DataLost{[]LostRow{}}
	for _, d := range storage.Of(l).LostWith(day, keys...) {
		out.Lost = append(out.Lost, LostRow{d.Data.Name, d.Data.ID, d.Data.Worth, d.All, d.AtMostH, d.Now, d.Words()})
	}
	return out
}

// losable are the kinds of record that data may be lost with.
var losable = []lab.RecordKind{lab.KindPart, lab.KindPool, lab.KindDevice, lab.KindPlace}

func dataLostOf(a Ask) (DataLost, error) {
	with := a.With["with"]
	if with == "" || with == "house" {
		return LostWith(a.Lab, a.Day), nil
	}
	kind, id, _ := strings.Cut(with, ":")
	key := lab.Key{Kind: lab.RecordKind(kind), ID: lab.ID(id)}
	if !slices.Contains(losable, key.Kind) || a.Lab.Get(key) == nil {
		return DataLost{}, &Wrong{"with", "There is no " + strconv.Quote(with) +
			" that data is lost with; write house, or part:ID, pool:ID, device:ID or place:ID."}
	}
	return LostWith(a.Lab, a.Day, key), nil
}

func dataLostText(d DataLost) lines {
	t := lines{head: []string{"Dataset", "Matters to", "Lost"}, none: "No dataset is lost with that."}
	for _, r := range d.Lost {
		t.rows = append(t.rows, []string{r.Name, string(r.Worth), r.Words})
	}
	return t
}
