package report

import (
	"strconv"
	"strings"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/core/storage"
)

// Shares are the shares of a lab with who mounts them.
type Shares struct {
	Shares []ShareRow `json:"shares" required:"true" nullable:"false"`
}

// ShareRow is a share.
type ShareRow struct {
	Name      string            `json:"name" required:"true"`
	ID        lab.ID            `json:"id" required:"true"`
	Dataset   string            `json:"dataset" required:"true"`
	DatasetID lab.ID            `json:"dataset_id" required:"true"`
	Device    string            `json:"device,omitempty" description:"That gives it"`
	DeviceID  lab.ID            `json:"device_id,omitempty"`
	Over      lab.ShareProtocol `json:"protocol,omitempty"`
	By        lab.Mounting      `json:"mounted_by,omitempty"`
	Mounts    []MountRow        `json:"mounts" required:"true" nullable:"false"`
}

// MountRow is a device that mounts a share, and the widest way there.
type MountRow struct {
	Device   string   `json:"device" required:"true"`
	DeviceID lab.ID   `json:"device_id" required:"true"`
	VLAN     *int     `json:"vlan,omitempty" description:"That reaches both; absent where none is known to"`
	SpeedMb  *int     `json:"speed_mb,omitempty" description:"For one flow; absent while unknown"`
	AtMost   bool     `json:"at_most,omitempty"`
	HeldBy   []string `json:"held_by" required:"true" nullable:"false"`
	Hops     []string `json:"hops" required:"true" nullable:"false" description:"The devices on the way"`
	Why      string   `json:"why,omitempty" description:"Why there is no way"`
}

func sharesOf(a Ask) (Shares, error) {
	out := Shares{[]ShareRow{}}
	s := storage.Of(a.Lab)
	gives := map[lab.ID]lab.ID{}
	for _, d := range s.Data() {
		gives[d.ID] = d.Original.Device()
	}
	for share := range lab.Each[lab.NetworkShare](a.Lab) {
		d, _ := lab.Find[lab.Dataset](a.Lab, share.Dataset)
		from, found := lab.Find[lab.Device](a.Lab, gives[share.Dataset])
		row := ShareRow{Name: share.Name, ID: share.ID, Dataset: d.Title(), DatasetID: d.ID, Over: share.Over, By: share.By, Mounts: []MountRow{}}
		if found {
			row.Device, row.DeviceID = from.Title(), from.ID
		}
		for _, id := range share.To {
			to, _ := lab.Find[lab.Device](a.Lab, id)
			m := MountRow{Device: to.Title(), DeviceID: id, HeldBy: []string{}, Hops: []string{}}
			switch {
			case !found:
				m.Why = "It is not known which device gives it."
			case from.ID != id:
				m.over(a.Lab, from.ID, id)
			}
			row.Mounts = append(row.Mounts, m)
		}
		out.Shares = append(out.Shares, row)
	}
	return out, nil
}

// over finds the widest way to a mount: in a VLAN that reaches both, or else over
// whatever links there are.
func (m *MountRow) over(l *lab.Lab, from, to lab.ID) {
	n := network.Of(l)
	x, _ := n.Wiring().Number(from)
	y, _ := n.Wiring().Number(to)
	var widest network.Way
	for _, s := range n.Spreads() {
		for i := range s.Pieces {
			if !s.Pieces[i].Has(x) || !s.Pieces[i].Has(y) {
				continue
			}
			for _, in := range n.InVLAN(s.VLAN.Number) {
				if w := in.Way(x, y); len(w.Hops) > 0 && (len(widest.Hops) == 0 || w.Mb > widest.Mb) {
					widest, m.VLAN = w, &s.VLAN.Number
				}
			}
		}
	}
	if len(widest.Hops) == 0 {
		widest = n.Everywhere().Way(x, y)
	}
	if len(widest.Hops) == 0 {
		m.Why = "No link leads there."
		return
	}
	for _, h := range widest.Hops {
		m.Hops = append(m.Hops, n.Wiring().DeviceAt(h.Device).Title())
	}
	if m.HeldBy = append(m.HeldBy, widest.HeldBy...); widest.FlowMb > 0 {
		m.SpeedMb, m.AtMost = &widest.FlowMb, widest.AtMost
	}
}

func sharesText(s Shares) lines {
	t := lines{head: []string{"Share", "Of", "On", "Mounted by", "VLAN", "Way", "Speed"},
		none: "There are no shares yet; a line such as share \"media\" of \"photographs\" by smb to vesper makes one."}
	for _, r := range s.Shares {
		if len(r.Mounts) == 0 {
			t.rows = append(t.rows, []string{r.Name, r.Dataset, r.Device, "nobody that is known", "", "", ""})
		}
		for _, m := range r.Mounts {
			vlan, way, speed := "?", strings.Join(m.Hops, ", "), "?"
			if m.VLAN != nil {
				vlan = strconv.Itoa(*m.VLAN)
			}
			if m.SpeedMb != nil {
				speed = cabling.Speed{Mb: m.SpeedMb, AtMost: m.AtMost}.Words()
			}
			if m.Why != "" {
				way = m.Why
			}
			t.rows = append(t.rows, []string{r.Name, r.Dataset, r.Device, m.Device, vlan, way, speed})
		}
	}
	return t
}
