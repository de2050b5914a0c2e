package picture

import (
	"bytes"
	"image"

	"github.com/bep/imagemeta"
)

// orientation is what a file says of how the camera was held: 1 upright, 2 to
// 8 the ways it can be mirrored and turned (Exif 2.32, tag 0x0112). What says
// nothing, or nothing readable, is upright.
func orientation(data []byte, format string) int {
	formats := map[string]imagemeta.ImageFormat{"jpeg": imagemeta.JPEG, "png": imagemeta.PNG, "webp": imagemeta.WebP}
	as, ok := formats[format]
	if !ok {
		return 1
	}
	held := 1
	_, err := imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(data), ImageFormat: as, Sources: imagemeta.EXIF,
		ShouldHandleTag: func(tag imagemeta.TagInfo) bool { return tag.Tag == "Orientation" && tag.Namespace == "IFD0" },
		HandleTag: func(tag imagemeta.TagInfo) error {
			if v, ok := tag.Value.(uint16); ok && v >= 1 && v <= 8 {
				held = int(v)
			}
			return nil
		},
	})
	if err != nil {
		return 1
	}
	return held
}

// upright turns and mirrors a picture the way its orientation asks for.
func upright(from *image.RGBA, held int) *image.RGBA {
	if held == 1 {
		return from
	}
	right, bottom := from.Rect.Dx()-1, from.Rect.Dy()-1
	to := image.NewRGBA(from.Rect)
	if held >= 5 { // it lies on its side
		to = image.NewRGBA(image.Rect(0, 0, bottom+1, right+1))
	}
	for y := range to.Rect.Dy() {
		for x := range to.Rect.Dx() {
			fromX, fromY := x, y
			switch held {
			case 2:
				fromX = right - x
			case 3:
				fromX, fromY = right-x, bottom-y
			case 4:
				fromY = bottom - y
			case 5:
				fromX, fromY = y, x
			case 6:
				fromX, fromY = y, bottom-x
			case 7:
				fromX, fromY = right-y, bottom-x
			case 8:
				fromX, fromY = right-y, x
			}
			to.SetRGBA(x, y, from.RGBAAt(fromX, fromY))
		}
	}
	return to
}
