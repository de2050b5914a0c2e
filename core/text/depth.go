package text

// JSONDepth is how deep JSON from outside may be nested. A lab needs eight
// levels; what unpacks deep texts takes memory and time for each.
const JSONDepth = 32

// Deeper reports whether a JSON text is nested deeper than so many levels. It
// only looks at brackets outside strings, so the text need not be right.
func Deeper(data []byte, levels int) bool {
	depth, quoted := 0, false
	for i := 0; i < len(data); i++ {
		switch c := data[i]; {
		case quoted && c == '\\':
			i++
		case c == '"':
			quoted = !quoted
		case quoted:
		case c == '{' || c == '[':
			if depth++; depth > levels {
				return true
			}
		case c == '}' || c == ']':
			depth--
		}
	}
	return false
}
