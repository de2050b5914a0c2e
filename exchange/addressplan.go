package exchange

import (
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
	return readLines(l, data, addressColumns[:6], addressColumns[:2], of.take)
}

func (of AddressPlan) take(r *planLines, cell cells, out *Row) (changed bool, say string, err error) {
	said := cell("address")
	out.Title = said
	a, err := netip.ParseAddr(said)
	if err != nil {
		return false, "", fmt.Errorf("“%s” is not an address; write one such as 10.20.0.12 or fd20:20::12", said)
	}
	d, err := r.device(cell("device"))
	if err != nil {
		return false, "", err
	}
	is := lab.Address{Address: a.Unmap(), How: lab.FixedAddress}
	if of.Reserved {
		is.How = lab.ReservedAddress
	}
	i := slices.IndexFunc(d.Addresses, func(o lab.Address) bool { return o.Address == is.Address })
	if i >= 0 {
		is = d.Addresses[i]
	}
	was := is
	if err := addressFacts(r, &is, d, cell); err != nil {
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

// addressFacts puts down what a line says of an address; a column that is not there leaves
// what is known.
func addressFacts(r *planLines, is *lab.Address, d lab.Device, cell cells) error {
	if r.has("port") {
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
	if r.has("mac") {
		is.MAC = rundown.AsMAC(cell("mac"))
	}
	if r.has("name") {
		is.Name = cell("name")
	}
	return nil
}
