package server

import (
	"fmt"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// page is a page of the docs, its lines run together.
func page(t *testing.T, name string) string {
	t.Helper()
	text, err := os.ReadFile("../docs/" + name)
	require.NoError(t, err)
	return strings.Join(strings.Fields(string(text)), " ")
}

func TestTheDocsHaveTheFiguresOfTheCode(t *testing.T) {
	text := page(t, "how-it-works.md")
	for _, said := range []string{
		fmt.Sprintf("A request may send %d MB and has %.0f seconds", maxBody>>20, readTimeout.Seconds()),
		fmt.Sprintf("a change %d MB, the sign-in form %d KB", mostChange>>20, mostTyped>>10),
		fmt.Sprintf("hold at most %d MB together, and at most 1,000 connections", mostUnderWay>>20),
		fmt.Sprintf("as long as it moves: %d KB a minute", piece>>10),
		fmt.Sprintf("What a request asks may take %.0f seconds", workTime.Seconds()),
		fmt.Sprintf("of what is wrong with a request at most %d are told", mostFaults),
		fmt.Sprintf("It lasts %d days from its last use", sessionDays),
		fmt.Sprintf("argon2id, %d MiB, %d passes", hashing.Memory/1024, hashing.Iterations),
		fmt.Sprintf("%d tries a minute from one address, %d in all", triesAMinute, triesInAll),
	} {
		assert.Contains(t, text, said)
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
