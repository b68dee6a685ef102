package api

import (
	"context"
	"log/slog"
	"net/http"
	"net/url"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"dustyfern/craft/fault"
	"dustyfern/studio"
	"dustyfern/studio/notebook"
	"dustyfern/studio/read"
	"dustyfern/studio/shelf"
)

// RoomSensor is the one that is read. StandIn is nil when it is a real one.
type RoomSensor struct {
	Reads   interface{ Heard() []shelf.Heard }
	StandIn interface {
		Behave(mode string)
		State() string
	}
	Modes []string
}

func (s *RoomSensor) heard() []shelf.Heard {
	if s == nil {
		return nil
	}
	return s.Reads.Heard()
}

// roomEvery is how often the air is looked at while somebody looks on: however fast a
// sensor speaks, a window hears of it twice a second.
const roomEvery = 400 * time.Millisecond

// roomLive pushes what the sensor says of each place as it changes.
func roomLive(s *studio.Service, sensor *RoomSensor, live *Live, log *slog.Logger) echo.HandlerFunc {
	return deviceLive(live, log, "room", roomEvery, func(ctx context.Context, slug string, _ url.Values) (func() shelf.LiveView, error) {
		sees, err := s.Shelf.Live(ctx, slug)
		return func() shelf.LiveView { return sees(sensor.heard()) }, err
	})
}

// mostTable is how large a table may be that is brought in: a year of readings by the
// minute.
const mostTable = 40 << 20

func tableSized(op *huma.Operation) { op.MaxBodyBytes, op.SkipValidateBody = mostTable, true }

// readingsIn is a table of readings, and which of its columns is which.
type readingsIn struct {
	InStudio
	Rack    int64  `query:"rack" minimum:"0" doc:"where they were read; 0: in the kitchen"`
	At      int    `query:"at" minimum:"-1" default:"-1" doc:"column of the time, from 0; -1: guessed"`
	Temp    int    `query:"temp" minimum:"-1" default:"-1"`
	RH      int    `query:"rh" minimum:"-1" default:"-1"`
	RawBody []byte `contentType:"application/octet-stream"`
}

func (in *readingsIn) columns() shelf.Columns {
	return shelf.Columns{At: in.At, Temp: in.Temp, RH: in.RH}
}

// cameIn is how many rows of a table were kept.
type cameIn struct {
	N    int    `json:"n"`
	Says string `json:"says"`
}

func came(n int, what string) cameIn { return cameIn{n, read.Count(n, what) + " came in."} }

// roomRoutes are the air, where things dry, and what lies there.
func roomRoutes(a huma.API, s *studio.Service, sensor *RoomSensor, log *slog.Logger) {
	rooms := func(ctx context.Context, slug string) (shelf.RoomView, error) {
		v, err := s.Shelf.Rooms(ctx, slug, sensor.heard())
		if sensor != nil && sensor.StandIn != nil {
			v.StandIn, v.Mode = true, sensor.StandIn.State()
		}
		return v, err
	}
	get(a, log, "room", "/s/{studio}/room", func(ctx context.Context, in *InStudio) (shelf.RoomView, error) { return rooms(ctx, in.Studio) })
	get(a, log, "roomStrip", "/s/{studio}/room/strip", func(ctx context.Context, in *struct {
		InStudio
		Rack  int64 `query:"rack" minimum:"0"`
		Hours int   `query:"hours" default:"72" doc:"72, 720 or 8760"`
	}) (shelf.StripView, error) {
		return s.Shelf.Strip(ctx, in.Studio, in.Rack, in.Hours)
	})
	post(a, log, "roomStandIn", "/s/{studio}/room/standIn", func(ctx context.Context, in *struct {
		InStudio
		Body struct {
			Mode string `json:"mode" doc:"off, usual day, damp spell, dropouts, nonsense or unplugged"`
		}
	}) (shelf.RoomView, error) {
		if sensor == nil || sensor.StandIn == nil {
			return shelf.RoomView{}, problem(http.StatusNotFound, "A real room sensor is read: its air is not set from here.")
		}
		if !slices.Contains(sensor.Modes, in.Body.Mode) {
			return shelf.RoomView{}, fault.New(fault.UnknownValue, "mode", "It can be off, a usual day, a damp spell, with dropouts, with nonsense, or unplugged.")
		}
		sensor.StandIn.Behave(in.Body.Mode)
		return rooms(ctx, in.Studio)
	})
	register(a, log, http.MethodPost, "lookReadings", "/s/{studio}/room/readings/look", func(ctx context.Context, in *readingsIn) (shelf.ReadingsFile, error) {
		return s.Shelf.LookIn(ctx, in.Studio, in.RawBody, in.columns())
	}, tableSized)
	register(a, log, http.MethodPost, "takeReadings", "/s/{studio}/room/readings", func(ctx context.Context, in *readingsIn) (cameIn, error) {
		n, err := s.Shelf.BringIn(ctx, in.Studio, in.Rack, in.RawBody, in.columns())
		return came(n, "reading"), err
	}, tableSized)
	get(a, log, "shelf", "/s/{studio}/shelf", func(ctx context.Context, in *InStudio) (shelf.ShelfView, error) { return s.Shelf.Look(ctx, in.Studio) })
	post(a, log, "tend", "/s/{studio}/shelf/{op}", func(ctx context.Context, in *struct {
		InStudio
		Op     string `path:"op"`
		Anyway bool   `query:"anyway" doc:"although that is not usual for such a piece"`
		Body   shelf.TendIn
	}) (shelf.ShelfView, error) {
		return s.Shelf.Tend(ctx, in.Studio, in.Op, in.Body, in.Anyway)
	})
}

