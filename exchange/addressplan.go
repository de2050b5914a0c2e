package exchange

import (
	"errors"
	"fmt"
	"io"
	"net/netip"
	"slices"
	"strings"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// AddressPlan is a table with a line for each address: all of them, or those alone
// that are reserved.
type AddressPlan struct{ Reserved bool }

// The columns of such a table. What a line says of the subnet is written and not read:
// it follows from the address.
var addressColumns = []string{"address", "device", "port", "how", "mac", "name", "subnet", "vlan"}

func (of AddressPlan) rows(l *lab.Lab) [][]string {
	p := address.Of(l)
	rows := [][]string{addressColumns}
	for _, h := range p.All() {
		if h.Device == "" || h.Cable != "" || of.Reserved && h.How != lab.ReservedAddress {
			continue
		}
		row := []string{h.Address.Address.String(), rundown.DeviceRef(l, h.Device), lab.PortWords(h.Port), h.How.Words(), h.MAC, h.Name, "", ""}
		if h.Subnet != address.None {
			s := p.Subnets()[h.Subnet]
			row[6] = s.CIDR.String()
			if s.VLAN != nil {
				row[7] = fmt.Sprint(*s.VLAN)
			}
		}
		rows = append(rows, row)
	}
	return rows
}

// WriteCSV writes it as CSV.
func (of AddressPlan) WriteCSV(w io.Writer, l *lab.Lab) error {
	return writeCSV(w, slices.Values(of.rows(l)))
}

// WriteXLSX writes it as a workbook.
func (of AddressPlan) WriteXLSX(w io.Writer, l *lab.Lab) error {
	return writeTextXLSX(w, map[bool]string{true: "Reservations", false: "Addresses"}[of.Reserved], of.rows(l))
}

// Read reads such a table, CSV or a workbook, and works out what each line would
// change: a device gets the address, or what is said of one it has is said anew.
// Addresses without a line stay. The error says what is wrong with the file as a whole.
func (of AddressPlan) Read(l *lab.Lab, data []byte) (Sheet, error) {
	t, err := readTable(data)
	if err != nil {
		return Sheet{}, err
	}
	r := addressRows{of: of, lab: l, named: rundown.DeviceNamed(l), is: l.Changing(), at: map[string]int{}, wide: len(t.names)}
	for i, name := range t.names {
		if name = strings.ToLower(strings.TrimSpace(name)); slices.Contains(addressColumns, name) {
			r.at[name] = i
		}
	}
	for _, name := range addressColumns[:2] {
		if _, ok := r.at[name]; !ok {
			return Sheet{}, fmt.Errorf("the first line has to name the columns address and device; there may be %s besides",
				lab.Listed(addressColumns[2:6], 4))
		}
	}
	s := Sheet{}
	for _, row := range t.rows {
		is := r.row(row)
		if is.Verb == RowRefused {
			s.Refused++
		}
		s.Rows = append(s.Rows, is)
	}
	s.Changes = r.is.Changes()
	return s, nil
}

// addressRows is such a table while it is read.
type addressRows struct {
	of    AddressPlan
	lab   *lab.Lab
	named func(string) (lab.ID, bool)
	is    *lab.Changing
	at    map[string]int
	wide  int
}

func (r *addressRows) row(in line) Row {
	out := Row{Line: in.number, Title: strings.TrimSpace(in.cells[0])}
	changed, say, err := r.take(in.cells, &out)
	switch {
	case err != nil:
		out.Verb, out.Say = RowRefused, err.Error()
	case changed:
		out.Verb, out.Say = RowChanged, say
	default:
		out.Verb = RowSame
	}
	return out
}

func (r *addressRows) take(cells []string, out *Row) (changed bool, say string, err error) {
	if len(cells) != r.wide {
		return false, "", fmt.Errorf("it has %d cells, and the first line names %d columns", len(cells), r.wide)
	}
	cell := func(name string) string {
		if i, ok := r.at[name]; ok {
			return unguarded(strings.TrimSpace(cells[i]))
		}
		return ""
	}
	said := cell("address")
	out.Title = said
	a, err := netip.ParseAddr(said)
	if err != nil {
		return false, "", fmt.Errorf("“%s” is not an address; write one such as 10.20.0.12 or fd20:20::12", said)
	}
	id, ok := r.named(cell("device"))
	if !ok {
		return false, "", fmt.Errorf("there is no one device called “%s”", cell("device"))
	}
	d := r.is.Now(lab.Key{Kind: lab.KindDevice, ID: id}).(lab.Device)
	is := lab.Address{Address: a.Unmap(), How: lab.FixedAddress}
	if r.of.Reserved {
		is.How = lab.ReservedAddress
	}
	i := slices.IndexFunc(d.Addresses, func(o lab.Address) bool { return o.Address == is.Address })
	if i >= 0 {
		is = d.Addresses[i]
	}
	was := is
	if err := r.facts(&is, d, cell); err != nil {
		return false, "", err
	}
	d.Addresses = slices.Clone(d.Addresses)
	if i < 0 {
		d.Addresses = append(d.Addresses, is)
	} else {
		d.Addresses[i] = is
	}
	if err := r.allowed(d); err != nil {
		return false, "", err
	}
	r.is.Put(d)
	say = d.Title() + ": " + rundown.AddressText(is)
	if i >= 0 {
		say += " (was " + rundown.AddressText(was) + ")"
	}
	return i < 0 || is != was, say, nil
}

// facts puts down what a line says of an address; a column that is not there leaves
// what is known.
func (r *addressRows) facts(is *lab.Address, d lab.Device, cell func(string) string) error {
	if _, ok := r.at["port"]; ok {
		is.Port = ""
		if said := cell("port"); said != "" {
			ports := r.lab.PortsOf(d)
			key, found := ports.Find(said)
			if !found && ports.Known {
				return fmt.Errorf("%s has no port “%s”; it has %s", d.Title(), said, ports.Words())
			}
			if is.Port = said; found {
				is.Port = key
			}
		}
	}
	if said := strings.ReplaceAll(strings.ToLower(cell("how")), " ", "_"); said != "" {
		is.How = lab.AddressHow(said)
	}
	if _, ok := r.at["mac"]; ok {
		is.MAC = rundown.AsMAC(cell("mac"))
	}
	if _, ok := r.at["name"]; ok {
		is.Name = cell("name")
	}
	return nil
}

// allowed says what would be wrong with a device.
func (r *addressRows) allowed(d lab.Device) error {
	c, ok := r.lab.Put(d)
	if !ok {
		return nil
	}
	_, err := r.lab.Apply([]lab.Change{c})
	var refused *lab.Refusal
	if errors.As(err, &refused) {
		return errors.New(refused.Faults[0].Say)
	}
	return err
}
