package rundown_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// lines are n lines that say something else each.
func lines(n int, say func(i int) string) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintln(&b, say(i))
	}
	return b.String()
}

func TestALoadEndsWithItsContext(t *testing.T) {
	racks := lines(2000, func(i int) string { return fmt.Sprintf("rack \"r%d\" 42U", i) })
	ctx, cancel := context.WithCancel(context.Background())
	doc := rundown.ParseContext(ctx, "", racks)
	made := 0
	p, err := rundown.LoadContext(ctx, lab.New(), doc, rundown.Options{All: true, NewID: func() lab.ID {
		if made++; made == 500 {
			cancel() // in the middle of it
		}
		return lab.ID(fmt.Sprint("r", made))
	}})
	require.ErrorIs(t, err, context.Canceled)
	assert.Empty(t, p.Changes)
	assert.Less(t, made, 2000, "the rest was not worked out")

	late := rundown.ParseContext(ctx, "", racks)
	_, err = rundown.LoadContext(ctx, lab.New(), late, rundown.Options{All: true, NewID: counter()})
	require.ErrorIs(t, err, context.Canceled, "a text that was not read is not an empty lab")

	l := fresh(t, "rack \"r\" 42U\n1 server \"a\"")
	_, err = rundown.PutParts(ctx, l, named(t, l, "a"), "200x 8TB hdd", counter())
	require.ErrorIs(t, err, context.Canceled)
}

func TestAFewBytesDoNotMakeMillionsOfThings(t *testing.T) {
	text := lines(42, func(i int) string {
		return fmt.Sprintf("%d server \"a%d\"%s", i+1, i, strings.Repeat(", 512x 8TB hdd", 16))
	})
	p, err := rundown.LoadContext(context.Background(), lab.New(), rundown.Parse("rack \"r\" 42U\n"+text),
		rundown.Options{All: true, NewID: counter()})
	require.ErrorContains(t, err, "more than 200000 things")
	require.Len(t, p.Mistakes, 1)
	assert.Equal(t, 26, p.Mistakes[0].Line, "25 lines make 25 servers and 204,800 drives")
	assert.Empty(t, p.Changes)

	l := fresh(t, "rack \"r\" 42U\n1 server \"a\"")
	_, err = rundown.PutParts(context.Background(), l, named(t, l, "a"), strings.Repeat("512x 8TB hdd, ", 1500), counter())
	require.ErrorContains(t, err, "21000 characters long")
}

func TestThousandMistakesAreToldAndTheOthersCounted(t *testing.T) {
	p := load(t, lab.New(), lines(1200, func(i int) string { return fmt.Sprintf("zzqy %d", i) }), rundown.Options{All: true})
	assert.Len(t, p.Mistakes, 1000)
	assert.Equal(t, 200, p.More)
	p = load(t, lab.New(), "rack \"r\" 42U\n"+lines(1500, func(i int) string { return fmt.Sprintf("1 server \"s%d\"", i) }),
		rundown.Options{All: true})
	assert.Len(t, p.Mistakes, 1000, "also of those that only show when it is loaded")
	assert.GreaterOrEqual(t, p.More, 499)
}
