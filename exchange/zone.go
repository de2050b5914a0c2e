package exchange

import (
	"fmt"
	"io"
	"net"
	"net/netip"
	"slices"
	"strings"
	"unicode"

	"github.com/miekg/dns"

	"levelstaff/core/address"
	"levelstaff/core/lab"
)

// How long what a zone says may be kept, and how often it is asked for again (RFC 1035,
// 3.3.13; the figures of RIPE-203 for small zones).
const (
	zoneTTL     = 3600
	zoneRefresh = 7200
	zoneRetry   = 3600
	zoneExpire  = 1209600
)

// NoZone is the error of a zone that the lab has not.
type NoZone struct {
	Name string
	Have []string
}

// Error says which there are.
func (n *NoZone) Error() string {
	if len(n.Have) == 0 {
		return fmt.Sprintf("there is no zone %s: no subnet says what its names end in", n.Name)
	}
	return fmt.Sprintf("there is no zone %s; there are %s", n.Name, lab.Listed(n.Have, 8))
}

// WriteZone writes what a name server is to answer for a domain, or for addresses read
// backwards, as a master file (RFC 1035, 5). The serial is to rise with each change. The
// error is a *NoZone where there is no such.
func WriteZone(w io.Writer, l *lab.Lab, name string, serial uint32) error {
	p := address.Of(l)
	z, ok := p.Zone(name)
	if !ok {
		return &NoZone{name, p.ZoneNames()}
	}
	origin := dns.Fqdn(z.Name)
	var b strings.Builder
	b.WriteString(comment(fmt.Sprintf("%s, as written down of %s", z.Name, titled(l.Settings().Name))))
	if z.Unsaid && len(z.Servers) > 0 {
		b.WriteString(comment("No name server is written down; the gateway stands in for one."))
	}
	if len(z.Servers) == 0 {
		b.WriteString(comment("No name server is written down, and no gateway has a name that could stand in for one."))
		z.Servers = []string{"localhost"}
	}
	for _, say := range z.Left {
		b.WriteString(comment(say))
	}
	head := func(owner string, kind uint16) dns.RR_Header {
		return dns.RR_Header{Name: dns.Fqdn(owner), Rrtype: kind, Class: dns.ClassINET, Ttl: zoneTTL}
	}
	records := []dns.RR{&dns.SOA{Hdr: head(z.Name, dns.TypeSOA), Ns: dns.Fqdn(z.Servers[0]), Mbox: "hostmaster." + origin, Serial: serial,
		Refresh: zoneRefresh, Retry: zoneRetry, Expire: zoneExpire, Minttl: zoneTTL}}
	for _, s := range z.Servers {
		records = append(records, &dns.NS{Hdr: head(z.Name, dns.TypeNS), Ns: dns.Fqdn(s)})
	}
	for _, r := range z.Records {
		switch r.Type {
		case "A":
			records = append(records, &dns.A{Hdr: head(r.Owner, dns.TypeA), A: ipOf(r.To)})
		case "AAAA":
			records = append(records, &dns.AAAA{Hdr: head(r.Owner, dns.TypeAAAA), AAAA: ipOf(r.To)})
		case "CNAME":
			records = append(records, &dns.CNAME{Hdr: head(r.Owner, dns.TypeCNAME), Target: dns.Fqdn(r.To)})
		case "PTR":
			records = append(records, &dns.PTR{Hdr: head(r.Owner, dns.TypePTR), Ptr: dns.Fqdn(r.To)})
		}
	}
	for _, r := range records {
		b.WriteString(r.String() + "\n")
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func ipOf(addr string) net.IP {
	a, err := netip.ParseAddr(addr)
	if err != nil {
		return nil
	}
	return a.AsSlice()
}

func titled(name string) string {
	if name == "" {
		return "a lab"
	}
	return name
}

// comment is a line that a reader of the file passes over, whatever is in it.
func comment(say string) string {
	return "; " + strings.Map(func(r rune) rune {
		if unicode.IsControl(r) || r == '\u2028' || r == '\u2029' || r == '\u0085' {
			return ' '
		}
		return r
	}, say) + "\n"
}

// WriteHosts writes the names of all addresses as a hosts file: one address a line, its
// names behind it, the whole one first.
func WriteHosts(w io.Writer, l *lab.Lab) error {
	p := address.Of(l)
	names := map[netip.Addr][]string{}
	add := func(a netip.Addr, whole string) {
		for _, name := range []string{whole, bare(whole, p.Domains())} {
			if !slices.Contains(names[a], name) {
				names[a] = append(names[a], name)
			}
		}
	}
	for _, e := range p.Hosts() {
		add(e.Address, e.Name)
	}
	for _, r := range p.Resolve() {
		for _, a := range r.Addresses {
			add(a, r.Whole)
		}
	}
	var b strings.Builder
	b.WriteString("#" + comment("names of " + titled(l.Settings().Name))[1:])
	b.WriteString("127.0.0.1\tlocalhost\n::1\tlocalhost\n")
	var addrs []netip.Addr
	for a := range names {
		addrs = append(addrs, a)
	}
	slices.SortFunc(addrs, netip.Addr.Compare)
	for _, a := range addrs {
		b.WriteString(a.String() + "\t" + strings.Join(names[a], " ") + "\n")
	}
	_, err := io.WriteString(w, b.String())
	return err
}

// bare is a name without the domain that it ends in.
func bare(name string, domains []string) string {
	for _, d := range domains {
		if short, ok := strings.CutSuffix(name, "."+d); ok && !strings.Contains(short, ".") {
			return short
		}
	}
	return name
}
