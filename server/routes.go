package server

import (
	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
	"levelstaff/exchange"
)

// route is one address: what is asked, what is answered, and who answers. The
// OpenAPI document is made from these.
type route struct {
	method, path, id, summary string
	in, out                   any
	do                        fiber.Handler
	status                    int    // 200 if it is 0
	takes                     string // the body's content type, where it is not JSON
	kind                      string // the answer's content type, where it is not JSON
	seen                      bool   // takes a view of the lab
	open                      bool   // answers also who is not signed in
	large                     bool   // takes a whole file or text
}

func (s *Server) routes() []route {
	get, post, remove := fiber.MethodGet, fiber.MethodPost, fiber.MethodDelete
	list := []route{
		{method: get, path: "/healthz", id: "getHealth", summary: "Whether the server is up", out: Health{}, do: s.health, open: true},
		{method: get, path: "/api/v1/lab", id: "getLab", summary: "The whole lab", out: Lab{}, do: s.lab, seen: true},
		{method: get, path: "/api/v1/events", id: "getEvents", summary: "Each new revision as a server-sent event", out: "", do: s.events,
			kind: "text/event-stream"},
		{method: get, path: "/api/v1/changes", id: "getChanges", summary: "What was changed after a revision, as one delta", in: sinceQuery{},
			out: Delta{}, do: s.since},
		{method: post, path: "/api/v1/changes", id: "postChanges", summary: "Put and remove records, all or none", in: Changes{}, out: Delta{},
			do: s.changes, seen: true},
		{method: post, path: "/api/v1/undo", id: "postUndo", summary: "Undo the latest change", in: Base{}, out: Delta{}, do: s.undo, seen: true},
		{method: post, path: "/api/v1/redo", id: "postRedo", summary: "Redo a change that was undone", in: Base{}, out: Delta{}, do: s.redo,
			seen: true},
		{method: post, path: "/api/v1/back", id: "postBack", summary: "Undo a run of the latest changes, as one change", in: backTo{},
			out: Delta{}, do: s.backTo, seen: true},
		{method: post, path: "/api/v1/take_back", id: "postTakeBack",
			summary: "Undo one earlier change and keep what came after it",
			in:      takenBack{}, out: Delta{}, do: s.takeBack, seen: true},
		{method: post, path: "/api/v1/facts", id: "postFact", summary: "Change one fact as a person typed it", in: Fact{}, out: Delta{},
			do: s.fact, seen: true},

		{method: get, path: "/api/v1/racks/:id/slots", id: "getSlots", summary: "Where in a rack devices would fit", in: slotsQuery{},
			out: Slots{}, do: s.slots, seen: true},
		{method: get, path: "/api/v1/racks/:id/room", id: "getRoom", summary: "The fewest devices to move so that units are free in one piece",
			in: roomQuery{}, out: rack.Room{}, do: s.room, seen: true},
		{method: post, path: "/api/v1/moves", id: "postMoves", summary: "Move devices together", in: Moves{}, out: Delta{}, do: s.moves,
			seen: true},
		{method: post, path: "/api/v1/copies", id: "postCopy", summary: "Make another one of a device in the next free place", in: Copies{},
			out: Delta{}, do: s.copies, seen: true},

		{method: get, path: "/api/v1/find", id: "getFind", summary: "Find things by name, purpose, note or place", in: findQuery{}, out: Found{},
			do: s.find, seen: true},
		{method: get, path: "/api/v1/compare", id: "getComparison", summary: "How two labs differ", in: compareQuery{}, out: Comparison{},
			do: s.compare},
		{method: get, path: "/api/v1/logbook", id: "getLogbook", summary: "The changes that were made, the latest first", in: logQuery{},
			out: Logbook{}, do: s.logbook},
		{method: get, path: "/api/v1/logbook/:revision", id: "getLogEntry", summary: "One change in words", in: byRevision{},
			out: LoggedChange{}, do: s.logEntry},

		{method: get, path: "/api/v1/drafts/:id/effect", id: "getEffect", summary: "What comes of a draft's steps on the lab as it stands",
			in: byID{}, out: DraftEffect{}, do: s.effect},
		{method: post, path: "/api/v1/drafts/:id/done", id: "postDone", summary: "Apply steps of a draft to the lab", in: draftSteps{},
			out: Delta{}, do: s.tick, seen: true},
		{method: post, path: "/api/v1/drafts/:id/order", id: "postOrder", summary: "Reorder a draft's steps", in: draftSteps{}, out: Delta{},
			do: s.reorder, seen: true},
		{method: post, path: "/api/v1/drafts/:id/copy", id: "postDraftCopy", summary: "Make another draft of the same steps", in: draftCopy{},
			out: Delta{}, do: s.copyDraft, seen: true},

		{method: get, path: "/api/v1/rundown", id: "getRundown", summary: "The lab as plain text", in: fileQuery{}, out: "", do: s.rundown,
			kind: "text/plain", seen: true},
		{method: get, path: "/api/v1/notation", id: "getNotation", summary: "How lines of a rundown are written, by examples",
			out: []rundown.Chapter{}, do: s.notation},
		{method: post, path: "/api/v1/rundown", id: "postRundown", summary: "Make the lab what a rundown says", large: true,
			in: Rundown{}, out: Delta{}, do: s.loadRundown, seen: true},
		{method: post, path: "/api/v1/rundown/check", id: "checkRundown", summary: "What loading a rundown would change, without doing it",
			large: true, in: Rundown{}, out: Plan{}, do: s.checkRundown, seen: true},
		{method: post, path: "/api/v1/lines", id: "postLine", summary: "Do what one line says", in: Line{}, out: Delta{}, do: s.loadLine,
			seen: true},
		{method: post, path: "/api/v1/lines/check", id: "checkLine", summary: "What a line would do and how it may go on", in: Line{},
			out: LineCheck{}, do: s.checkLine, seen: true},

		{method: get, path: "/api/v1/files/lab.json", id: "getLabFile", summary: "The whole lab as a JSON file", in: fileQuery{},
			out: exchange.File{}, do: s.saveJSON, seen: true},
		{method: post, path: "/api/v1/files/lab.json", id: "postLabFile", summary: "Make the lab what a JSON file says", large: true,
			in: WholeFile{}, out: Delta{}, do: s.loadJSON},
		{method: post, path: "/api/v1/files/lab.json/check", id: "checkLabFile",
			summary: "What loading a JSON file would change, without doing it", large: true, in: WholeFile{}, out: Import{}, do: s.checkJSON},
		{method: get, path: "/api/v1/files/lab.schema.json", id: "getSchema", summary: "The JSON Schema of that file", out: map[string]any{},
			do: s.schema, kind: "application/schema+json"},
		{method: get, path: "/api/v1/files/backup.db", id: "getBackup", summary: "A backup, made now", out: "", do: s.backup,
			kind: "application/vnd.sqlite3"},

		{method: get, path: "/api/v1/sessions", id: "getSessions", summary: "Who is signed in", out: Sessions{}, do: s.sessions},
		{method: remove, path: "/api/v1/sessions", id: "deleteSessions", summary: "Sign everyone out", out: Done{}, do: s.endSessions},
		{method: post, path: "/api/v1/sign-out", id: "postSignOut", summary: "Sign out", out: Done{}, do: s.postSignOut},
		{method: get, path: "/api/v1/tokens", id: "getTokens", summary: "The tokens there are", out: Tokens{}, do: s.tokens},
		{method: post, path: "/api/v1/tokens", id: "postToken", summary: "Make a token; its secret is shown this once", in: NewToken{},
			out: MadeToken{}, do: s.makeToken, status: 201},
		{method: remove, path: "/api/v1/tokens/:id", id: "deleteToken", summary: "Revoke a token", in: byID{}, out: Done{}, do: s.endToken},

		{method: get, path: "/api/v1/openapi.json", id: "getOpenAPI", summary: "This API's OpenAPI document", out: map[string]any{},
			do: s.document},
	}
	list = append(list, s.reportRoutes()...)
	list = append(list, s.cardRoutes()...)
	list = append(list, s.gearRoutes()...)
	list = append(list, s.sheetRoutes()...)
	list = append(list, s.listRoutes()...)
	list = append(list, s.tableRoutes()...)
	list = append(list, s.photoRoutes()...)
	list = append(list, s.cablingRoutes()...)
	list = append(list, s.networkRoutes()...)
	list = append(list, s.addressRoutes()...)
	list = append(list, s.powerRoutes()...)
	list = append(list, s.storageRoutes()...)
	list = append(list, s.cableFileRoutes()...)
	list = append(list, s.serviceRoutes()...)
	list = append(list, s.trialRoutes()...)
	for _, k := range lab.Kinds() {
		if !k.Alone {
			list = append(list, s.resource(k)...)
		}
	}
	return list
}

// byID is the path of one record.
type byID struct {
	ID string `path:"id"`
}

type byRevision struct {
	Revision int64 `path:"revision"`
}

// draftSteps and draftCopy are the path beside the body.
type (
	draftSteps struct {
		byID
		Steps
	}
	draftCopy struct {
		byID
		DraftCopy
	}
)
