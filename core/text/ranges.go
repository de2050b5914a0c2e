package text

import (
	"strconv"
	"strings"
)

// Ranges writes numbers in order, runs of them together: 1-3 + 5.
func Ranges(list []int) string {
	var said []string
	for i := 0; i < len(list); {
		n := 1
		for i+n < len(list) && list[i+n] == list[i]+n {
			n++
		}
		one := strconv.Itoa(list[i])
		if n > 1 {
			one += "-" + strconv.Itoa(list[i+n-1])
		}
		said, i = append(said, one), i+n
	}
	return strings.Join(said, " + ")
}
