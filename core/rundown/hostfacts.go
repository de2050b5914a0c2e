package rundown

import (
	"regexp"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// hostingFacts are what a device or a guest runs.
func hostingFacts(of scope) []fact {
	word := func(name, field, example string, also []string, at func(*lab.Device) *string, write func(string) string) fact {
		return written(of, name, field, append([]string{name}, also...), example, at, write).optional().under(Within)
	}
	return []fact{
		choice(of, "runs", "runs", func(d *lab.Device) *lab.Engine { return &d.Runs }, []option[lab.Engine]{
			{lab.Hypervisor, "runs hypervisor", []string{"hypervisor", "a hypervisor", "runs a hypervisor", "runs vms", "also runs a hypervisor"}},
			{lab.Containers, "runs containers", []string{"containers", "container engine", "a container engine", "runs a container engine",
				"runs container engine",
				"also runs containers", "also runs a container engine"}},
			{lab.PlainMachine, "runs plain", []string{"plain system", "runs a plain system", "runs plain system", "runs nothing but its system"}},
		}).optional().under(Within),
		word("system", "system", `system "Tarn"`, nil, func(d *lab.Device) *string { return &d.System }, text.Quote),
		word("system version", "system_version", `system version 9.1`, []string{"version", "release"},
			func(d *lab.Device) *string { return &d.Version }, versionText),
		day(of, "supported until", "supported_until", []string{"supported until", "support until", "supported to"}, "supported until 2027-06",
			func(d *lab.Device) *lab.When { return &d.Supported }).optional().under(Within),
		wholeMeasure(of, "memory it keeps", "keeps_bytes", text.Memory, []string{"keeps", "keeps for itself", "keeps back", "reserves"},
			"keeps 6GB", "keeps %s", func(d *lab.Device) **int64 { return &d.Keeps }).optional().under(Within),
	}
}

var versionWord = regexp.MustCompile(`^v?[0-9][0-9A-Za-z.+_-]*$`)

// upper matches a word that may be the name of a system, unlike the from of “runs from 8”.
var upper = regexp.MustCompile(`^\p{Lu}\pL+$`)

func versionText(v string) string {
	if versionWord.MatchString(v) {
		return v
	}
	return text.Quote(v)
}

// systemSaid are the facts in one phrase of what a device runs, what that is called, its
// version and how long it is supported: runs hypervisor "Tarn" 9.1 until 2027-06. nil
// where the phrase says something else.
func (t *thing) systemSaid(phrase []text.Token) []said {
	if t.kind != lab.KindDevice || len(phrase) < 2 || !phrase[0].Is("runs") {
		return nil
	}
	var list []said
	say := func(field string, v any, from, to int) {
		f := indexes[t.scope()].byField[field]
		list = append(list, said{fact: f, value: v, col: phrase[from].Col, end: phrase[to-1].End})
	}
	at := 1
	for n := min(4, len(phrase)); n > 1; n-- {
		if s, err := readFact(t.scope(), phrase[:n]); err == nil && s.fact.field == "runs" {
			list, at = append(list, s), n
			break
		}
	}
	named, versioned := false, false
	for at < len(phrase) {
		is := phrase[at]
		switch {
		case is.Is("until") || is.Is("supported") || is.Is("support"):
			from := at
			for at++; at < len(phrase)-1 && (phrase[at].Is("until") || phrase[at].Is("to")); at++ {
			}
			w, err := readWhen(text.Joined(phrase[at:]))
			if err != nil {
				return nil
			}
			say("supported_until", w, from, len(phrase))
			at = len(phrase)
		case (is.Is("version") || is.Is("release")) && at+1 < len(phrase) && !versioned:
			say("system_version", strings.TrimSpace(phrase[at+1].Text), at, at+2)
			versioned = true
			at += 2
		case versionWord.MatchString(is.Text) && !versioned && len(list) > 0:
			say("system_version", is.Text, at, at+1)
			versioned = true
			at++
		case (is.Kind == text.Quoted || len(list) > 0 || upper.MatchString(is.Text)) && !named && !versioned:
			say("system", strings.TrimSpace(is.Text), at, at+1)
			named = true
			at++
		default:
			return nil
		}
	}
	return list
}
