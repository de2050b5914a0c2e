package picture

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// corners is a picture of four colours: red, green above, blue, black below.
func corners(w, h int) *image.RGBA {
	m := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := color.RGBA{A: 255}
			switch {
			case x < w/2 && y < h/2:
				c.R = 255
			case y < h/2:
				c.G = 255
			case x < w/2:
				c.B = 255
			}
			m.SetRGBA(x, y, c)
		}
	}
	return m
}

func asJPEG(t *testing.T, m image.Image) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, m, &jpeg.Options{Quality: 95}))
	return out.Bytes()
}

// withExif puts an Exif part into a JPEG: how it was held, and a place on Earth.
func withExif(t *testing.T, file []byte, held uint16) []byte {
	t.Helper()
	tiff := []byte("MM\x00*\x00\x00\x00\x08") // big-endian, the first directory at 8
	be := binary.BigEndian
	tiff = be.AppendUint16(tiff, 3)
	entry := func(tag, kind uint16, count, value uint32) {
		tiff = be.AppendUint16(tiff, tag)
		tiff = be.AppendUint16(tiff, kind)
		tiff = be.AppendUint32(tiff, count)
		tiff = be.AppendUint32(tiff, value)
	}
	entry(0x010f, 2, 12, 50)              // maker, as text behind the directories
	entry(0x0112, 3, 1, uint32(held)<<16) // orientation
	entry(0x8825, 4, 1, 62)               // where the directory of the location is
	tiff = be.AppendUint32(tiff, 0)
	tiff = append(tiff, "Quarry Cams\x00"...)
	tiff = be.AppendUint16(tiff, 1)
	entry(0x0001, 2, 2, uint32('N')<<24) // north
	tiff = be.AppendUint32(tiff, 0)
	part := append([]byte("Exif\x00\x00"), tiff...)
	out := append([]byte{}, file[:2]...)
	out = append(out, 0xff, 0xe1)
	out = be.AppendUint16(out, uint16(len(part)+2))
	return append(append(out, part...), file[2:]...)
}

// nearest names the colour of a pixel: R, G, B or K.
func nearest(c color.Color) string {
	r, g, b, _ := c.RGBA()
	switch {
	case r > 0x8000:
		return "R"
	case g > 0x8000:
		return "G"
	case b > 0x8000:
		return "B"
	}
	return "K"
}

func cornersOf(m image.Image) string {
	b := m.Bounds()
	l, r, top, low := b.Min.X+2, b.Max.X-3, b.Min.Y+2, b.Max.Y-3
	return nearest(m.At(l, top)) + nearest(m.At(r, top)) + nearest(m.At(l, low)) + nearest(m.At(r, low))
}

// What each orientation does to the corners, from the drawing of the letter F
// that explains the tag: 1 as it is, 2 mirrored, 3 upside down, 4 mirrored
// upside down, 5 to 8 the same lying on their side.
func TestReadTurnsUpright(t *testing.T) {
	want := map[uint16]string{1: "RGBK", 2: "GRKB", 3: "KBGR", 4: "BKRG", 5: "RBGK", 6: "BRKG", 7: "KGBR", 8: "GKRB"}
	for held, is := range want {
		p, err := Read(withExif(t, asJPEG(t, corners(80, 40)), held))
		require.NoError(t, err)
		m, err := jpeg.Decode(bytes.NewReader(p.JPEG))
		require.NoError(t, err)
		assert.Equal(t, is, cornersOf(m), "orientation %d", held)
		if held >= 5 {
			assert.Equal(t, []int{40, 80}, []int{p.WidthPX, p.HeightPX}, "orientation %d", held)
		} else {
			assert.Equal(t, []int{80, 40}, []int{p.WidthPX, p.HeightPX}, "orientation %d", held)
		}
		assert.Equal(t, m.Bounds().Dx(), p.WidthPX)
	}
}

func TestReadKeepsNothingButThePicture(t *testing.T) {
	file := append(withExif(t, asJPEG(t, corners(80, 40)), 6), "PK\x03\x04 something behind the picture"...)
	require.Contains(t, string(file), "Quarry Cams")
	p, err := Read(file)
	require.NoError(t, err)
	for _, kept := range [][]byte{p.JPEG, p.Thumbnail} {
		for _, gone := range []string{"Exif", "Quarry Cams", "PK\x03\x04", "something behind"} {
			assert.NotContains(t, string(kept), gone)
		}
	}
}

func TestReadBoundsTheSize(t *testing.T) {
	p, err := Read(asJPEG(t, corners(4000, 1000)))
	require.NoError(t, err)
	assert.Equal(t, []int{2560, 640}, []int{p.WidthPX, p.HeightPX})
	thumb, err := jpeg.DecodeConfig(bytes.NewReader(p.Thumbnail))
	require.NoError(t, err)
	assert.Equal(t, []int{320, 80}, []int{thumb.Width, thumb.Height})
	small, err := Read(asJPEG(t, corners(30, 20)))
	require.NoError(t, err)
	assert.Equal(t, []int{30, 20}, []int{small.WidthPX, small.HeightPX}, "a small picture is not blown up")
	line, err := Read(asJPEG(t, corners(9000, 2)))
	require.NoError(t, err)
	assert.Equal(t, 1, line.HeightPX)
	again, err := Read(asJPEG(t, corners(30, 20)))
	require.NoError(t, err)
	assert.Equal(t, small.SHA256, again.SHA256, "the same picture is the same file")
}

