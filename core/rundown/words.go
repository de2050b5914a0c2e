package rundown

import (
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// synonyms are the words people use for each kind besides its own.
var synonyms = map[lab.DeviceKind][]string{
	lab.Server:        {"box", "rack server"},
	lab.MiniPC:        {"mini", "minipc", "small pc", "thin client"},
	lab.SingleBoard:   {"sbc", "single board", "board"},
	lab.NAS:           {"filer", "file server"},
	lab.DiskShelf:     {"jbod", "das", "drive shelf", "disk array"},
	lab.TapeLibrary:   {"tape", "tape drive", "autoloader"},
	lab.Switch:        {"network switch"},
	lab.Router:        {"gateway"},
	lab.Firewall:      {"fw"},
	lab.AccessPoint:   {"ap", "wap", "wifi", "wireless access point"},
	lab.Modem:         {"ont", "cable modem", "fibre box", "dsl modem", "dsl box"},
	lab.PatchPanel:    {"pp", "patch", "panel", "keystone panel", "patch bay"},
	lab.BrushPanel:    {"brush", "brush strip", "brush plate"},
	lab.BlankingPanel: {"blank", "blanking", "blank panel", "blanking plate", "filler", "filler panel"},
	lab.Shelf:         {"tray", "rack shelf"},
	lab.Drawer:        {"rack drawer"},
	lab.KVMSwitch:     {"kvm", "kvm console", "kvm drawer"},
	lab.ConsoleServer: {"serial server", "terminal server"},
	lab.UPS:           {"battery backup"},
	lab.PDU:           {"power distribution unit"},
	lab.PowerStrip:    {"strip", "power bar", "socket strip", "extension lead", "power distributor"},
	lab.FanUnit:       {"fan", "fans", "fan tray", "fan panel"},
	lab.Sensor:        {"probe", "thermometer"},
	lab.Recorder:      {"nvr", "dvr", "video recorder"},
	lab.Hub:           {"usb hub"},
	lab.Display:       {"monitor", "screen", "television", "tv"},
	lab.Desktop:       {"pc", "desktop pc", "workstation", "tower", "mini tower", "tower pc"},
	lab.Camera:        {"cam", "webcam"},
	lab.Laptop:        {"notebook"},
	lab.Printer:       {"multifunction printer", "laser printer"},
	lab.Tuner:         {"tv tuner", "radio tuner"},
	lab.Amplifier:     {"power amplifier"},
	lab.Antenna:       {"aerial", "dish"},
	lab.Bridge:        {"wireless bridge", "powerline adapter", "powerline", "media converter"},
	lab.BatteryPack:   {"battery cabinet", "external battery"},
	lab.PowerBrick:    {"brick", "power adapter", "wall wart"},
	lab.USBSupply:     {"usb charger", "usb power supply"},
	lab.PoEInjector:   {"injector", "midspan"},
	lab.WallOutlet:    {"wall socket", "wall sockets", "mains socket", "mains outlet", "wall receptacle", "double socket", "power point"},
	lab.MeterPlug:     {"plug meter", "energy meter", "metering plug"},
	lab.VM:            {"virtual machine"},
	lab.Other:         {"thing", "device", "something"},
}

// kindWords finds a kind by any of its words.
var kindWords = func() map[string]lab.DeviceKind {
	words := map[string]lab.DeviceKind{}
	for _, k := range lab.DeviceKinds() {
		words[text.Plain(k.Words())] = k
		for _, w := range synonyms[k] {
			words[w] = k
		}
	}
	return words
}()

// mostKindWords is the number of words in the longest name of a kind.
const mostKindWords = 3

// KindText is how the rundown writes a kind.
func KindText(k lab.DeviceKind) string { return strings.ToLower(k.Words()) }

// readKind reads the longest kind that the tokens begin with and tells how
// many of them it took; 0 where there is none.
func readKind(tokens []text.Token) (lab.DeviceKind, int) {
	n := 0
	for n < len(tokens) && n < mostKindWords && tokens[n].Kind == text.Word {
		n++
	}
	for ; n > 0; n-- {
		if k, ok := kindWords[text.Plainly(tokens[:n])]; ok {
			return k, n
		}
	}
	return "", 0
}

func kindNames() []string {
	names := make([]string, 0, len(kindWords))
	for w := range kindWords {
		names = append(names, w)
	}
	return names
}
