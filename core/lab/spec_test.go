package lab_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

// refusedFor says which field of a record is refused and why, "" for none.
func refusedFor(t *testing.T, r lab.Record) string {
	t.Helper()
	base, err := lab.New().Apply([]lab.Change{{After: lab.Device{ID: "anvil", Name: "anvil", Kind: lab.Server, State: lab.Running}}})
	require.NoError(t, err)
	c, ok := base.Put(r)
	if !ok {
		return ""
	}
	_, err = base.Apply([]lab.Change{c})
	var no *lab.Refusal
	if err == nil {
		return ""
	}
	require.ErrorAs(t, err, &no)
	return no.Faults[0].Field + ": " + no.Faults[0].Say
}

func TestWhatASpecMaySay(t *testing.T) {
	for field, spec := range map[string]lab.Spec{
		"height_mm":         {HeightMM: ptr(0.0)},
		"width_mm":          {WidthMM: ptr(-440.0)},
		"depth_mm":          {DepthMM: ptr(7100.0)},
		"weight_kg":         {WeightKG: ptr(0.0)},
		"takes_u":           {TakesU: ptr(0)},
		"holds_kg":          {HoldsKG: ptr(99999.0)},
		"rail_mm":           {RailMM: ptr(1000.0)},
		"rail_to_mm":        {RailFromMM: ptr(700.0), RailToMM: ptr(600.0)},
		"mount":             {Mount: "glue"},
		"memory_slots":      {MemorySlots: ptr(-1)},
		"sockets":           {Sockets: ptr(65)},
		"supplies_needed":   {SupplyBays: ptr(1), SuppliesNeeded: ptr(2)},
		"memory_slot_bytes": {MemorySlotBytes: ptr(int64(-1))},
		"most_w":            {MostW: ptr(1e6)},
		"noise_db":          {NoiseDB: ptr(200.0)},
		"temp_from_c":       {TempFromC: ptr(-300.0)},
		"figures_by":        {FiguresBy: strings.Repeat("x", 201)},
		"maker":             {Maker: "two\nlines"},
		"ports":             {Ports: []lab.PortGroup{{Count: 0, Connector: "rj45"}}},
		"bays":              {Bays: []lab.BayGroup{{Count: 2, Form: "4in"}}},
		"slots":             {Slots: []lab.SlotGroup{{Count: 1, Lanes: 3}}},
		"outlets":           {Outlets: []lab.OutletGroup{{Count: 0, Connector: "c13"}}},
	} {
		on := lab.Device{ID: "anvil", Name: "anvil", Kind: lab.Server, State: lab.Running, Spec: spec}
		assert.True(t, strings.HasPrefix(refusedFor(t, on), field+": "), "a device's %s: %s", field, refusedFor(t, on))
		sheet := lab.SpecSheet{ID: "s", Name: "a sheet", Kind: lab.Server, Spec: spec}
		assert.True(t, strings.HasPrefix(refusedFor(t, sheet), field+": "), "a sheet's %s: %s", field, refusedFor(t, sheet))
	}
	many := lab.Spec{}
	for range 200 {
		many.Ports = append(many.Ports, lab.PortGroup{Count: 1, Connector: "rj45"})
	}
	assert.Contains(t, refusedFor(t, lab.SpecSheet{ID: "s", Name: "a sheet", Kind: lab.Switch, Spec: many}), "ports: has 200 groups")
	assert.Empty(t, refusedFor(t, lab.SpecSheet{ID: "s", Name: "a sheet", Kind: lab.Server, Spec: lab.Spec{
		HeightMM: ptr(44.45), RailFromMM: ptr(600.0), RailToMM: ptr(600.0), MemorySlots: ptr(0), NoiseDB: ptr(0.0), TempFromC: ptr(-20.0),
		Ports: []lab.PortGroup{{Count: 24, Connector: "rj45"}}, Bays: []lab.BayGroup{{Count: 8, Form: "2.5in"}},
		Outlets: []lab.OutletGroup{{Count: 8, Connector: "c13"}}}}), "nought of something is a fact too")
}

