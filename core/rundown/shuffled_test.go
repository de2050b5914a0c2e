package rundown_test

import (
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// shuffler makes texts of the lines and words of the example files, and of words
// that mean much, in orders nobody would think of.
type shuffler struct {
	rnd          *rand.Rand
	lines, words []string
}

func newShuffler(t *testing.T, seed uint64) *shuffler {
	t.Helper()
	s := &shuffler{rnd: rand.New(rand.NewPCG(seed, 3)), words: []string{",", ":", " - ", " = ", "?", `"`, "#", "rear", "is a", "rename", "to",
		"port", "remark", ";", "x", "1,5m", "1'500mm", "?kg", "(2)", "/", `\`, "psus", "cage", "drives", "with", "2.5G", "8-bay", "on", "cat6"}}
	for _, pattern := range []string{"testdata/good/*.rundown", "testdata/mistakes/*.rundown"} {
		files, err := filepath.Glob(pattern)
		require.NoError(t, err)
		for _, file := range files {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			s.lines = append(s.lines, strings.Split(string(data), "\n")...)
			s.words = append(s.words, strings.Fields(string(data))...)
		}
	}
	s.lines = append(s.lines, strings.Split(spoken, "\n")...)
	return s
}

func (s *shuffler) text() string {
	var out []string
	for range 1 + s.rnd.IntN(14) {
		words := strings.SplitAfter(s.lines[s.rnd.IntN(len(s.lines))], " ")
		for range s.rnd.IntN(3) {
			i, word := s.rnd.IntN(len(words)), s.words[s.rnd.IntN(len(s.words))]+" "
			switch s.rnd.IntN(4) {
			case 0:
				words[i] = word
			case 1:
				words[i] = ""
			case 2:
				words[i] = word + words[i]
			case 3:
				j := s.rnd.IntN(len(words))
				words[i], words[j] = words[j], words[i]
			}
		}
		out = append(out, strings.Join(words, ""))
	}
	return strings.Join(out, "\n")
}

// Whatever is made of a text, it is written so that it reads back to the same
// lab, and none of it stops the reader.
func TestShuffledTextsComeBackTheSame(t *testing.T) {
	s := newShuffler(t, 1)
	for range 2000 {
		text := s.text()
		p := rundown.Load(lab.New(), rundown.Parse(text), rundown.Options{All: true, NewID: counter()})
		written := rundown.Print(p.Lab)
		again := rundown.Load(p.Lab, rundown.Parse(written), rundown.Options{All: true, Forget: true, NewID: counter()})
		require.Empty(t, said(again), "%q\nis written as\n%s", text, written)
		require.Empty(t, again.Changes, "%q\nis written as\n%s\nwhich reads as %v", text, written,
			rundown.Edits(p.Lab, again.Lab, again.Changes))
		first, _, _ := strings.Cut(text, "\n")
		rundown.Load(p.Lab, rundown.ParseLine(first), rundown.Options{NewID: counter()})
		rundown.Complete(p.Lab, lab.Rack{}, first)
	}
}
