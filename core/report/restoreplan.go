package report

import (
	"cmp"
	"fmt"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/storage"
)

// RestorePlan is how to get everything back, as Markdown: what matters most first, each
// dataset with its copies in the order in which one would reach for them. What has no
// copy is told apart.
func RestorePlan(a Ask) string {
	s := storage.Of(a.Lab)
	var b strings.Builder
	fmt.Fprintf(&b, "# Getting data back\n\n%s, %s\n", escaped(cmp.Or(a.Lab.Settings().Name, "the lab")), a.Day)
	var none []string
	for _, d := range s.Data() {
		copies, _, _ := d.Count()
		if copies < 2 {
			none = append(none, "- "+dataWords(a.Lab, d))
			continue
		}
		fmt.Fprintf(&b, "\n## %s\n\n%s\n\n", escaped(d.Name), dataWords(a.Lab, d))
		n := 0
		for _, c := range d.Copies {
			if c.Counts() {
				n++
				fmt.Fprintf(&b, "%d. %s\n", n, copyWords(a, d, c))
			}
		}
		if d.Restored() == "" {
			b.WriteString("\nNobody ever tried to get it back: try one file of it today.\n")
		}
	}
	if len(none) > 0 {
		fmt.Fprintf(&b, "\n## Without a copy\n\n%s\n", strings.Join(none, "\n"))
	}
	if len(s.Data()) == 0 {
		b.WriteString("\nNo dataset is written down yet.\n")
	}
	return b.String()
}

// dataWords is a dataset with what it is on and how large it is.
func dataWords(l *lab.Lab, d *storage.Data) string {
	said := []string{escaped(d.Name) + " on " + escaped(l.HolderWords(d.On))}
	if d.Bytes != nil {
		said = append(said, storage.Size(*d.Bytes))
	}
	if d.Worth != "" {
		said = append(said, string(d.Worth))
	}
	return strings.Join(said, ", ")
}

// copyWords is a copy with all that one needs to know to get something back from it.
func copyWords(a Ask, d *storage.Data, c storage.Held) string {
	said := []string{"From **" + escaped(a.Lab.HolderWords(&c.Holder)) + "**"}
	if c.Outside {
		said = append(said, "outside the house")
	}
	if place, ok := lab.Find[lab.Place](a.Lab, c.Copy.At); ok {
		said = append(said, "kept at "+escaped(place.Name))
	}
	switch age := d.Age(c, a.Day); {
	case age != nil:
		said = append(said, "old by "+storage.Ago(*age))
	case c.AtMostH != nil:
		said = append(said, "old by at most "+storage.Ago(*c.AtMostH))
	default:
		said = append(said, "of unknown age")
	}
	if t, ok := lab.Find[lab.Tunnel](a.Lab, c.Copy.Via); ok {
		said = append(said, "through the tunnel "+escaped(t.Name))
	}
	switch {
	case c.Copy.KeyAt != "":
		said = append(said, "encrypted: "+escaped(c.Copy.KeyAt))
	case c.Copy.Coded == lab.Encrypted:
		said = append(said, "encrypted, and nobody wrote down where the key is")
	}
	if c.Copy.Restored != "" {
		said = append(said, "last restored "+string(c.Copy.Restored))
	}
	return strings.Join(said, ", ")
}
