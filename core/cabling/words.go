package cabling

import "strconv"

// counted is a number of things: "the lead", "3 leads"; "1 more device".
func counted(n int, one, many string) string {
	if n == 1 {
		if len(one) > 4 && one[:4] == "the " {
			return one
		}
		return "1 " + one
	}
	return strconv.Itoa(n) + " " + many
}
