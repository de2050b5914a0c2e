package storage

import (
	"slices"

	"levelstaff/core/lab"
)

// Behind reports whether a device is behind another one by cables for drives, from shelf
// to shelf.
func (s *Storage) Behind(host, shelf lab.ID) bool {
	seen, queue := map[lab.ID]bool{host: true}, []lab.ID{host}
	for ; len(queue) > 0; queue = queue[1:] {
		for _, next := range s.cabled()[queue[0]] {
			if next == shelf {
				return true
			}
			if !seen[next] {
				seen[next] = true
				queue = append(queue, next)
			}
		}
	}
	return false
}

// driveCables are the devices that cables for drives join: those of that kind, and those
// in such ports.
func driveCables(l *lab.Lab) map[lab.ID][]lab.ID {
	joined := map[lab.ID][]lab.ID{}
	for c := range lab.Each[lab.Cable](l) {
		if c.A == nil || c.B == nil || c.State != lab.CableInUse {
			continue
		}
		if slices.Contains([]lab.CableKind{"sas", "sata", "usb", "thunderbolt"}, c.Kind) || isForDrives(l, c.A) || isForDrives(l, c.B) {
			joined[c.A.Device] = append(joined[c.A.Device], c.B.Device)
			joined[c.B.Device] = append(joined[c.B.Device], c.A.Device)
		}
	}
	return joined
}

func isForDrives(l *lab.Lab, e *lab.End) bool {
	d, _ := lab.Find[lab.Device](l, e.Device)
	ports := l.PortsOf(d)
	i, ok := ports.Index(e.Port)
	return ok && (ports.At(i).Family == lab.Storage || ports.At(i).Family == lab.USB)
}
