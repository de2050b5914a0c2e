package picture

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// frame is a JPEG as far as its frame header: 4,000 x 1,000 pixels, and for each
// component how many samples it has across and down in one block.
func frame(marker byte, before []byte, components ...byte) []byte {
	n := byte(len(components))
	out := append([]byte{0xff, 0xd8}, before...)
	out = append(out, 0xff, marker, 0, 8+3*n, 8, 0x03, 0xe8, 0x0f, 0xa0, n)
	for i, c := range components {
		out = append(out, byte(i+1), c, 0)
	}
	return out
}

func TestWhatAPictureTakesToRead(t *testing.T) {
	const baseline, progressive, pixels = 0xc0, 0xc2, 4_000_000
	adobe := append([]byte{0xff, 0xee, 0, 14}, "Adobe\x00\x64\x00\x00\x00\x00\x00"...)
	size := image.Config{Width: 4000, Height: 1000, ColorModel: color.YCbCrModel}
	for name, c := range map[string]struct {
		file []byte
		want float64 // bytes a pixel
	}{
		"as cameras make it: 4:2:0":      {frame(baseline, nil, 0x22, 0x11, 0x11), 1.5},
		"4:4:4":                          {frame(baseline, nil, 0x11, 0x11, 0x11), 3},
		"grey, whatever it says":         {frame(baseline, nil, 0x22), 1},
		"progressive 4:2:0":              {frame(progressive, nil, 0x22, 0x11, 0x11), 7.5},
		"CMYK":                           {frame(baseline, nil, 0x11, 0x11, 0x11, 0x11), 8},
		"CMYK, progressive":              {frame(progressive, nil, 0x11, 0x11, 0x11, 0x11), 24},
		"RGB as Adobe has it":            {frame(baseline, adobe, 0x11, 0x11, 0x11), 7},
		"behind fill":                    {frame(baseline, []byte{0xff}, 0x22, 0x11, 0x11), 1.5},
		"no frame: the worst is assumed": {[]byte{0xff, 0xd8, 0xff, 0xd9}, 24},
		"cut in its frame":               {frame(baseline, nil, 0x22, 0x11, 0x11)[:12], 24},
	} {
		assert.Equal(t, int(c.want*pixels), unpacked(c.file, "jpeg", size), name)
	}
	for model, want := range map[color.Model]int{color.GrayModel: 1, color.Gray16Model: 2, color.NRGBAModel: 4, color.NRGBA64Model: 8} {
		size.ColorModel = model
		assert.Equal(t, want*pixels, unpacked(nil, "png", size))
	}
	size.ColorModel = color.Palette{color.White}
	assert.Equal(t, pixels, unpacked(nil, "gif", size))
}

func TestAFileThatTakesTooMuchIsRefusedBeforeItIsRead(t *testing.T) {
	var deep bytes.Buffer
	require.NoError(t, png.Encode(&deep, image.NewNRGBA64(image.Rect(0, 0, 1, 1))))
	_, err := Read(resized(deep.Bytes(), 6000, 6000))
	var no *Refused
	require.ErrorAs(t, err, &no)
	assert.Contains(t, no.Why, "6000 x 6000 pixels take 274 MB to read, the way this file keeps them; 200 MB are the most")
	_, err = Read(resized(deep.Bytes(), 4000, 4000))
	assert.ErrorContains(t, err, "damaged or not all there", "as few as this are read")
}
