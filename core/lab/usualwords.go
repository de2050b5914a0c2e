package lab

import (
	"slices"
	"strconv"
)

// usualWords are what people call what is asked for, by how it is spoken and by port.
var usualWords = map[string][]string{"https": {"web", "https", "http"}, "http": {"web", "http", "https"}, "ssh": {"ssh", "shell"},
	"smtp": {"mail", "smtp"}, "imap": {"mail", "imap"}, "mqtt": {"mqtt"}, "dns": {"names", "dns", "name server"}, "rtsp": {"pictures", "rtsp"},
	"443": {"web", "https"}, "80": {"web", "http"}, "8080": {"web", "http"}, "8443": {"web", "https"}, "53": {"names", "dns"}, "22": {"ssh"},
	"25": {"mail", "smtp"}, "587": {"mail", "smtp"}, "993": {"mail", "imap"}, "631": {"printing", "the printer", "printer"}}

// UsualWords are what people call something that speaks so, or listens on that port; the
// one that is said most often first.
func UsualWords(speaks Speech, port int) []string {
	return slices.Concat(usualWords[string(speaks)], usualWords[strconv.Itoa(port)])
}

// IsUsualWord reports whether a word is one of all those.
func IsUsualWord(word string) bool {
	for _, words := range usualWords {
		if slices.Contains(words, word) {
			return true
		}
	}
	return false
}
