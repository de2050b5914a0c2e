package server

import (
	"net"
	"time"
)

// patience is how long a piece of an answer may take to be taken; an answer of
// many pieces may take longer on a slow line, as long as it moves.
const patience = time.Minute

// piece is how many bytes are written under one deadline.
const piece = 64 << 10

// Patient is a listener whose connections give up on who takes nothing of an
// answer for a minute, and on nobody else.
func Patient(ln net.Listener) net.Listener { return patient{ln} }

type patient struct{ net.Listener }

// Accept waits for the next connection.
func (p patient) Accept() (net.Conn, error) {
	conn, err := p.Listener.Accept()
	if err != nil {
		return nil, err
	}
	return patientConn{conn}, nil
}

type patientConn struct{ net.Conn }

// Write gives each piece its own deadline.
func (c patientConn) Write(p []byte) (n int, err error) {
	for err == nil && n < len(p) {
		if err := c.SetWriteDeadline(time.Now().Add(patience)); err != nil {
			return n, err
		}
		var m int
		m, err = c.Conn.Write(p[n:min(n+piece, len(p))])
		n += m
	}
	return n, err
}
