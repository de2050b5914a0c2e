// Package picture makes photos fit to be kept: upright, no larger than a
// screen shows, and with nothing in the file but the picture.
package picture

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"image"
	_ "image/gif" // read
	"image/jpeg"
	_ "image/png" // read
	"net/http"
	"strings"

	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp" // read
)

const (
	// MaxPixels bounds the pixels of a file.
	MaxPixels = 64 << 20
	// maxUnpacked bounds what they take while they are read, in bytes: all of
	// them in a photo as cameras make it, fewer where a file is kept otherwise.
	maxUnpacked = 200 << 20
	// longEdge is the longest edge of a kept picture, in pixels: enough to read
	// a serial number off a label.
	longEdge = 2560
	// thumbEdge is that of its thumbnail.
	thumbEdge = 320
	// quality is JPEG's, at which writing on a label stays sharp.
	quality = 85
)

// Picture is a photo as it is kept.
type Picture struct {
	SHA256    string // of JPEG, in hexadecimal
	JPEG      []byte
	Thumbnail []byte // a JPEG too
	WidthPX   int
	HeightPX  int
}

// Refused says what is wrong with a file, in a sentence for its sender.
type Refused struct{ Why string }

func (r *Refused) Error() string { return r.Why }

func refused(format string, values ...any) error { return &Refused{fmt.Sprintf(format, values...)} }

// Read makes a picture of a JPEG, PNG, WebP or GIF file. It is turned the way
// it was held, and encoded again, so that where and when it was taken, with
// which camera, and whatever else the file carried, is gone. The error is a
// Refused if the file is none of these, larger than MaxPixels, damaged, or takes
// too much memory to read.
func Read(data []byte) (Picture, error) {
	size, format, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return Picture{}, refused("This is not a picture that can be read: %s. JPEG, PNG, WebP and GIF can.", looksLike(data))
	}
	if size.Width < 1 || size.Height < 1 {
		return Picture{}, refused("The picture has no size.")
	}
	if size.Width > MaxPixels/size.Height {
		return Picture{}, refused("The picture is %d x %d pixels; %d million are the most. Send a smaller one.", size.Width, size.Height,
			MaxPixels>>20)
	}
	if takes := unpacked(data, format, size); takes > maxUnpacked {
		return Picture{}, refused("The picture's %d x %d pixels take %d MB to read, the way this file keeps them; %d MB are the most. "+
			"Send a smaller one, or a plain JPEG.", size.Width, size.Height, takes>>20, maxUnpacked>>20)
	}
	whole, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return Picture{}, refused("The picture is damaged or not all there: %s.", strings.TrimPrefix(err.Error(), format+": "))
	}
	kept := upright(scaled(whole, longEdge), orientation(data, format))
	p := Picture{WidthPX: kept.Bounds().Dx(), HeightPX: kept.Bounds().Dy()}
	if p.JPEG, err = encoded(kept); err != nil {
		return p, err
	}
	if p.Thumbnail, err = encoded(scaled(kept, thumbEdge)); err != nil {
		return p, err
	}
	sum := sha256.Sum256(p.JPEG)
	p.SHA256 = hex.EncodeToString(sum[:])
	return p, nil
}

// looksLike says what a file seems to be.
func looksLike(data []byte) string {
	if len(data) == 0 {
		return "it is empty"
	}
	if len(data) > 12 && string(data[4:8]) == "ftyp" && strings.Contains("heic heix mif1 msf1 avif", string(data[8:12])) {
		return "it is HEIC or AVIF, which many programs cannot open; let the phone send it as JPEG (on some: camera, formats, most compatible)"
	}
	return "it looks like " + http.DetectContentType(data)
}

// scaled is a picture on white whose longer edge is at most so many pixels. It
// is made in steps of at most half the size: each then looks at every pixel of
// the one before, without the large buffers of a single step.
func scaled(from image.Image, most int) *image.RGBA {
	w, h := from.Bounds().Dx(), from.Bounds().Dy()
	long := max(w, h)
	if long <= most {
		return drawn(from, w, h)
	}
	for long > 2*most {
		w, h, long = (w+1)/2, (h+1)/2, (long+1)/2
		from = drawn(from, w, h)
	}
	return drawn(from, max(1, w*most/long), max(1, h*most/long))
}

func drawn(from image.Image, w, h int) *image.RGBA {
	to := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(to, to.Bounds(), image.White, image.Point{}, draw.Src)
	draw.ApproxBiLinear.Scale(to, to.Bounds(), from, from.Bounds(), draw.Over, nil)
	return to
}

func encoded(m image.Image) ([]byte, error) {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, m, &jpeg.Options{Quality: quality}); err != nil {
		return nil, fmt.Errorf("encode the picture: %w", err)
	}
	return out.Bytes(), nil
}