func TestWaysInAndWhatIsPrivate(t *testing.T) {
	with := func(change func(*lab.Device)) string {
		d := lab.Device{ID: "anvil", Name: "anvil", Kind: lab.Server, State: lab.Running}
		change(&d)
		return refusedFor(t, d)
	}
	for _, link := range []string{"anvil.home.arpa", "javascript:alert(1)", "file:///etc/passwd", "https://", "data:text/html,x"} {
		assert.Contains(t, with(func(d *lab.Device) { d.Web = link }), "is not a web address", link)
		assert.Contains(t, with(func(d *lab.Device) { d.Links = []string{link} }), "links: ", link)
	}
	assert.Empty(t, with(func(d *lab.Device) { d.Web = "https://anvil.home.arpa:8443/ui?x=1" }))
	assert.Contains(t, with(func(d *lab.Device) { d.Links = make([]string, 21) }), "links: ")
	assert.Contains(t, with(func(d *lab.Device) { d.Private = []lab.Entry{{Name: "asset tag"}} }), "private: ")
	assert.Contains(t, with(func(d *lab.Device) { d.Never = []string{strings.Repeat("x", 65)} }), "never_known: ")
}

func TestMoneyAndDaysThatCannotBe(t *testing.T) {
	with := func(m lab.Money) string {
		return refusedFor(t, lab.Device{ID: "anvil", Name: "anvil", Kind: lab.Server, State: lab.Running, Money: m})
	}
	assert.Contains(t, with(lab.Money{BoughtOn: "2026-02-31"}), "bought_on: ")
	assert.Contains(t, with(lab.Money{WarrantyUntil: "next year"}), "warranty_until: ")
	assert.Contains(t, with(lab.Money{ReturnUntil: "2026-13"}), "return_until: ")
	assert.Contains(t, with(lab.Money{PriceMinor: ptr(int64(-5))}), "price_minor: ")
	assert.Contains(t, with(lab.Money{Got: "stolen"}), "got: ")
	assert.Empty(t, with(lab.Money{BoughtOn: "2024", WarrantyUntil: "2027-03", PriceMinor: ptr(int64(0))}),
		"half a day is known, and what was free")
}

func TestPhotosAndKeptFilters(t *testing.T) {
	good := lab.Photo{ID: "p", Device: "anvil", File: strings.Repeat("a", 64), WidthPX: 640, HeightPX: 480}
	with := func(change func(*lab.Photo)) string {
		p := good
		change(&p)
		return refusedFor(t, p)
	}
	assert.Empty(t, with(func(*lab.Photo) {}))
	assert.Contains(t, with(func(p *lab.Photo) { p.File = "../../secret" }), "file: ")
	assert.Contains(t, with(func(p *lab.Photo) { p.Device = "nobody" }), "device_id: ")
	assert.Contains(t, with(func(p *lab.Photo) { p.WidthPX = 0 }), "width_px: ")
	assert.Contains(t, with(func(p *lab.Photo) { p.Order = -1 }), "order: ")
	assert.Contains(t, with(func(p *lab.Photo) { p.Caption = strings.Repeat("x", 201) }), "caption: ")

	assert.Contains(t, refusedFor(t, lab.Filter{ID: "f"}), "name: ")
	assert.Contains(t, refusedFor(t, lab.Filter{ID: "f", Name: "strong", Columns: make([]string, 61)}), "columns: has 61 columns")
	assert.Contains(t, refusedFor(t, lab.Filter{ID: "f", Name: "strong", Text: "a\nb"}), "text: ")
	assert.Empty(t, refusedFor(t, lab.Filter{ID: "f", Name: "strong", Text: "ram>=64GB", Sort: "-weight_kg"}))
}

func TestPhotosComeInTheirOrder(t *testing.T) {
	file := strings.Repeat("a", 64)
	l, err := lab.New().Apply([]lab.Change{
		{After: lab.Device{ID: "anvil", Name: "anvil", Kind: lab.Server, State: lab.Running}},
		{After: lab.Device{ID: "silo", Name: "silo", Kind: lab.NAS, State: lab.Running}},
		{After: lab.Photo{ID: "c", Device: "anvil", File: file, Order: 1, WidthPX: 1, HeightPX: 1}},
		{After: lab.Photo{ID: "b", Device: "anvil", File: file, Order: 2, WidthPX: 1, HeightPX: 1}},
		{After: lab.Photo{ID: "a", Device: "anvil", File: file, Order: 2, WidthPX: 1, HeightPX: 1}},
		{After: lab.Photo{ID: "d", Device: "silo", File: file, WidthPX: 1, HeightPX: 1}},
	})
	require.NoError(t, err)
	var ids []string
	for _, p := range l.PhotosOf("anvil") {
		ids = append(ids, string(p.ID))
	}
	assert.Equal(t, []string{"c", "a", "b"}, ids)
	assert.Empty(t, l.PhotosOf("nobody"))
}
