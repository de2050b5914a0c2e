package levelstaff

import (
	"bufio"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// longest is how many characters a line of code may have: where a line says
// three things, it is three lines.
const longest = 140

// tableRow is a line of a test that begins with a literal: a row of a table,
// which stays in one piece however long.
var tableRow = regexp.MustCompile("^\\s*[\"'`{\\[]")

func TestNoLineIsTooLong(t *testing.T) {
	out, err := exec.Command("git", "ls-files", "*.go", "*.ts", "*.vue").Output()
	require.NoError(t, err)
	for _, name := range strings.Fields(string(out)) {
		for n, line := range linesOf(t, name) {
			if utf8.RuneCountInString(line) > longest && !mayBeLong(name, line) {
				assert.Fail(t, "too long", "%s:%d has %d characters; %d fit", name, n+1, utf8.RuneCountInString(line), longest)
			}
		}
	}
}

func mayBeLong(name, line string) bool {
	test := strings.HasSuffix(name, "_test.go") || strings.HasSuffix(name, ".test.ts") || strings.HasSuffix(name, ".spec.ts")
	return strings.Contains(line, "://") || test && tableRow.MatchString(line)
}

func linesOf(t *testing.T, name string) (lines []string) {
	t.Helper()
	file, err := os.Open(filepath.FromSlash(name))
	require.NoError(t, err)
	defer file.Close()
	for s := bufio.NewScanner(file); s.Scan(); {
		lines = append(lines, s.Text())
	}
	return lines
}
