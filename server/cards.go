package server

import (
	"github.com/gofiber/fiber/v3"

	"levelstaff/core/card"
	"levelstaff/core/lab"
)

// cardRoutes answer the card of any record.
func (s *Server) cardRoutes() []route {
	var list []route
	for _, k := range lab.Kinds() {
		list = append(list, route{method: fiber.MethodGet, path: "/api/v1/cards/" + k.List + "/:id", id: "card" + k.Title,
			summary: "What is known of one of the " + k.List + ", ready to be shown", in: byID{}, out: card.Card{},
			do: recordCard{s, k.RecordKind}.show, seen: true})
	}
	return list
}

type recordCard struct {
	*Server
	kind lab.RecordKind
}

func (h recordCard) show(c fiber.Ctx) error {
	v, err := h.view(c)
	if err != nil {
		return err
	}
	id := lab.ID(c.Params("id"))
	r := v.lab.Get(lab.Key{Kind: h.kind, ID: id})
	if r == nil && h.kind == lab.KindSheet {
		sheet, err := sheetNamed(v.lab, id)
		if err != nil {
			return err
		}
		r = sheet
	}
	if r == nil {
		return noSuch(h.kind, id)
	}
	return c.JSON(card.Of(v.lab, r))
}
