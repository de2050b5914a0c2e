package lab

// Changing collects what is done to records of a lab one after the other, and what
// it comes to for each of them in the end.
type Changing struct {
	lab   *Lab
	after map[Key]Record // nil for what is removed
	order []Key          // as they were first changed
}

// Changing begins a collection, with nothing changed yet.
func (l *Lab) Changing() *Changing { return &Changing{lab: l, after: map[Key]Record{}} }

// Now is a record as it is by now; nil where there is none, or not any more.
func (c *Changing) Now(k Key) Record {
	if r, changed := c.after[k]; changed {
		return r
	}
	return c.lab.Get(k)
}

// Put makes a record say what r says.
func (c *Changing) Put(r Record) { c.set(r.Key(), r) }

// Remove takes a record out.
func (c *Changing) Remove(k Key) { c.set(k, nil) }

func (c *Changing) set(k Key, r Record) {
	if _, changed := c.after[k]; !changed {
		c.order = append(c.order, k)
	}
	c.after[k] = r
}

// Changes are what it comes to: one for each record that is not as it was.
func (c *Changing) Changes() []Change {
	var changes []Change
	for _, k := range c.order {
		if is := (Change{c.lab.Get(k), c.after[k]}); !Same(is.Before, is.After) {
			changes = append(changes, is)
		}
	}
	return changes
}
