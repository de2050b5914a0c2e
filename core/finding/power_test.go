package finding_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/finding"
	"levelstaff/core/labtest"
)

const fed = `lab "Q": 230V, red means feed "keep"
circuit "kitchen": 16A
place "Pantry"
  wall outlet "left": 4 outlets uk, on circuit "kitchen"
  wall outlet "right": 4 outlets uk, on circuit "kitchen"
`

func TestPowerFindings(t *testing.T) {
	for name, c := range map[string]struct{ lines, say string }{
		"past what may run for hours": {"? server \"kiln\": 3000W typical\nleft/out1 - kiln/in1\n",
			"act: kitchen gives 3000 W (3158 VA) and may give 2944 W for hours."},
		"near it": {"? server \"kiln\": 2500W typical\nleft/out1 - kiln/in1\n",
			"watch: kitchen gives 2500 W (2632 VA), 89 % of the 2944 W it may for hours."},
		"past with all at its most": {"? power strip \"tower\": rated 2A, 4 outlets uk\n? server \"a\": 200W typical, 500W max\nleft/out1 - tower/in1\n" +
			"tower/out1 - a/in1\n", "watch: With all at its most tower would give 500 W (526 VA); it is made for 460 W."},
		"a UPS past its volt-amperes": {"? ups \"keep\": 300VA 300W, 2 outlets c13 battery\n? server \"a\": 290W typical\nleft/out1 - keep/in1\nkeep/out1 - a/in1\n",
			"act: keep gives 290 W (305 VA) and may give 300 W."},
		"two supplies on one strip": {"? power strip \"tower\": 4 outlets uk\n? server \"a\": 2 supply bays, 90W typical\nleft/out1 - tower/in1\ntower/out1 - a/in1\n" +
			"tower/out2 - a/in2\n", "watch: All supplies of a hang on tower."},
		"two supplies on one circuit": {"? server \"a\": 2 supply bays, 90W typical\nleft/out1 - a/in1\nright/out1 - a/in2\n", "note: All supplies of a hang on kitchen."},
		"a needed supply": {"? server \"a\": 2 supply bays, 2 supplies needed, 90W typical\nleft/out1 - a/in1\n",
			"act: a needs 2 supplies, and in2 is plugged in nowhere."},
		"a second supply": {"? server \"a\": 2 supply bays, 90W typical\nleft/out1 - a/in1\n", "watch: Supply in2 of a is plugged in nowhere."},
		"a strip behind a strip": {"? power strip \"a\": 4 outlets uk\n? power strip \"b\": 4 outlets uk\nleft/out1 - a/in1\na/out1 - b/in1\n",
			"watch: b is plugged into a: a strip behind a strip"},
		"a UPS behind a UPS": {"? ups \"a\": 4 outlets c13\n? power strip \"s\": 2 outlets uk\n? ups \"b\": 4 outlets c13\nleft/out1 - a/in1\na/out1 - s/in1\ns/out1 - b/in1\n",
			"watch: b hangs on a"},
		"what should hold": {"? ups \"keep\": 2 outlets c13 battery, 2 outlets c13 filtered\n? server \"a\": 90W typical\nleft/out1 - keep/in1\nkeep/out3 - a/in1\n",
			"watch: a is on keep/out3, which only filters"},
		"a modem without a battery": {"? ups \"keep\": 2 outlets c13\n? modem \"glow\": 9W typical\nleft/out1 - keep/in1\nleft/out2 - glow/in1\n",
			"watch: No battery holds glow"},
		"the wrong voltage": {"? power brick \"b\": 12V 3A, 1 outlet dc\n? mini pc \"m\": input 19V, 20W typical\nleft/out1 - b/in1\nb/out1 - m/in1\n",
			"act: b gives 12 V and m takes 19 V."},
		"the smallest UPS": {"? ups \"big\": 900W, 4 outlets c13\n? ups \"small\": 300W, 4 outlets c13\n? server \"a\": 200W typical\nleft/out1 - big/in1\nleft/out2 - small/in1\nsmall/out1 - a/in1\n",
			"watch: a, the heaviest load with 200 W, hangs on small, the smallest UPS; big has room for it."},
		"over its budget by class": {"? switch \"core\": 9W typical, 4 ports 1G poe at, PoE budget 20W\n? camera \"x\": 1 port 1G draws class 3, 5W max\n? camera \"y\": 1 port 1G draws class 3, 5W max\ncore/1 - x/1\ncore/2 - y/1\n",
			"watch: core gives 30.8 W over the network by class and has 20 W; it would hold by what they can draw at most, 11.1 W."},
		"over a port's class": {"? switch \"core\": 9W typical, 4 ports 1G poe af, PoE budget 90W\n? camera \"x\": 1 port 1G draws class 4, 20W max\ncore/1 - x/1\n",
			"act: x is of class 4 and may draw 30 W; core/1 gives 15.4 W at most."},
		"what starts": {"? power strip \"tower\": rated 1A, 4 outlets uk\n? nas \"silo\": 100W typical, 150W max\n  bay 1-6 drive: 4TB, hdd, 3.5in\nleft/out1 - tower/in1\ntower/out1 - silo/in1\n",
			"watch: While what hangs on it starts, tower has 250 W to give and is made for 230 W"},
		"a strip on a UPS": {"? ups \"keep\": 900W, 2 outlets c13 battery\n? power strip \"tower\": rated 13A, 4 outlets uk\nleft/out1 - keep/in1\nkeep/out1 - tower/in1\n",
			"note: tower, good for 2990 W, is on one outlet of keep, which gives 900 W"},
		"a colour of another feed": {"? ups \"keep\": 4 outlets c13\n? server \"a\": 90W typical\nleft/out1 - keep/in1\nleft/out2 - a/in1 red\n",
			"watch: left/out2 - a/in1 is red, which means feed keep here, and is fed by left."},
		"a colour of its feed": {"? ups \"keep\": 4 outlets c13\n? server \"a\": 90W typical\nleft/out1 - keep/in1\nkeep/out1 - a/in1 red\n", ""},
	} {
		t.Run(name, func(t *testing.T) {
			var said []string
			for _, f := range finding.OfPower(labtest.From(t, fed+c.lines)) {
				said = append(said, string(f.Level)+": "+f.Say)
			}
			if c.say == "" {
				assert.Empty(t, said)
				return
			}
			assert.Contains(t, strings.Join(said, "\n"), c.say)
		})
	}
}
