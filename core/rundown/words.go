package rundown

import (
	"slices"
	"strings"

	"github.com/agext/levenshtein"

	"levelstaff/core/lab"
)

// synonyms are the words people use for each kind besides its own.
var synonyms = map[lab.DeviceKind][]string{
	lab.Server:        {"box", "rack server"},
	lab.MiniPC:        {"mini", "minipc", "small pc", "thin client"},
	lab.SingleBoard:   {"sbc", "pi", "single board", "board"},
	lab.NAS:           {"filer", "file server"},
	lab.DiskShelf:     {"jbod", "das", "drive shelf"},
	lab.TapeLibrary:   {"tape", "tape drive", "autoloader"},
	lab.Switch:        {"network switch"},
	lab.Router:        {"gateway"},
	lab.Firewall:      {"fw"},
	lab.AccessPoint:   {"ap", "wap", "wifi", "wireless access point"},
	lab.Modem:         {"ont", "cable modem"},
	lab.PatchPanel:    {"pp", "patch", "panel", "keystone panel"},
	lab.BrushPanel:    {"brush", "brush strip", "brush plate"},
	lab.BlankingPanel: {"blank", "blanking", "blank panel", "blanking plate", "filler", "filler panel"},
	lab.Shelf:         {"tray", "rack shelf"},
	lab.Drawer:        {"rack drawer"},
	lab.KVMSwitch:     {"kvm", "kvm console"},
	lab.ConsoleServer: {"serial server", "terminal server"},
	lab.UPS:           {"battery backup"},
	lab.PDU:           {"power distribution unit"},
	lab.PowerStrip:    {"strip", "power bar", "socket strip", "extension lead"},
	lab.FanUnit:       {"fan", "fans", "fan tray", "fan panel"},
	lab.Sensor:        {"probe", "thermometer"},
	lab.Recorder:      {"nvr", "dvr", "video recorder"},
	lab.Hub:           {"usb hub"},
	lab.Display:       {"monitor", "screen"},
	lab.Desktop:       {"pc", "desktop pc", "workstation"},
	lab.Camera:        {"cam", "webcam"},
	lab.Other:         {"thing", "device", "something"},
}

// kindWords finds a kind by any of its words.
var kindWords = func() map[string]lab.DeviceKind {
	words := map[string]lab.DeviceKind{}
	for _, k := range lab.DeviceKinds() {
		words[plain(k.Words())] = k
		for _, w := range synonyms[k] {
			words[w] = k
		}
	}
	return words
}()

// mostKindWords is the number of words in the longest name of a kind.
const mostKindWords = 3

// plain is a word without what people spell differently: case and hyphens.
func plain(s string) string { return strings.ToLower(hyphens.Replace(s)) }

var hyphens = strings.NewReplacer("-", " ", "_", " ")

// KindText is how the rundown writes a kind.
func KindText(k lab.DeviceKind) string { return strings.ToLower(k.Words()) }

// readKind reads the longest kind that the tokens begin with and tells how
// many of them it took; 0 where there is none.
func readKind(tokens []token) (lab.DeviceKind, int) {
	n := 0
	for n < len(tokens) && n < mostKindWords && tokens[n].kind == word {
		n++
	}
	for ; n > 0; n-- {
		if k, ok := kindWords[plainly(tokens[:n])]; ok {
			return k, n
		}
	}
	return "", 0
}

// plainly joins words without what people spell differently.
func plainly(tokens []token) string {
	if len(tokens) == 1 && tokens[0].kind == word {
		return tokens[0].plain
	}
	return plain(joined(tokens))
}

func joined(tokens []token) string {
	words := make([]string, len(tokens))
	for i, t := range tokens {
		words[i] = t.text
	}
	return strings.Join(words, " ")
}

// nearest finds the word that may have been meant: at most a third of its
// letters off, the closest one, the first of equals in alphabetical order.
func nearest(typed string, words []string) string {
	typed = plain(typed)
	if len(typed) > 40 {
		return ""
	}
	best, least := "", len(typed)/3+1
	words = slices.Clone(words)
	slices.Sort(words)
	for _, w := range words {
		if d := distance(typed, plain(w)); d < least {
			best, least = w, d
		}
	}
	return best
}

// distance counts the letters to change, leave out or put in; two neighbours
// that were swapped count once.
func distance(a, b string) int {
	if len(a) == len(b) {
		for i := 0; i+1 < len(a); i++ {
			if a[:i]+a[i+1:i+2]+a[i:i+1]+a[i+2:] == b {
				return 1
			}
		}
	}
	return levenshtein.Distance(a, b, nil)
}

func kindNames() []string {
	names := make([]string, 0, len(kindWords))
	for w := range kindWords {
		names = append(names, w)
	}
	return names
}
