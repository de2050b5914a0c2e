package cabling_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

func TestWhatHangsOnAPort(t *testing.T) {
	l := labtest.From(t, house+`core/1 - PP1/1
PP1/1 = plate/1
plate/1 - ap/1
core/2 - silo/1
core/3 - silo/2
core/4 - PP1/4
PP1/4 = ?
core/5 - core/6
core/in1 - ?
core/7 - PP1/7
`)
	w := cabling.Of(l)
	end := func(name, port string, rear bool) lab.End {
		e := at(t, l, name, port)
		e.Rear = rear
		return e
	}
	for name, c := range map[string]struct {
		end     lab.End
		reaches string
		dark    string
	}{
		"one link of several":                 {end("core", "1", false), "ap/1 port", "[ap 0 core 2]"},
		"from its other end":                  {end("ap", "1", false), "core/1 port", "[ap 0 core 2]"},
		"a panel's front goes to the one end": {end("PP1", "1", false), "core/1 port", "[ap 0 core 2]"},
		"and its rear to the other":           {end("PP1", "1", true), "ap/1 port", "[ap 0 core 2]"},
		// Of two leads between the same two devices one may be pulled.
		"one of two between the same": {end("core", "2", false), "silo/1 port", "[silo 1 core 2]"},
		"into the wall":               {end("core", "4", false), "- open", "[]"},
		"to a panel and no further":   {end("core", "7", false), "PP1/7 nothing", "[]"},
		"from a device to itself":     {end("core", "5", false), "core/6 port", "[]"},
		"power":                       {end("core", "in1", false), "- open", "[]"},
		"free":                        {end("core", "9", false), "-", "[]"},
		"no such port":                {end("core", "99", false), "-", "[]"},
	} {
		t.Run(name, func(t *testing.T) {
			info := w.PortOf(c.end)
			reaches := "-"
			if info.Reaches != nil {
				reaches = info.Reaches.Title + "/" + info.Reaches.Port
			}
			if info.Ends != "" {
				reaches += " " + string(info.Ends)
			}
			assert.Equal(t, c.reaches, reaches)
			var dark []string
			for _, d := range info.Dark {
				dark = append(dark, fmt.Sprint(d.Title, " ", d.Keeps))
			}
			assert.Equal(t, c.dark, fmt.Sprint(dark))
			assert.Equal(t, c.end.Port != "99", info.Jack != nil)
		})
	}
}
