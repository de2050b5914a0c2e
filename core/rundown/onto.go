package rundown

import (
	"errors"
	"regexp"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// Onto carries a plan over from the lab that its text was written from to the lab
// as it is now. What others changed meanwhile stays; what does not go together
// with that is left out, and is a mistake of the line that asks for it. A fact that
// both set is a clash: it becomes what whose says, and is left out while nothing is
// said.
func (p Plan) Onto(was, now *lab.Lab, whose Whose) Plan {
	lines := map[lab.Key]int{}
	for n, keys := range p.Lines {
		for _, key := range keys {
			if first, told := lines[key]; !told || n < first {
				lines[key] = n
			}
		}
	}
	p.Mistakes = slices.Clone(p.Mistakes)
	wrong := func(key lab.Key, say string) {
		if len(p.Mistakes) == maxMistakes {
			p.More++
			return
		}
		p.Mistakes = append(p.Mistakes, text.Mistake{Line: max(1, lines[key]), Column: 1, EndColumn: 2, Say: say})
	}
	defer func() { inOrder(p.Mistakes) }()
	var wanted []lab.Change
	for _, c := range p.Changes {
		if is := now.Get(c.Key()); c.After == nil && is != nil && !now.Untouched(c) {
			wrong(c.Key(), is.Title()+" changed meanwhile, so it stays; take it out again if it is to go")
			continue
		}
		wanted = append(wanted, c)
	}
	changes, over := now.RebaseAll(wanted)
	for _, o := range over {
		at := slices.IndexFunc(wanted, func(c lab.Change) bool { return c.Key() == o.Key })
		if o.Was == nil || o.Now == nil {
			wrong(o.Key, o.Error())
			continue
		}
		mine, _ := now.RebaseOver(wanted[at], true)
		of := Clash{Record: o.Key, Title: titleIn(now, o.Now)}
		p.Clashes = append(p.Clashes, factsThatClash(of, Saying(was, o.Was), Saying(now, o.Now), Saying(p.Lab, mine.After), o.Fields)...)
		if c, ok := now.RebaseOver(wanted[at], whose == Mine); ok {
			changes = append(changes, c)
		}
	}
	const rounds = 20 // each leaves out one change at least
	for range rounds {
		next, err := now.Apply(changes)
		if err == nil {
			p.Lab, p.Changes = next, changes
			return p
		}
		out := map[lab.Key]bool{}
		var refusal *lab.Refusal
		if errors.As(err, &refusal) {
			for _, f := range refusal.Faults {
				wrong(f.Key, faultWords(f))
				out[f.Key] = true
			}
		}
		changes = slices.DeleteFunc(changes, func(c lab.Change) bool { return out[c.Key()] })
	}
	p.Lab, p.Changes = now, nil
	return p
}

// Unread are the lines of the plan's text that have mistakes, each under the rack
// or place that it is under there: what is left to mend once the others are loaded.
func (p Plan) Unread(whole string) string {
	wrong := map[int]bool{}
	for _, m := range p.Mistakes {
		wrong[m.Line] = true
	}
	for _, list := range p.folds {
		if slices.ContainsFunc(list, func(f fold) bool { return wrong[f.line] }) {
			for _, f := range list {
				wrong[f.line] = true
			}
		}
	}
	var out []string
	head, under := "", ""
	for i, line := range strings.Split(whole, "\n") {
		opens := section.FindString(line)
		if opens != "" {
			head = opens
		}
		if !wrong[i+1] {
			continue
		}
		if opens == "" && head != under {
			out = append(out, "", head)
		}
		under = head
		out = append(out, line)
	}
	if len(out) == 0 {
		return ""
	}
	return strings.Join(out, "\n") + "\n"
}

// section is what a line begins with that others may be under, with its name.
var section = regexp.MustCompile(`(?i)^(?:rack|place)\s+"[^"]*"`)