// notesIn is a table of notes, and which of its columns are taken for which: at=0&name=2.
type notesIn struct {
	InStudio
	Match   []string `query:"match" maxItems:"30" doc:"column by name and place: name:2; -1: none"`
	RawBody []byte   `contentType:"application/octet-stream"`
}

func (in *notesIn) matched() map[string]int {
	out := map[string]int{}
	for _, m := range in.Match {
		name, at, ok := cutLast(m)
		if ok {
			out[name] = at
		}
	}
	return out
}

// noted is a note that was made, in words.
type noted struct {
	ID   int64  `json:"id"`
	Says string `json:"says"`
}

// notebookRoutes are notes and what they taught.
func notebookRoutes(a huma.API, s *studio.Service, log *slog.Logger) {
	get(a, log, "notebook", "/s/{studio}/notebook", func(ctx context.Context, in *struct {
		InStudio
		Find string `query:"find" maxLength:"200"`
		Skip int    `query:"skip" minimum:"0" maximum:"1000000"`
	}) (notebook.NotebookView, error) {
		return s.Notebook.Read(ctx, in.Studio, in.Find, in.Skip)
	})
	get(a, log, "learnt", "/s/{studio}/notebook/learnt", func(ctx context.Context, in *InStudio) (notebook.TaughtView, error) {
		return s.Notebook.Learnt(ctx, in.Studio)
	})
	post(a, log, "note", "/s/{studio}/notes", func(ctx context.Context, in *struct {
		InStudio
		Body notebook.NoteIn
	}) (noted, error) {
		id, says, err := s.Notebook.Note(ctx, in.Studio, in.Body)
		return noted{id, says}, err
	})
	post(a, log, "leaveNote", "/s/{studio}/notes/{id}/{do}", func(ctx context.Context, in *struct {
		NumberIn
		Do string `path:"do" enum:"leave,take"`
	}) (made, error) {
		return made{in.ID}, s.Notebook.Leave(ctx, in.Studio, in.ID, in.Do == "leave")
	})
	register(a, log, http.MethodPost, "photographNote", "/s/{studio}/notes/{id}/photo", func(ctx context.Context, in *struct {
		NumberIn
		RawBody []byte `contentType:"application/octet-stream"`
	}) (made, error) {
		jpeg, err := keptSmall(ctx, in.RawBody)
		if err != nil {
			return made{}, err
		}
		return made{in.ID}, s.Notebook.Photograph(ctx, in.Studio, in.ID, jpeg)
	}, func(op *huma.Operation) { op.MaxBodyBytes, op.SkipValidateBody = mostPhoto, true })
	post(a, log, "setBack", "/s/{studio}/notebook/setBack", func(ctx context.Context, in *struct {
		InStudio
		Body struct {
			Paste string `json:"paste" maxLength:"40" doc:"empty: all of them"`
		}
	}) (struct{}, error) {
		if err := notebook.CheckPaste(in.Body.Paste); err != nil {
			return struct{}{}, err
		}
		return struct{}{}, s.Notebook.SetBack(ctx, in.Studio, in.Body.Paste)
	})
	register(a, log, http.MethodPost, "lookNotes", "/s/{studio}/notebook/look", func(ctx context.Context, in *notesIn) (notebook.NotesFile, error) {
		return s.Notebook.LookIn(ctx, in.Studio, in.RawBody, in.matched())
	}, tableSized)
	register(a, log, http.MethodPost, "takeNotes", "/s/{studio}/notebook/take", func(ctx context.Context, in *notesIn) (cameIn, error) {
		n, err := s.Notebook.BringIn(ctx, in.Studio, in.RawBody, in.matched())
		return came(n, "note"), err
	}, tableSized)
}
