package server

import (
	"errors"
	"fmt"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/picture"
)

// photoRoutes are those about pictures of things.
func (s *Server) photoRoutes() []route {
	get, post := fiber.MethodGet, fiber.MethodPost
	return []route{
		{method: post, path: "/api/v1/devices/:id/photos", id: "postPhoto",
			summary: "Keep a photo of a device: upright, and without where and when it was taken", large: true, in: newPhoto{},
			takes: "image/*", out: Delta{}, do: s.postPhoto, seen: true},
		{method: get, path: "/api/v1/pictures/:sha256", id: "getPicture", summary: "A photo's picture, as a JPEG", in: pictureQuery{}, out: "",
			do: s.picture, kind: "image/jpeg"},
	}
}

type newPhoto struct {
	ID      string `path:"id"`
	Caption string `query:"caption" maxLength:"200" description:"Caption"`
	Base    int64  `query:"base_revision" description:"The revision that was looked at; the latest, if left out"`
}

func (s *Server) postPhoto(c fiber.Ctx) error {
	base := s.store.Now().Revision
	if said := c.Query("base_revision"); said != "" {
		n, err := strconv.ParseInt(said, 10, 64)
		if err != nil || n < 0 {
			return wrongField(fiber.StatusBadRequest, "base_revision", "The base revision %q is not a number.", said)
		}
		base = n
	}
	_, d, err := s.device(c)
	if err != nil {
		return err
	}
	p, err := s.readPicture(c)
	if err != nil {
		return err
	}
	// The picture is kept first: a photo whose picture is missing would be
	// worse than a picture that no photo shows.
	if err := s.store.AddPicture(c.Context(), p); err != nil {
		return err
	}
	return s.change(c, base, fmt.Sprintf("%s: a photo", d.Title()), func(l *lab.Lab) ([]lab.Change, error) {
		if _, err := recordOf[lab.Device](l, d.ID); err != nil {
			return nil, err
		}
		photo := lab.Photo{ID: NewID(), Device: d.ID, File: p.SHA256, Caption: c.Query("caption"), WidthPX: p.WidthPX, HeightPX: p.HeightPX}
		for _, other := range l.PhotosOf(d.ID) {
			if other.File == photo.File {
				return nil, problem(fiber.StatusConflict, "%s has this very photo already.", d.Title())
			}
			photo.Order = max(photo.Order, other.Order+1)
		}
		change, _ := l.Put(photo)
		return []lab.Change{change}, nil
	})
}

// readPicture makes a picture of the body. One is unpacked at a time, since
// each takes memory as its pixels do.
func (s *Server) readPicture(c fiber.Ctx) (picture.Picture, error) {
	if err := s.unpacking.Acquire(c.Context(), 1); err != nil {
		return picture.Picture{}, err
	}
	defer s.unpacking.Release(1)
	p, err := picture.Read(c.Body())
	var no *picture.Refused
	if errors.As(err, &no) {
		return p, problem(fiber.StatusUnprocessableEntity, "%s", no.Why)
	}
	return p, err
}

type pictureQuery struct {
	SHA256    string `path:"sha256"`
	Thumbnail bool   `query:"thumbnail" description:"Small, for a list"`
}

// picture answers a file that never changes: its name is the sum of it.
func (s *Server) picture(c fiber.Ctx) error {
	data, err := s.store.Picture(c.Context(), c.Params("sha256"), c.Query("thumbnail") == "true")
	if err != nil {
		return err
	}
	if data == nil {
		return problem(fiber.StatusNotFound, "There is no picture %q here. A lab that was loaded from a text file comes without its "+
			"pictures; a backup has them.", c.Params("sha256"))
	}
	c.Set(fiber.HeaderContentType, "image/jpeg")
	c.Set(fiber.HeaderCacheControl, fmt.Sprintf("private, max-age=%d, immutable", foreverSeconds))
	return c.Send(data)
}
