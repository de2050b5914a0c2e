package server_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// photo is a grey JPEG file.
func photo(t *testing.T, w, h int, grey uint8) string {
	t.Helper()
	m := image.NewGray(image.Rect(0, 0, w, h))
	for i := range m.Pix {
		m.Pix[i] = grey
	}
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, m, nil))
	return out.String()
}

func photosOf(s site) []map[string]any {
	var list []map[string]any
	lab := s.ask("GET", "/api/v1/lab", "")
	photos, _ := lab.json["photos"].([]any)
	for _, p := range photos {
		list = append(list, p.(map[string]any))
	}
	return list
}

func TestAPhotoIsKeptAndShown(t *testing.T) {
	s := newSite(t).with()
	a := s.ask("POST", "/api/v1/devices/anvil/photos?caption=the+label", photo(t, 640, 480, 90), "Content-Type", "image/jpeg")
	require.Equal(t, 200, a.status, a.body)
	assert.Equal(t, "anvil: a photo", a.json["undo"])
	p := a.json["photos"].([]any)[0].(map[string]any)
	assert.Equal(t, "the label", p["caption"])
	assert.EqualValues(t, 640, p["width_px"])
	assert.EqualValues(t, 480, p["height_px"])

	path := fmt.Sprint("/api/v1/pictures/", p["file"])
	whole := s.ask("GET", path, "")
	require.Equal(t, 200, whole.status)
	assert.Equal(t, "image/jpeg", whole.header.Get("Content-Type"))
	assert.Contains(t, whole.header.Get("Cache-Control"), "immutable")
	m, err := jpeg.Decode(strings.NewReader(whole.body))
	require.NoError(t, err)
	assert.Equal(t, image.Rect(0, 0, 640, 480), m.Bounds())
	assert.InDelta(t, 90, int(color.GrayModel.Convert(m.At(300, 200)).(color.Gray).Y), 3)
	small, err := jpeg.DecodeConfig(strings.NewReader(s.ask("GET", path+"?thumbnail=true", "").body))
	require.NoError(t, err)
	assert.Equal(t, 320, small.Width)

	refused(t, s.ask("POST", "/api/v1/devices/anvil/photos", photo(t, 640, 480, 90), "Content-Type", "image/jpeg"), 409, "",
		"anvil has this very photo already")
	other := s.ask("POST", "/api/v1/devices/anvil/photos", photo(t, 64, 48, 10), "Content-Type", "image/jpeg")
	assert.EqualValues(t, 1, other.json["photos"].([]any)[0].(map[string]any)["order"], "the next one stands behind it")

	// Undone and redone, the picture is still there.
	require.Equal(t, 200, s.ask("POST", "/api/v1/undo", `{"base_revision":3}`).status)
	require.Equal(t, 200, s.ask("POST", "/api/v1/undo", `{"base_revision":4}`).status)
	assert.Empty(t, photosOf(s))
	require.Equal(t, 200, s.ask("POST", "/api/v1/redo", `{"base_revision":5}`).status)
	assert.Equal(t, p["file"], photosOf(s)[0]["file"])
	assert.Equal(t, 200, s.ask("GET", path, "").status)

	// A device that goes takes its photos with it.
	require.Equal(t, 200, s.ask("DELETE", "/api/v1/devices/anvil", "").status)
	assert.Empty(t, photosOf(s))
}

func TestWhatIsNoPhotoIsRefused(t *testing.T) {
	s := newSite(t).with()
	const at = "/api/v1/devices/anvil/photos"
	refused(t, s.ask("POST", at, "PK\x03\x04 a workbook named photo.jpg", "Content-Type", "image/jpeg"), 422, "",
		"it looks like application/zip")
	refused(t, s.ask("POST", at, "<script>alert(1)</script>", "Content-Type", "image/png"), 422, "", "This is not a picture that can be read")
	whole := photo(t, 300, 300, 40)
	refused(t, s.ask("POST", at, whole[:len(whole)/2], "Content-Type", "image/jpeg"), 422, "", "damaged or not all there")
	refused(t, s.ask("POST", at, whole, "Content-Type", "image/jpeg", "Content-Encoding", "gzip"), 415, "", "without Content-Encoding")
	refused(t, s.ask("POST", at+"?base_revision=x", whole, "Content-Type", "image/jpeg"), 400, "base_revision", "is not a number")
	refused(t, s.ask("POST", "/api/v1/devices/nobody/photos", whole, "Content-Type", "image/jpeg"), 404, "", "There is no device")
	refused(t, s.ask("POST", at+"?view=at:0", whole, "Content-Type", "image/jpeg"), 404, "", "There is no device")
	refused(t, s.ask("POST", at+"?caption="+strings.Repeat("x", 201), whole, "Content-Type", "image/jpeg"), 422, "caption", "caption")
	assert.Empty(t, photosOf(s))
	refused(t, s.ask("GET", "/api/v1/pictures/"+strings.Repeat("0", 64), ""), 404, "", "a backup has them")
}

func TestAPhotoOfWhatIsOnlyPlanned(t *testing.T) {
	s := newSite(t).with()
	require.Equal(t, 200, s.ask("POST", "/api/v1/changes",
		`{"base_revision":1,"changes":[{"put":{"kind":"draft","id":"d","name":"Bigger"}}]}`).status)
	a := s.ask("POST", "/api/v1/lines?view=draft:d", `{"base_revision":2,"line":"in \"Loft\" server \"lark\""}`)
	require.Equal(t, 200, a.status, a.body)
	id := a.json["devices"].([]any)[0].(map[string]any)["id"].(string)
	at := "/api/v1/devices/" + id + "/photos"
	refused(t, s.ask("POST", at, photo(t, 40, 30, 9), "Content-Type", "image/jpeg"), 404, "", "There is no device")
	in := s.ask("POST", at+"?view=draft:d", photo(t, 40, 30, 9), "Content-Type", "image/jpeg")
	require.Equal(t, 200, in.status, in.body)
	assert.Empty(t, photosOf(s), "as built there is none")
	assert.Len(t, s.ask("GET", "/api/v1/lab?view=draft:d", "").json["photos"], 1)
}

func TestAPhotoGoesByTheRevisionThatWasLookedAt(t *testing.T) {
	s := newSite(t).with()
	require.Equal(t, 200, s.ask("POST", "/api/v1/facts",
		`{"base_revision":1,"record":{"kind":"device","id":"anvil"},"field":"weight_kg","text":"24"}`).status)
	a := s.ask("POST", "/api/v1/devices/anvil/photos?base_revision=1", photo(t, 40, 30, 9), "Content-Type", "image/png")
	require.Equal(t, 200, a.status, "another fact of the device is in nobody's way: "+a.body)
	require.Equal(t, 200, s.ask("DELETE", "/api/v1/devices/anvil", "").status)
	refused(t, s.ask("POST", "/api/v1/devices/anvil/photos?base_revision=1", photo(t, 40, 30, 8), "Content-Type", "image/jpeg"), 404, "",
		"There is no device")
}
