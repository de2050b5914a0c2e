package picture

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
)

// unpacked is how many bytes a file's pixels take while it is read: what Go's
// decoders hold at once, before anything is scaled down.
func unpacked(data []byte, format string, size image.Config) int {
	pixels := size.Width * size.Height
	switch {
	case format == "jpeg":
		return int(float64(pixels) * jpegBytes(data))
	case format == "webp" && size.ColorModel == color.NRGBAModel:
		return 8 * pixels // what it is before and after its transforms are undone
	case format == "png" && len(data) > 28 && data[28] == 1:
		return 3 * pixels * perPixel(size.ColorModel) / 2 // interlaced: the last pass is half of it once more
	}
	return pixels * perPixel(size.ColorModel)
}

// perPixel is what Go's images take for a pixel, in bytes.
func perPixel(m color.Model) int {
	if _, indexed := m.(color.Palette); indexed {
		return 1
	}
	switch m {
	case color.GrayModel:
		return 1
	case color.Gray16Model:
		return 2
	case color.RGBA64Model, color.NRGBA64Model:
		return 8
	}
	return 4
}

// jpegBytes is what a pixel of a JPEG takes, in bytes, from its frame header
// (ITU-T T.81, B.2.2): a byte for each sample of each component; the same again
// times four for a progressive one, whose coefficients are kept until its end;
// four for a copy where the components are not what is shown (CMYK, or RGB as
// Adobe's marker has it).
func jpegBytes(data []byte) float64 {
	const worst = 24 // four whole components, progressive, and the copy
	adobe := false
	for at := 2; at+4 <= len(data); {
		if data[at] != 0xff {
			return worst
		}
		marker := data[at+1]
		if marker == 0xff { // fill before a marker
			at++
			continue
		}
		if marker == 0x01 || marker >= 0xd0 && marker <= 0xd8 { // alone, without a segment
			at += 2
			continue
		}
		end := at + 2 + int(binary.BigEndian.Uint16(data[at+2:]))
		if end > len(data) {
			return worst
		}
		segment := data[at+4 : max(end, at+4)]
		switch {
		case marker >= 0xc0 && marker <= 0xc2:
			return frameBytes(segment, marker == 0xc2, adobe)
		case marker == 0xee && bytes.HasPrefix(segment, []byte("Adobe")):
			adobe = true
		}
		at = end
	}
	return worst
}

// frameBytes is jpegBytes for the frame header in a segment.
func frameBytes(frame []byte, progressive, adobe bool) float64 {
	if len(frame) < 6 || len(frame) < 6+3*int(frame[5]) {
		return 24
	}
	samples, most := 0, 1
	n := int(frame[5])
	for i := range n {
		across, down := int(frame[7+3*i]>>4), int(frame[7+3*i]&15)
		samples += across * down
		most = max(most, across*down)
	}
	per := float64(samples) / float64(most)
	if n == 1 {
		per = 1
	}
	if progressive {
		per *= 5
	}
	if n == 4 || adobe {
		per += 4
	}
	return per
}
