package cabling

import (
	"levelstaff/core/lab"
)

// WayIn is a way to get at a device that does not answer.
type WayIn struct {
	Device  lab.ID `json:"device_id" required:"true" description:"What is reached"`
	Title   string `json:"title" required:"true"`
	Kind    string `json:"kind" required:"true" enum:"console,kvm,video,management"`
	Through lab.ID `json:"through_id,omitempty" description:"The console server, KVM switch or panel one sits at"`
	By      string `json:"by,omitempty" description:"What that is called"`
	Input   string `json:"input" required:"true" description:"Its port: an input, a line, a keystone; or the device's own management port"`
	TCP     int    `json:"tcp_port,omitempty"`
	Address string `json:"address,omitempty" description:"Private: what one connects to"`
}

// WaysIn lists the serial lines of console servers and computers, the inputs of
// KVM switches, video at panels, and management ports with the device each reaches, by what one
// sits at and its ports.
func (w *Wiring) WaysIn() []WayIn {
	list := []WayIn{}
	for i := range w.devices {
		d := &w.devices[i]
		if d.Kind == lab.KVMSwitch {
			list = append(list, w.lines(d, "kvm", func(_ int32, p lab.Port) bool {
				return p.Family == lab.Console || p.Family == lab.Video
			})...)
		} else if !d.ports.Joined() {
			list = append(list, w.lines(d, "console", func(s int32, p lab.Port) bool { return w.isLine(d, s, p) })...)
		}
		list = append(list, w.management(d)...)
		if d.ports.Joined() {
			list = append(list, w.lines(d, "video", func(_ int32, p lab.Port) bool { return p.Family == lab.Video })...)
		}
	}
	return list
}

// isLine reports whether one sits at a port of a device to reach what is at the
// other end: at any serial port of a console server, and at one of a computer
// that leads to what is none.
func (w *Wiring) isLine(d *device, s int32, p lab.Port) bool {
	serial := p.Family == lab.SerialF || p.Mark.TCP != 0 || w.cables[w.sockets[s].cable].Kind == "serial"
	if d.Kind == lab.ConsoleServer || !serial {
		return serial
	}
	path := w.follow(s)
	if path.last == none || path.loop || p.Connector == "console" {
		return false
	}
	far, i := w.at(path.last)
	return d.Kind.Traits().Computes && far.Kind != lab.ConsoleServer &&
		(!far.Kind.Traits().Computes || far.port(i).Connector == "console")
}

// lines lists what the ports of one sort of a device lead to.
func (w *Wiring) lines(d *device, sort string, is func(int32, lab.Port) bool) []WayIn {
	var list []WayIn
	for i := range d.count() {
		for s := 2 * (d.from + int32(i)); s < 2*(d.from+int32(i))+2; s++ {
			p := d.port(i)
			if w.sockets[s].cable == none || !is(s, p) {
				continue
			}
			path := w.follow(s)
			if path.last == none || path.loop {
				continue
			}
			if far, _ := w.at(path.last); !far.ports.Joined() && far.Kind != lab.Display && far.ID != d.ID &&
				(sort != "video" || far.Kind != lab.KVMSwitch) {
				list = append(list, WayIn{Device: far.ID, Title: far.Title(), Kind: sort, Through: d.ID, By: d.Title(), Input: p.Title(),
					TCP: p.Mark.TCP, Address: d.Remote})
			}
		}
	}
	return list
}

func (w *Wiring) management(d *device) []WayIn {
	for i := range d.count() {
		p := d.port(i)
		if lab.ForManagement(p.Key) || lab.ForManagement(p.Mark.Name) {
			return []WayIn{{Device: d.ID, Title: d.Title(), Kind: "management", Input: p.Title(), Address: d.Remote}}
		}
	}
	return nil
}
