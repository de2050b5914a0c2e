package reach

import (
	"slices"

	"levelstaff/core/lab"
)

// OfDevice are what a device reaches and what reaches it, as far as anything is said
// of it or of the networks that it is in: first what is said of the device itself.
type OfDevice struct {
	Out, In []Cell
}

// OfDevice works that out for one.
func (r *Routing) OfDevice(d lab.Device) OfDevice {
	own := lab.EndpointOf(d.Key())
	homes := []lab.Endpoint{own}
	at := r.placeOfDevice(d)
	for _, e := range r.Endpoints() {
		p := place{}
		if e.Kind == lab.EndpointKind(lab.KindVLAN) || e.Kind == lab.EndpointKind(lab.KindSubnet) {
			p = r.placeOf(e)
		}
		if slices.ContainsFunc(p.segments, func(s int) bool { return slices.Contains(at.segments, s) }) {
			homes = append(homes, e)
		}
	}
	var is OfDevice
	seen := map[[2]lab.Endpoint]bool{} // the other side, and none before it for what comes in
	none := lab.Endpoint{}
	for _, home := range homes {
		for rule := range lab.Each[lab.Rule](r.lab) {
			switch {
			case rule.From == nil || rule.To == nil:
			case *rule.From == home && !seen[[2]lab.Endpoint{*rule.To}]:
				seen[[2]lab.Endpoint{*rule.To}] = true
				is.Out = append(is.Out, r.Cell(*rule.From, *rule.To))
			case *rule.To == home && !seen[[2]lab.Endpoint{none, *rule.From}]:
				seen[[2]lab.Endpoint{none, *rule.From}] = true
				is.In = append(is.In, r.Cell(*rule.From, *rule.To))
			}
		}
	}
	return is
}
