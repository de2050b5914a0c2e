package server

import (
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// page is a page of the docs, its lines run together.
func page(t *testing.T, name string) string {
	t.Helper()
	text, err := os.ReadFile("../docs/" + name)
	require.NoError(t, err)
	return strings.Join(strings.Fields(string(text)), " ")
}

func TestTheDocsHaveTheFiguresOfTheCode(t *testing.T) {
	for name, figures := range map[string][]string{
		"how-it-works.md": {
			fmt.Sprintf("It lasts %d days from its last use", sessionDays),
			fmt.Sprintf("argon2id, %d MiB, %d passes", hashing.Memory/1024, hashing.Iterations),
			fmt.Sprintf("%d tries a minute from one address, %d in all", triesAMinute, triesInAll),
		},
		"security.md": {
			fmt.Sprintf("A request may send %d MB where it is a file, a change %d MB, the sign-in form %d KB, and has %.0f seconds to arrive",
				maxBody>>20, mostChange>>20, mostTyped>>10, readTimeout.Seconds()),
			fmt.Sprintf("hold at most %d MB together, and at most 1,000 connections", mostUnderWay>>20),
			fmt.Sprintf("as long as it moves: %d KB a minute", piece>>10),
			fmt.Sprintf("What a request asks may take %.0f seconds", workTime.Seconds()),
			fmt.Sprintf("JSON may be %d levels deep", text.JSONDepth),
			fmt.Sprintf("at most %d faults are reported", mostFaults),
			fmt.Sprintf("things nest at most %d deep", lab.MostNested),
			fmt.Sprintf("ends %d days after its last use", sessionDays),
			fmt.Sprintf("%d tries a minute from one address, %d in all", triesAMinute, triesInAll),
		},
	} {
		text := page(t, name)
		for _, said := range figures {
			assert.Contains(t, text, said)
		}
	}
}

// Each promise names the tests that hold it, and they are there.
func TestEveryPromiseHasItsTest(t *testing.T) {
	tests := map[string]bool{}
	require.NoError(t, filepath.WalkDir("..", func(path string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return err
		case d.IsDir() && d.Name() == "node_modules":
			return fs.SkipDir
		}
		if strings.HasSuffix(path, "_test.go") {
			code, err := os.ReadFile(path)
			for _, m := range regexp.MustCompile(`(?m)^func ((?:Test|Fuzz)\w+)\(`).FindAllSubmatch(code, -1) {
				tests[string(m[1])] = true
			}
			return err
		}
		return nil
	}))
	promised, _, found := strings.Cut(page(t, "security.md"), "## What is not promised")
	require.True(t, found)
	promises := strings.Split(promised, " - ")[1:]
	require.Greater(t, len(promises), 30)
	for _, promise := range promises {
		held := regexp.MustCompile("`((?:Test|Fuzz)\\w+)`").FindAllStringSubmatch(promise, -1)
		assert.NotEmpty(t, held, promise)
		for _, m := range held {
			assert.True(t, tests[m[1]], "there is no %s for: %s", m[1], promise)
		}
	}
}

// Every address in the list of the API is one there is.
func TestTheDocsNameAddressesThatThereAre(t *testing.T) {
	text, err := os.ReadFile("../docs/how-it-works.md")
	require.NoError(t, err)
	_, after, found := strings.Cut(string(text), "## The API")
	require.True(t, found)
	list, _, found := strings.Cut(after[strings.Index(after, "```")+3:], "```")
	require.True(t, found)
	var known []string
	for _, r := range (&Server{}).routes() {
		known = append(known, r.path+" ")
	}
	param := regexp.MustCompile(`:[a-z]+`)
	all := param.ReplaceAllString(strings.Join(known, ""), "ID")
	addresses := regexp.MustCompile(`(?:^|[ ;])(/[a-zA-Z0-9_./]+)`).FindAllStringSubmatch(list, -1)
	require.Greater(t, len(addresses), 30)
	for _, address := range addresses {
		path := strings.ReplaceAll(address[1], "NAME", "space")
		assert.Contains(t, all, strings.TrimSuffix(path, ".")+" ", "no address ends in %s", path)
	}
}
