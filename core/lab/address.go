package lab

import (
	"net/netip"
	"regexp"
	"slices"
	"strings"

	"golang.org/x/net/idna"
)

// Address is one address that a device answers at, on one of its ports or for
// all of it.
type Address struct {
	Address netip.Addr `json:"address" required:"true"`
	Port    string     `json:"port,omitempty" maxLength:"60" description:"The port's key, such as 3; absent while it is not said which"`
	How     AddressHow `json:"how" required:"true"`
	MAC     string     `json:"mac,omitempty" maxLength:"17" description:"Of a reserved one: what it is reserved for"`
	Name    string     `json:"name,omitempty" maxLength:"253" description:"A name of its own, beside the device's"`
}

// AddressHow is how a device comes by an address.
type AddressHow string

// It is set on the device, or handed out to it: always the same one, or whichever
// is free.
const (
	FixedAddress     AddressHow = "fixed"
	ReservedAddress  AddressHow = "reserved"
	HandedOutAddress AddressHow = "handed_out"
)

// AddressHows lists them.
func AddressHows() []AddressHow {
	return []AddressHow{FixedAddress, ReservedAddress, HandedOutAddress}
}

// Enum lists them for the published schema.
func (AddressHow) Enum() []any { return anys(AddressHows()) }

// Words is how as one says it of an address.
func (h AddressHow) Words() string { return strings.ReplaceAll(string(h), "_", " ") }

// Addressed is what has addresses.
type Addressed struct {
	Addresses []Address `json:"addresses,omitempty" nullable:"false" maxItems:"64"`
}

const maxAddresses = 64

func (a Addressed) check(f *faults) {
	if len(a.Addresses) > maxAddresses {
		f.add("addresses", "has %d entries; at most %d are allowed", len(a.Addresses), maxAddresses)
	}
	for i, is := range a.Addresses {
		f.address("addresses", is.Address)
		f.line("addresses", is.Port, 60)
		oneOf(f, "addresses", is.How, AddressHows())
		f.mac("addresses", is.MAC)
		f.hostName("addresses", is.Name)
		if slices.ContainsFunc(a.Addresses[:i], func(o Address) bool { return o.Address == is.Address && o.Port == is.Port }) {
			f.add("addresses", "%s is listed twice; once will do", is.Address)
		}
	}
}

// IsPublic reports whether an address may be reached from anywhere: it is none of those
// that are for use within a house, among a provider's customers, or in examples (RFC
// 1918, 4193, 6598, 5737, 3849).
func IsPublic(a netip.Addr) bool {
	return a.IsGlobalUnicast() && !a.IsPrivate() &&
		!slices.ContainsFunc(notPublic, func(p netip.Prefix) bool { return p.Contains(a) })
}

var notPublic = []netip.Prefix{netip.MustParsePrefix("100.64.0.0/10"), netip.MustParsePrefix("192.0.2.0/24"),
	netip.MustParsePrefix("198.51.100.0/24"), netip.MustParsePrefix("203.0.113.0/24"), netip.MustParsePrefix("2001:db8::/32")}

// withoutPublic is a device without the addresses at which anybody can reach it.
func (d Device) withoutPublic() Device {
	if !slices.ContainsFunc(d.Addresses, func(a Address) bool { return IsPublic(a.Address) }) {
		return d
	}
	d.Addresses = slices.DeleteFunc(slices.Clone(d.Addresses), func(a Address) bool { return IsPublic(a.Address) })
	if len(d.Addresses) == 0 {
		d.Addresses = nil
	}
	return d
}

// address takes an address that a host may have. The zero one is refused.
func (f *faults) address(field string, a netip.Addr) {
	switch {
	case !a.IsValid():
		f.add(field, "an address cannot be empty; write one such as 10.20.0.12 or fd20:20::12")
	case a.Zone() != "":
		f.add(field, "%s names an interface behind %%; write the address alone", a)
	case a.Is4In6():
		f.add(field, "%s is an IPv4 address written as an IPv6 one; write %s", a, a.Unmap())
	case a.IsUnspecified(), a.IsMulticast(), a == netip.AddrFrom4([4]byte{255, 255, 255, 255}):
		f.add(field, "no single device has the address %s", a)
	}
}

func (f *faults) mac(field, mac string) {
	if mac != "" && !macForm.MatchString(mac) {
		f.add(field, "%s is not a MAC address; write one such as 02:00:5e:00:00:01", quote(mac))
	}
}

// prefix takes a subnet: a network's own address and how many bits it fixes.
func (f *faults) prefix(field string, p netip.Prefix) {
	switch {
	case !p.IsValid():
		f.add(field, "a subnet cannot be empty; write one such as 10.20.0.0/24 or fd20:20::/64")
	case p.Addr().Is4In6():
		f.add(field, "%s is an IPv4 subnet written as an IPv6 one; write it as IPv4", p)
	case p != p.Masked():
		f.add(field, "%s is an address with the size of its subnet; write the subnet itself, %s", p, p.Masked())
	}
}

// MaxName is the longest a name may be, and MaxLabel a piece of it between dots
// (RFC 1035, 2.3.4).
const (
	MaxName  = 253
	MaxLabel = 63
)

// plainName is a name that is written as the domain name system has it.
var plainName = regexp.MustCompile(`^[a-z0-9]([a-z0-9-]*[a-z0-9])?(\.[a-z0-9]([a-z0-9-]*[a-z0-9])?)*$`)

// DNSName is a name as the domain name system has it, in small letters and with
// what is beyond ASCII as RFC 5891 writes it: "küche" is xn--kche-0ra. bad says
// what is wrong with one that cannot be one, "" where nothing is.
func DNSName(name string) (ascii, bad string) {
	name = strings.TrimSuffix(name, ".")
	if plainName.MatchString(name) && len(name) <= MaxLabel {
		return name, ""
	}
	ascii, err := idna.New(idna.MapForLookup(), idna.Transitional(false), idna.StrictDomainName(false)).ToASCII(name)
	switch {
	case strings.ContainsAny(name, " \t"):
		return "", quote(name) + " has a space in it, which a name cannot have; write " + quote(strings.Join(strings.Fields(name), "-"))
	case err != nil || strings.HasPrefix(name, "."):
		return "", quote(name) + " is not a name; write letters, digits and hyphens, with dots between, such as library or library.home.arpa"
	case len(ascii) > MaxName:
		return "", "a name is at most 253 characters long, and this one is " + itoa(len(ascii))
	}
	for label := range strings.SplitSeq(ascii, ".") {
		switch {
		case label == "":
			return "", quote(name) + " has two dots with nothing between them"
		case len(label) > MaxLabel:
			return "", "a piece of a name between dots is at most 63 characters long, and " + quote(label) + " is " + itoa(len(label))
		case strings.Trim(label, "abcdefghijklmnopqrstuvwxyz0123456789-_") != "" || label[0] == '-' || label[len(label)-1] == '-':
			return "", quote(name) + " is not a name; write letters, digits and hyphens, with dots between, such as library or library.home.arpa"
		}
	}
	return ascii, ""
}

// hostName takes a name that the domain name system can have, or none.
func (f *faults) hostName(field, name string) {
	if name == "" {
		return
	}
	if _, bad := DNSName(name); bad != "" {
		f.add(field, "%s", bad)
	}
}

// managementNames are what ports for remote management are called.
var managementNames = []string{"mgmt", "management", "bmc", "oob"}

// ForManagement reports whether a port of that name is there to look after its device.
func ForManagement(port string) bool { return slices.Contains(managementNames, FoldName(port)) }
