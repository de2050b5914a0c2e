package main

import (
	"context"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/tls"
	"crypto/x509"
	"encoding/pem"
	"math/big"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/store"
)

// typed is run with something on standard input.
func typed(t *testing.T, input string, args ...string) (out string, exit int) {
	t.Helper()
	var printed strings.Builder
	cmd := root()
	cmd.SetArgs(args)
	cmd.SetOut(&printed)
	cmd.SetErr(&printed)
	cmd.SetIn(strings.NewReader(input))
	if err := cmd.ExecuteContext(context.Background()); err != nil {
		return printed.String() + err.Error(), status(err)
	}
	return printed.String(), 0
}

func TestAPassphraseLocksTheLab(t *testing.T) {
	data := t.TempDir()
	out, exit := typed(t, "short\n", "passphrase", "--data", data)
	assert.Equal(t, 1, exit)
	assert.Contains(t, out, "10 characters or more")
	_, exit = typed(t, "", "passphrase", "--data", data)
	assert.Equal(t, 1, exit, "nothing is no passphrase")
	_, exit = typed(t, "correct horse battery\r\n", "passphrase", "--data", data)
	require.Equal(t, 0, exit)
	st, err := store.Open(context.Background(), data)
	require.NoError(t, err)
	hash, err := st.Passphrase(context.Background())
	require.NoError(t, err)
	require.NoError(t, st.Close())
	assert.True(t, strings.HasPrefix(hash, "$argon2id$"), hash)
	assert.NotContains(t, hash, "horse")

	url, stop := serving(t, "serve", "--data", data, "--keep-backups", "0")
	res, err := http.Get(url + "/api/v1/lab")
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	assert.Equal(t, 401, res.StatusCode)
	assert.NoDirExists(t, filepath.Join(data, store.BackupDir), "no backups were wanted")
	require.NoError(t, stop())
}

// certificate makes a self-signed one for this machine.
func certificate(t *testing.T) (cert, key string, pool *x509.CertPool) {
	t.Helper()
	private, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	require.NoError(t, err)
	template := &x509.Certificate{SerialNumber: big.NewInt(1), NotAfter: time.Now().Add(time.Hour),
		IPAddresses: []net.IP{net.IPv4(127, 0, 0, 1)}}
	der, err := x509.CreateCertificate(rand.Reader, template, template, &private.PublicKey, private)
	require.NoError(t, err)
	keyDER, err := x509.MarshalECPrivateKey(private)
	require.NoError(t, err)
	certPEM := pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der})
	pool = x509.NewCertPool()
	pool.AppendCertsFromPEM(certPEM)
	return write(t, "cert.pem", string(certPEM)),
		write(t, "key.pem", string(pem.EncodeToMemory(&pem.Block{Type: "EC PRIVATE KEY", Bytes: keyDER}))), pool
}

func TestItSpeaksTLSWithACertificateOfOnesOwn(t *testing.T) {
	cert, key, pool := certificate(t)
	url, stop := serving(t, "serve", "--data", t.TempDir(), "--tls-cert", cert, "--tls-key", key)
	defer func() { require.NoError(t, stop()) }()
	require.True(t, strings.HasPrefix(url, "https://"), url)
	client := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: pool}}}
	res, err := client.Get(url + "/healthz")
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	assert.Equal(t, 200, res.StatusCode)
	client.CloseIdleConnections()
}

func TestACertificateThatIsNoneIsRefused(t *testing.T) {
	out, exit := typed(t, "", "serve", "--data", t.TempDir(), "--listen", "127.0.0.1:0", "--tls-cert", write(t, "c", "x"), "--tls-key",
		write(t, "k", "y"))
	assert.Equal(t, 1, exit)
	assert.Contains(t, out, "read the certificate")
}

func TestBackupAndRestoreFromTheCommandLine(t *testing.T) {
	data, elsewhere := t.TempDir(), t.TempDir()
	_, exit := run(t, "load", write(t, "lab.rundown", small), "--data", data)
	require.Equal(t, 0, exit)
	url, stop := serving(t, "serve", "--data", data)
	file := filepath.Join(elsewhere, "copy.db")
	out, exit := run(t, "backup", file, "--data", data)
	require.Equal(t, 0, exit, "while it is being served: %s", out)
	assert.Contains(t, get(t, url+"/api/v1/rundown"), "anvil")
	out, exit = run(t, "restore", file, "--data", data)
	assert.Equal(t, 1, exit)
	assert.Contains(t, out, "another levelstaff is using")
	require.NoError(t, stop())

	out, exit = run(t, "restore", file, "--data", data)
	require.Equal(t, 0, exit, out)
	assert.Contains(t, out, "what was there is kept in")
	out, exit = run(t, "restore", write(t, "diary.txt", "dear diary"), "--data", data)
	assert.Equal(t, 1, exit)
	assert.Contains(t, out, "it is not a SQLite file")
	out, _ = run(t, "report", "space", "--data", data)
	assert.Contains(t, out, "Pantry")
	left, err := os.ReadDir(elsewhere)
	require.NoError(t, err)
	assert.Len(t, left, 1, "no half-made copies lie about")
}

func TestTheLabGoesOutAndInByTheEndingOfTheFile(t *testing.T) {
	data, other := t.TempDir(), t.TempDir()
	_, exit := run(t, "load", write(t, "lab.rundown", small), "--data", data)
	require.Equal(t, 0, exit)
	whole := filepath.Join(other, "lab.json")
	_, exit = run(t, "save", whole, "--data", data)
	require.Equal(t, 0, exit)
	out, exit := run(t, "load", whole, "--data", other)
	require.Equal(t, 0, exit, out)
	assert.Contains(t, out, `server "anvil" at Pantry 5-6`)
	sheet := filepath.Join(other, "devices.csv")
	_, exit = run(t, "save", sheet, "--data", data)
	require.Equal(t, 0, exit)
	out, exit = run(t, "load", sheet, "--data", other)
	assert.Equal(t, 0, exit)
	assert.Equal(t, "nothing to change\n", out)

	bad := write(t, "bad.csv", "name,kind,where\nlark,swich,?\nwren,mini pc,?\n")
	out, exit = run(t, "load", bad, "--data", other)
	assert.Equal(t, 1, exit)
	assert.Contains(t, out, bad+":2: lark: kind: “swich” is not a kind of device")
	assert.Contains(t, out, "nothing was loaded: one line is refused")
	out, exit = run(t, "load", write(t, "cut.json", `{"format": "levelstaff-lab", "ver`), "--data", other)
	assert.Equal(t, 1, exit)
	assert.Contains(t, out, "the file ends early")
}

func TestTheFindingsReport(t *testing.T) {
	data := t.TempDir()
	_, exit := run(t, "load", write(t, "lab.rundown", small+"3 server \"ember\", faulty\n"), "--data", data)
	require.Equal(t, 0, exit)
	out, _ := run(t, "report", "findings", "--data", data)
	assert.Contains(t, out, "watch  ember is faulty and takes 1U, Pantry 3.")
	out, _ = run(t, "report", "findings", "--data", data, "--json")
	assert.Contains(t, out, `"check": "state does not match place"`)
	empty := t.TempDir()
	out, _ = run(t, "report", "findings", "--data", empty)
	assert.Contains(t, out, "nothing found")
}
