package exchange

import (
	"errors"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

// Taking says how a file of devices or parts is taken.
type Taking struct {
	// Columns says for each column of the file which of ours it is, by name,
	// "" for one that is left out; nil goes by the names in the file.
	Columns []string
	// Guess takes names that are not ours for what they seem to say, and leaves
	// out those that say nothing; otherwise they are refused.
	Guess bool
	// Kind is what something new is where the file does not say; "" refuses it.
	Kind string
}

// FileColumn is a column of a file, and what it is read as.
type FileColumn struct {
	Name   string `json:"name" required:"true" description:"What the file calls it"`
	Field  string `json:"field,omitempty" description:"Which of ours it is read as; it is left out where there is none"`
	Unit   string `json:"unit,omitempty" description:"The unit that its name says its figures are in"`
	Sample string `json:"sample,omitempty" description:"The first that stands in it"`
}

// FileTarget is a column that a file can have.
type FileTarget struct {
	Name  string `json:"name" required:"true"`
	Title string `json:"title" required:"true"`
}

// Targets lists the columns that a file can have.
func (of *Listing) Targets() []FileTarget {
	var list []FileTarget
	for _, c := range of.columns {
		list = append(list, FileTarget{c.name, c.title})
	}
	return list
}

// columns finds out what each column of a file is. The error is about the
// first line as a whole, or names the column.
func (t lines) columns(of *Listing, how Taking) ([]FileColumn, error) {
	if how.Columns != nil && len(how.Columns) != len(t.names) {
		return nil, fmt.Errorf("columns of the file: %d, mapped: %d", len(t.names), len(how.Columns))
	}
	list := make([]FileColumn, len(t.names))
	for i, name := range t.names {
		c := FileColumn{Name: strings.TrimSpace(name), Sample: t.sample(i)}
		switch own := of.own(c.Name); {
		case how.Columns != nil:
			c.Field = how.Columns[i]
			if c.Field != "" && of.index(c.Field) < 0 {
				return nil, fmt.Errorf("there is no column %q to read “%s” as", c.Field, c.Name)
			}
		case own != "":
			c.Field = own
		case how.Guess:
			if c.Field = of.guess(c.Name); slices.ContainsFunc(list[:i], func(o FileColumn) bool { return o.Field == c.Field }) {
				c.Field = "" // the first one has it
			}
		case c.Name == "":
			return nil, fmt.Errorf("column %d has no name in the first line", i+1)
		default:
			return nil, fmt.Errorf("there is no column %q; there are %s", name, of.names())
		}
		if c.Field != "" && of.own(c.Name) != c.Field {
			c.Unit = unitIn(c.Name, of.columns[of.index(c.Field)].field)
		}
		if before := slices.IndexFunc(list[:i], func(o FileColumn) bool { return c.Field != "" && o.Field == c.Field }); before >= 0 {
			if own := of.own(c.Name); own != "" && own == of.own(list[before].Name) {
				return nil, fmt.Errorf("there are two columns %q", c.Name)
			}
			return nil, fmt.Errorf("both “%s” and “%s” are taken for %s; leave one out", list[before].Name, c.Name, c.Field)
		}
		list[i] = c
	}
	if of == Devices && how.Guess && how.Columns == nil {
		t.unitsOf(list)
	}
	if of == Devices && !slices.ContainsFunc(list, func(c FileColumn) bool { return c.Field == "id" || c.Field == "name" }) && !how.Guess {
		return nil, errors.New("a column id or name has to say which device each line is about")
	}
	return list, nil
}

var (
	aUnit    = regexp.MustCompile(`(?i)^u?\s*\d{1,2}(\s*[-–]\s*\d{1,2})?\s*u?$`)
	unitHigh = regexp.MustCompile(`(?i)^\d{1,2}\s*(r?u)?$`)
)

// unitsOf tells apart what is measured in units: a column U beside one for the rack
// says where, and a height such as 2U or 2, which no device has in mm, says how many.
func (t lines) unitsOf(list []FileColumn) {
	at := func(field string) int {
		return slices.IndexFunc(list, func(c FileColumn) bool { return c.Field == field })
	}
	all := func(i int, is *regexp.Regexp) bool {
		some := false
		for _, row := range t.rows {
			if i < len(row.cells) && strings.TrimSpace(row.cells[i]) != "" {
				if some = true; !is.MatchString(strings.TrimSpace(row.cells[i])) {
					return false
				}
			}
		}
		return some
	}
	if at("rack") >= 0 && at("unit") < 0 {
		for _, field := range []string{"takes_u", "where"} {
			i := at(field)
			if i >= 0 && all(i, aUnit) && (field == "where" || slices.Contains([]string{"u", "ru"}, plainName(list[i].Name))) {
				list[i].Field = "unit"
				break
			}
		}
	}
	if i := at("height_mm"); i >= 0 && list[i].Unit == "" && at("takes_u") < 0 && all(i, unitHigh) {
		list[i].Field = "takes_u"
	}
}

// sample is the first text in a column.
func (t lines) sample(i int) string {
	for _, row := range t.rows {
		if i < len(row.cells) && strings.TrimSpace(row.cells[i]) != "" {
			r := []rune(strings.TrimSpace(row.cells[i]))
			return string(r[:min(len(r), 40)])
		}
	}
	return ""
}

// deviceSayings are what spreadsheets call what they say of devices, for each
// of our columns.
var deviceSayings = map[string][]string{
	"name":              {"device", "device name", "host", "hostname", "host name", "label", "item", "asset", "thing", "machine", "equipment"},
	"kind":              {"type", "category", "device type", "class", "sort"},
	"state":             {"status", "condition"},
	"where":             {"location", "position", "place", "stands", "located"},
	"rack":              {"cabinet", "rack name", "in rack"},
	"unit":              {"rack unit", "rack position", "u position", "position u", "ru position", "start u", "lowest unit", "at u"},
	"takes_u":           {"u", "ru", "rack units", "u size", "size u", "height u", "units high"},
	"purpose":           {"role", "use", "used for", "function", "description", "what for"},
	"why":               {"reason"},
	"notes":             {"note", "comment", "comments", "remark", "remarks"},
	"height_mm":         {"h"},
	"width_mm":          {"w"},
	"depth_mm":          {"d", "length"},
	"weight_kg":         {"mass", "kg", "lb"},
	"maker":             {"make", "manufacturer", "brand", "vendor", "made by"},
	"model":             {"model number", "product", "part number"},
	"serial":            {"sn", "s/n", "serial no", "serialnumber", "service tag"},
	"price_minor":       {"cost", "paid", "purchase price", "bought for"},
	"bought_on":         {"purchased", "purchase date", "date bought", "bought", "date of purchase", "acquired"},
	"got":               {"bought as", "source", "new or used"},
	"warranty_until":    {"warranty", "warranty end", "warranty expires", "warranty expiry", "guarantee"},
	"return_until":      {"return by"},
	"remote_address":    {"management address", "management ip", "remote address", "bmc"},
	"web_page":          {"url", "web", "web interface", "link"},
	"idle_w":            {"idle", "idle power", "power idle"},
	"most_w":            {"max power", "power max", "maximum power", "power"},
	"typical_w":         {"typical power", "power typical", "average power"},
	"noise_db":          {"loudness", "sound"},
	"sockets":           {"cpu sockets"},
	"memory_slots":      {"dimm slots", "ram slots"},
	"memory_type":       {"ram type"},
	"bays":              {"drive slots", "disk bays"},
	"yearly":            {"subscription", "licence", "license", "licences"},
	"memory_most_bytes": {"max memory", "max ram"},
}

// partSayings are what they call what they say of parts.
var partSayings = map[string][]string{
	"name":           {"label", "item", "asset"},
	"kind":           {"type", "category", "part"},
	"state":          {"status", "condition", "health"},
	"device":         {"host", "hostname", "server", "machine", "installed in", "location", "where"},
	"seat":           {"bay", "slot", "socket", "position", "cage"},
	"size_bytes":     {"size", "capacity"},
	"hours":          {"power on hours", "hours run"},
	"maker":          {"make", "manufacturer", "brand", "vendor"},
	"model":          {"model number", "part number"},
	"serial":         {"sn", "s/n", "serial no", "serialnumber"},
	"price_minor":    {"cost", "paid", "purchase price"},
	"bought_on":      {"purchased", "purchase date", "date bought", "bought"},
	"warranty_until": {"warranty", "warranty end", "warranty expires", "guarantee"},
	"notes":          {"note", "comment", "comments", "remarks"},
	"medium":         {"drive type", "media"},
	"interface":      {"bus", "connection"},
	"memory_type":    {"ram type"},
	"form":           {"form factor"},
}

// guess finds the column of ours that a name most likely means, "" if it is
// like none.
func (of *Listing) guess(name string) string {
	said := plainName(name)
	if said == "" {
		return ""
	}
	known := of.words()
	if is, ok := known[said]; ok {
		return is
	}
	if len(said) < 4 {
		return "" // anything short is close to anything short
	}
	return known[text.Nearest(said, slices.Collect(maps.Keys(known)))]
}

// wordsOf makes the words that columns go by, each with the column it means.
func wordsOf(columns []column, sayings map[string][]string) map[string]string {
	known := map[string]string{}
	for _, c := range columns {
		for _, word := range slices.Concat([]string{plainName(c.name), plainName(c.title)}, sayings[c.name]) {
			if _, taken := known[word]; !taken {
				known[word] = c.name
			}
		}
	}
	return known
}

var (
	inBrackets = regexp.MustCompile(`[(\[](.*?)[)\]]`)
	between    = regexp.MustCompile(`[\s_.:#-]+`)
	lastWord   = regexp.MustCompile(`[\s_]([^\s_]+)$`)
	bareFigure = regexp.MustCompile(`^[0-9][0-9.,]*$`)
	currency   = regexp.MustCompile(`^[A-Z]{3}$`)
)

// plainName is a column's name without its unit, in lower case.
func plainName(name string) string {
	name = inBrackets.ReplaceAllString(name, "")
	if last := lastWord.FindStringSubmatch(strings.TrimSpace(name)); last != nil && isUnit(last[1]) {
		name = strings.TrimSuffix(strings.TrimSpace(name), last[0])
	}
	return strings.TrimSpace(between.ReplaceAllString(strings.ToLower(name), " "))
}

// unitIn is the unit that a column's name says its figures are in, such as lb
// in "Weight (lb)". One in brackets counts also where the field cannot be in
// it: its figures are refused then, rather than taken for something else.
func unitIn(name, field string) string {
	if said := inBrackets.FindStringSubmatch(name); said != nil {
		if word := strings.TrimSpace(said[1]); isUnit(word) || currency.MatchString(word) {
			return word
		}
	}
	if last := lastWord.FindStringSubmatch(strings.TrimSpace(name)); last != nil && takesUnit(field, last[1]) {
		return last[1]
	}
	return ""
}

// measured are a field of each dimension.
var measured = []string{"takes_u", "height_mm", "weight_kg", "idle_w", "noise_db", "temp_to_c", "memory_most_bytes"}

// empty is a lab to try a figure in.
var empty = lab.New()

func isUnit(word string) bool {
	return slices.ContainsFunc(measured, func(field string) bool { return takesUnit(field, word) })
}

func takesUnit(field, unit string) bool {
	if !slices.Contains(measured, field) && !unitName.MatchString(field) || bareFigure.MatchString(unit) {
		return false
	}
	_, err := rundown.SetFact(empty, lab.Device{ID: "x"}, field, "1"+unit, "")
	return err == nil
}
