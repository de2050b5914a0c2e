package request

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/lab"
)

// A rule that lets some through says what in its owner's words: names, ports, or what
// people call it.
func TestWhatTheWordsOfARuleLetThrough(t *testing.T) {
	library := lab.Service{ID: "s", Name: "choir library", Speaks: "https"}
	vm := lab.Device{ID: "d", Name: "library", Kind: lab.VM}
	printer := lab.Device{ID: "p", Name: "linnet", Kind: lab.Printer}
	l := lab.New()
	for _, c := range []struct {
		rule string
		d    lab.Device
		v    lab.Service
		port int
		want bool
	}{
		{"web", vm, library, 8080, true},
		{"names and web", vm, library, 8080, true},
		{"HTTPS only", vm, library, 8080, true},
		{"the choir library", vm, library, 8080, true},
		{"library, books", vm, library, 8080, true},
		{"tcp 8080", vm, library, 8080, true},
		{"8080/tcp", vm, library, 8080, true},
		{"tcp 808", vm, library, 8080, false},
		{"webcams", vm, library, 8080, false},
		{"names", vm, library, 8080, false},
		{"librarys", vm, library, 8080, false},
		{"the printer", printer, lab.Service{}, 0, true},
		{"the printer", printer, lab.Service{}, 631, true},
		{"the printer", vm, library, 8080, false},
		{"names", vm, lab.Service{}, 53, true},
		{"dns", vm, lab.Service{Speaks: "dns"}, 0, true},
		{"mail", vm, lab.Service{Speaks: "imap"}, 993, true},
		{"ssh", vm, lab.Service{}, 22, true},
		{"ssh", vm, lab.Service{}, 2222, false},
		{"library.home.arpa", vm, lab.Service{}, 0, true},
	} {
		words := wanted(l, c.d, c.v, c.port, []string{"library.home.arpa"})
		assert.Equal(t, c.want, among(c.rule, words), "%q of %q on %d", c.rule, c.v.Name+" "+c.d.Name, c.port)
	}
	assert.Equal(t, "web", wanted(l, vm, library, 8080, nil)[0], "what one would write")
	assert.Equal(t, "linnet", wanted(l, printer, lab.Service{}, 0, nil)[0], "where nothing is known of what for")
}

// Outside a name of the house means nothing.
func TestNamesThatMeanNothingOutside(t *testing.T) {
	w := &walk{}
	for name, want := range map[string]bool{"library": true, "library.home.arpa": true, "x.quarry.home.arpa": true, "nas.local": true,
		"nas.internal": true, "nas.lan": true, "home.arpa": true, "library.example": false, "lan.example": false, "mylocal": true,
		"nothome.arpa": false} {
		assert.Equal(t, want, w.isPrivate(name), name)
	}
}
