package finding_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/finding"
	"levelstaff/core/labtest"
)

// Each check is told what is wrong with a lab, and nothing once that is right.
func TestChecksOfBatteries(t *testing.T) {
	const base = `? ups "keep": 1000VA 1000W, 100W for 60min, 4 outlets c13 battery
? server "anvil": 100W
? single-board computer "finch": 5W
keep/out1 - anvil/in1
keep/out2 - finch/in1
`
	for name, c := range map[string]struct{ wrong, right, say string }{
		"too short":   {"keep: target 90min", "keep: target 20min", "keep holds what hangs on it for 57 minutes; it is to hold 90."},
		"old battery": {"keep battery: lead, put in 2021-01", "keep battery: lead, put in 2025-01", "The battery of keep is 5.8 years old; one of its kind is good for 5."},
		"too late": {"anvil: goes at 1%, stops in 10min", "anvil: goes at 40%, stops in 10min",
			"anvil would still be stopping when its power goes: it is told to stop after 56:34 min, and keep is empty too soon."},
		"no plan": {"finch: goes at 40%", "finch: goes at 40%\nanvil: goes at 50%", "Nothing says when anvil goes; it runs until keep is empty."},
		"no watcher": {"keep: remark \"x\"", "keep: watched by finch over usb",
			"Nothing says who watches keep, so nothing tells anvil and finch that the mains are gone."},
		"a watcher that goes first": {"keep: watched by finch\nfinch: goes at 60%\nanvil: goes at 40%", "keep: watched by finch\nfinch: goes at 20%\nanvil: goes at 40%",
			"finch watches keep and goes before anvil, which nothing then tells."},
		"a watcher on the mains": {"? mini pc \"thrush\": 5W\nkeep: watched by thrush", "keep: watched by finch",
			"thrush watches keep, and is not held by it when the mains fail."},
		"full at its most": {"anvil: 850W max", "anvil: 500W max", "With all at its most keep gives at least 855 W"},
		"a warm closet": {"place \"Closet\": shut\n  server \"box\": 150W", "place \"Closet\"\n  server \"box\": 150W",
			"Closet is shut, and what is in it gives off 150 W: 45 m³ of air an hour would keep it to 10 K more."},
		"a loud room": {"place \"Living room\": at most 35dB\n  server \"box\": 10W, 40dB", "place \"Living room\": at most 40dB\n  server \"box\": 10W, 40dB",
			"Living room is at 40 dB(A) all the time; it is to be 35 at most."},
		"a room that gets loud": {"place \"Living room\": at most 35dB\n  server \"box\": 10W, 30dB, 43dB busy", "place \"Living room\": at most 45dB\n  server \"box\": 10W, 30dB, 43dB busy",
			"Living room is at 43 dB(A) when all is busy; it is to be 35 at most."},
	} {
		says := func(more string) string {
			all := ""
			for _, f := range finding.OfBatteries(labtest.From(t, base+more+"\n"), "2026-11-26") {
				assert.True(t, f.Power, f.Say)
				all += f.Say + "\n"
			}
			return all
		}
		assert.Contains(t, says(c.wrong), c.say, name)
		assert.NotContains(t, says(c.right), c.say, name)
	}
}
