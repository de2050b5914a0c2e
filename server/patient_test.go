package server_test

import (
	"bytes"
	"net"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/server"
)

// taking is a connection that notes what is asked of it; it is its own listener.
type taking struct {
	net.Listener
	net.Conn
	written   bytes.Buffer
	deadlines int
	largest   int // bytes written under one deadline
	since     int
}

func (c *taking) Accept() (net.Conn, error) { return c, nil }
func (c *taking) Close() error              { return nil }

func (c *taking) SetWriteDeadline(time.Time) error {
	c.deadlines, c.since = c.deadlines+1, 0
	return nil
}

func (c *taking) Write(p []byte) (int, error) {
	c.since += len(p)
	c.largest = max(c.largest, c.since)
	return c.written.Write(p)
}

func TestALongAnswerHasADeadlineForEachPiece(t *testing.T) {
	inner := &taking{}
	conn, err := server.Patient(inner).Accept()
	require.NoError(t, err)
	answer := bytes.Repeat([]byte("levelstaff"), 100_000)
	n, err := conn.Write(answer)
	require.NoError(t, err)
	assert.Equal(t, len(answer), n)
	assert.Equal(t, answer, inner.written.Bytes())
	assert.Equal(t, 16, inner.deadlines, "1,000,000 bytes are 15 pieces of 65,536 and a rest")
	assert.Equal(t, 65_536, inner.largest)
}
