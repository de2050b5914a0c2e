package rundown

// Chapter is a part of the guide to how lines are written: what it is about,
// and lines that one can take as they stand.
type Chapter struct {
	Title string   `json:"title" required:"true"`
	Says  string   `json:"says" required:"true"`
	Lines []string `json:"lines" required:"true" nullable:"false"`
}

// Guide is how lines are written, by examples. Each may be typed by itself, in
// this order, into an empty lab.
func Guide() []Chapter {
	return []Chapter{
		{"Racks and places", "A rack needs its height; all else may wait. A second line about it says more.", []string{
			`rack "Pantry": 24U, 19in, 800 deep, holds 300kg`,
			`place "Loft"`,
			`rack "Pantry": on castors`,
		}},
		{"Devices", "Where, what, its name in quotes, then facts between commas, in any order. What is no fact is kept as a remark. " +
			"In a text, a line that ends with a comma goes on in the next, further in.", []string{
			`23 switch "core": 24 ports 1G, 4 sfp+ 10G, 22W`,
			`22 patch panel "PP1": 24 ports`,
			`12-13 server "anvil": 710 deep, 24kg, 2 psus, for "choir library"`,
			`left power strip "tower": 8 outlets c13, not bolted`,
			`in "Loft" access point "loft ap": class 4`,
			`1-2 ups "keep": 1500VA, 900W, 6 outlets c13 battery`,
			`? laptop "crust": 16GB, 9W`,
			`10 air conditioner "chill": lent by a neighbour`,
		}},
		{"More of what is known", "By its name, by the unit it is in, or by its kind and name.", []string{
			`anvil: 64GB of 256GB, 2x 8-core`,
			`23: paid 240 used 2024-03`,
			`switch "core": web "https://core.home.arpa"`,
			`anvil: ? deep`,
			`rename "keep" to "holdfast"`,
			`crust is a mini pc`,
		}},
		{"Parts", "In a phrase of the device's line, or seat by seat.", []string{
			`anvil: 8 bays 3.5in, 4x 8TB hdd, 4x 16GB ddr4`,
			`"anvil" bay 1 drive "vault 1": serial "Z1A7", cmr`,
			`spare drive: 4TB, hdd`,
			`ordered 2x memory: 16GB, paid 58 new 2026-11-19`,
		}},
		{"Cables", "An end is a device, a slash and the port. A port that goes without saying is left out; ? is one nobody knows.", []string{
			`core/1 - PP1/1 0.25m yellow cat6`,
			`core/2-4 - PP1/2-4 0.25m yellow`,
			`PP1/1 = loft ap 18m cat6`,
			`tower/1, tower/2 - anvil, core`,
			`holdfast - tower`,
			`core/10 - anvil/? blue`,
			`core/s1 - ? dac, runs hot`,
			`PP1/12 takes hdmi`,
			`spare 5x lead 0.5m grey cat6`,
		}},
		{"Networks", "What ports carry, over the cables there are. A port's own line counts before a range's, and that before its device's.",
			[]string{
				`vlan 20 "servers", green, for "anvil and what runs on it"`,
				`core/1-12 untagged 20`,
				`core/s1 tagged 20,30 untagged 10`,
				`core: untagged 10, bridge priority 4096`,
				`aggregate "up" on core: ports s3-s4, active-active`,
				`wireless "Quarry" vlan 10 on "loft ap"`,
				`crust: on wireless "Quarry"`,
			}},
		{"Storage", "A pool names the bays of its drives. A copy goes to a pool, a device, a drive or a place.", []string{
			`pool "vault" on anvil: raid 5 of bay 1-4, 9TB used 2026-11-20`,
			`dataset "scores" on vault: 6TB, household, grows 50GB a month`,
			`share "music" of "scores" by smb to crust`,
			`place "Aunt's attic", outside the house`,
			`copy of "scores" to "Aunt's attic": weekly, last 2026-11-20`,
		}},
		{"Several things on one line", "A shelf, a drawer or a place takes them after the colon.", []string{
			`15 shelf "board": single-board computer "finch", spare, hub "lamp bridge"`,
		}},
	}
}