func TestReadTakesOtherFormats(t *testing.T) {
	var asPNG, asGIF bytes.Buffer
	require.NoError(t, png.Encode(&asPNG, image.NewNRGBA(image.Rect(0, 0, 20, 20))))
	require.NoError(t, gif.Encode(&asGIF, corners(20, 20), nil))
	clear, err := Read(asPNG.Bytes())
	require.NoError(t, err)
	m, err := jpeg.Decode(bytes.NewReader(clear.JPEG))
	require.NoError(t, err)
	r, g, b, _ := m.At(10, 10).RGBA()
	assert.Greater(t, min(r, g, b), uint32(0xf000), "what is clear lies on white")
	colours, err := Read(asGIF.Bytes())
	require.NoError(t, err)
	m, err = jpeg.Decode(bytes.NewReader(colours.JPEG))
	require.NoError(t, err)
	assert.Equal(t, "RGBK", cornersOf(m))
}

// chunk is a part of a PNG: its length, name, content and sum.
func chunk(name string, content []byte) []byte {
	out := binary.BigEndian.AppendUint32(nil, uint32(len(content)))
	out = append(append(out, name...), content...)
	return binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(out[4:]))
}

// A phone's screenshots and edited photos are PNG, which says how it was held
// in a part of its own (eXIf).
func TestReadTurnsAPNGUpright(t *testing.T) {
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, corners(80, 40)))
	exif := []byte("MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00\x06\x00\x00\x00\x00\x00\x00")
	const head = 8 + 25 // the mark and the first part
	held := append(bytes.Clone(file.Bytes()[:head]), chunk("eXIf", exif)...)
	held = append(held, file.Bytes()[head:]...)
	for name, c := range map[string]struct {
		file []byte
		want string
	}{"as it is": {file.Bytes(), "RGBK"}, "on its side": {held, "BRKG"}} {
		p, err := Read(c.file)
		require.NoError(t, err, name)
		m, err := jpeg.Decode(bytes.NewReader(p.JPEG))
		require.NoError(t, err, name)
		assert.Equal(t, c.want, cornersOf(m), name)
	}
}

// What says how it was held in no way that makes sense is upright.
func TestReadTakesNonsenseForUpright(t *testing.T) {
	for _, held := range []uint16{0, 9, 65535} {
		p, err := Read(withExif(t, asJPEG(t, corners(80, 40)), held))
		require.NoError(t, err)
		assert.Equal(t, []int{80, 40}, []int{p.WidthPX, p.HeightPX})
	}
	broken := withExif(t, asJPEG(t, corners(80, 40)), 6)
	copy(broken[12:], "??") // neither byte order
	p, err := Read(broken)
	require.NoError(t, err)
	assert.Equal(t, 80, p.WidthPX)
}

func TestReadRefuses(t *testing.T) {
	whole := asJPEG(t, corners(200, 200))
	// A PNG's header says its size at byte 16; the sum behind it is made good.
	var huge bytes.Buffer
	require.NoError(t, png.Encode(&huge, image.NewGray(image.Rect(0, 0, 1, 1))))
	claims := resized(huge.Bytes(), 60000, 60000)
	for name, c := range map[string]struct {
		file []byte
		say  string
	}{
		"empty":    {nil, "it is empty"},
		"workbook": {[]byte("PK\x03\x04 and so on, named photo.jpg"), "it looks like application/zip"},
		"page":     {[]byte("<!doctype html><script>"), "it looks like text/html"},
		"drawing":  {[]byte("<svg xmlns='http://www.w3.org/2000/svg'/>"), "it looks like text/"},
		"heic":     {[]byte("\x00\x00\x00\x18ftypheic\x00\x00\x00\x00"), "it is HEIC or AVIF"},
		"cut":      {whole[:len(whole)/2], "damaged or not all there"},
		"too many": {claims, "The picture is 60000 x 60000 pixels; 64 million are the most"},
	} {
		_, err := Read(c.file)
		var no *Refused
		if assert.ErrorAs(t, err, &no, name) {
			assert.Contains(t, no.Error(), c.say, name)
		}
	}
}

// resized writes another size into a PNG's header.
func resized(file []byte, w, h uint32) []byte {
	out := bytes.Clone(file)
	binary.BigEndian.PutUint32(out[16:], w)
	binary.BigEndian.PutUint32(out[20:], h)
	binary.BigEndian.PutUint32(out[29:], crc32.ChecksumIEEE(out[12:29]))
	return out
}

func FuzzRead(f *testing.F) {
	var small bytes.Buffer
	require.NoError(f, jpeg.Encode(&small, corners(8, 8), nil))
	f.Add(small.Bytes())
	f.Add([]byte("GIF89a"))
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := Read(data)
		if err != nil {
			return
		}
		if p.WidthPX < 1 || p.HeightPX < 1 || len(p.JPEG) == 0 || len(p.Thumbnail) == 0 || len(p.SHA256) != 64 {
			t.Fatalf("a picture without something: %+v", p)
		}
	})
}
