package api

import (
	"context"
	"log/slog"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dustyfern/studio"
	"dustyfern/studio/document"
	"dustyfern/studio/evening"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/pantry"
	"dustyfern/studio/work"
)

// routes registers every operation: decode, one use case, answer.
func routes(a huma.API, s *studio.Service, reset func(context.Context, string) error, log *slog.Logger) {
	studioRoutes(a, s, reset, log)
	for _, of := range []func(huma.API, *studio.Service, *slog.Logger){rowRoutes, drawerRoutes, pantryRoutes, wayRoutes, pieceRoutes, cutRoutes, benchRoutes, journalRoutes, notebookRoutes} {
		of(a, s, log)
	}
}

// studioRoutes are those of a studio as a whole: opened, brought in, put back, deleted, and its kitchen.
func studioRoutes(a huma.API, s *studio.Service, reset func(context.Context, string) error, log *slog.Logger) {
	get(a, log, "studios", "/studios", func(ctx context.Context, _ *struct{}) ([]document.StudioRow, error) { return s.Studios(ctx) })
	post(a, log, "createStudio", "/studios", func(ctx context.Context, in *body[struct {
		Name     string `json:"name"`
		TimeZone string `json:"timeZone,omitempty" maxLength:"80" doc:"of the browser"`
		Language string `json:"language,omitempty" maxLength:"40" doc:"of the browser"`
	}]) (document.StudioRow, error) {
		return s.CreateStudio(ctx, in.Body.Name, studio.Reads{TimeZone: in.Body.TimeZone, Language: in.Body.Language})
	})
	large := func(op *huma.Operation) { op.MaxBodyBytes, op.SkipValidateBody = mostDocument, true }
	register(a, log, http.MethodPost, "look", "/studios/import/look", func(ctx context.Context, in *whole) (document.Preview, error) { return s.Look(ctx, in.RawBody) }, large)
	register(a, log, http.MethodPost, "import", "/studios/import", func(ctx context.Context, in *whole) (document.StudioRow, error) { return s.Import(ctx, in.RawBody) }, large)
	post(a, log, "reset", "/s/{studio}/reset", func(ctx context.Context, in *InStudio) (struct{}, error) {
		if reset == nil {
			return struct{}{}, problem(http.StatusNotFound, "There is no demo here to be put back.")
		}
		return struct{}{}, reset(ctx, in.Studio)
	})
	get(a, log, "kitchen", "/s/{studio}/kitchen", func(ctx context.Context, in *InStudio) (studio.KitchenView, error) { return s.Kitchen(ctx, in.Studio) })
	post(a, log, "changeKitchen", "/s/{studio}/kitchen", func(ctx context.Context, in *struct {
		InStudio
		Body journal.ChangeIn
	}) (studio.KitchenView, error) {
		return s.ChangeKitchen(ctx, in.Studio, in.Body)
	})
	post(a, log, "first", "/s/{studio}/first", func(ctx context.Context, in *struct {
		InStudio
		Body studio.FirstIn
	}) (made, error) {
		id, err := s.First(ctx, in.Studio, in.Body)
		return made{ID: id}, err
	})
	post(a, log, "changeStretch", "/s/{studio}/kitchen/stretch", func(ctx context.Context, in *struct {
		InStudio
		Body studio.StretchIn
	}) (studio.KitchenView, error) {
		return s.ChangeStretch(ctx, in.Studio, in.Body)
	})
	post(a, log, "changeDate", "/s/{studio}/kitchen/dates/{date}", func(ctx context.Context, in *struct {
		InStudio
		Date string `path:"date" maxLength:"40"`
		Body struct {
			Version int64  `json:"version"`
			Says    string `json:"says" maxLength:"400" doc:"empty: as its weekday; shut; or hours and people"`
		}
	}) (studio.KitchenView, error) {
		return s.ChangeDate(ctx, in.Studio, in.Body.Version, in.Date, in.Body.Says)
	})
	post(a, log, "calendarAddress", "/s/{studio}/kitchen/calendar/{do}", func(ctx context.Context, in *struct {
		InStudio
		Do string `path:"do" enum:"renew,off"`
	}) (struct{}, error) {
		return struct{}{}, s.CalendarAddress(ctx, in.Studio, in.Do == "renew")
	})
	register(a, log, http.MethodPost, "lookBusy", "/s/{studio}/kitchen/busy/look", func(ctx context.Context, in *busyIn) (studio.BusyView, error) {
		times, unread, err := in.times(ctx, s)
		if err != nil {
			return studio.BusyView{}, err
		}
		return s.LookBusy(ctx, in.Studio, in.Who, times, unread)
	}, calendarSized)
	register(a, log, http.MethodPost, "takeBusy", "/s/{studio}/kitchen/busy", func(ctx context.Context, in *busyIn) (struct{}, error) {
		times, _, err := in.times(ctx, s)
		if err != nil {
			return struct{}{}, err
		}
		return struct{}{}, s.TakeBusy(ctx, in.Studio, in.Who, times)
	}, calendarSized)
	post(a, log, "freeBusy", "/s/{studio}/kitchen/busy/off", func(ctx context.Context, in *struct {
		InStudio
		Who string `query:"who" maxLength:"80"`
	}) (struct{}, error) {
		return struct{}{}, s.TakeBusy(ctx, in.Studio, in.Who, nil)
	})
	post(a, log, "deleteStudio", "/s/{studio}/delete", func(ctx context.Context, in *struct {
		InStudio
		Body struct {
			Name string `json:"name" doc:"the studio's name, typed"`
		}
	}) (struct{}, error) {
		return struct{}{}, s.DeleteStudio(ctx, in.Studio, in.Body.Name)
	})
}

// rowRoutes are those of rows of every noun, by their kind.
func rowRoutes(a huma.API, s *studio.Service, log *slog.Logger) {
	get(a, log, "commissions", "/s/{studio}/commissions", func(ctx context.Context, in *struct {
		InStudio
		Skip int `query:"skip" minimum:"0" maximum:"1000000" doc:"how many closed ones come before the page"`
	}) (studio.CommissionsView, error) {
		return s.Commissions(ctx, in.Studio, in.Skip)
	})
	get(a, log, "commission", "/s/{studio}/commissions/{id}", func(ctx context.Context, in *NumberIn) (work.CommissionView, error) {
		return s.Commission(ctx, in.Studio, in.ID)
	})
	get(a, log, "piece", "/s/{studio}/pieces/{id}", func(ctx context.Context, in *NumberIn) (work.PieceView, error) {
		return s.ShowPiece(ctx, in.Studio, in.ID)
	})
	get(a, log, "blank", "/s/{studio}/blank/{kind}", func(ctx context.Context, in *struct {
		InStudio
		Kind string `path:"kind" enum:"tools,lots,commissions,pieces,racks"`
		Of   string `query:"of" doc:"the kind of tool"`
	}) (work.RowView, error) {
		return s.Blank(ctx, in.Studio, studio.Kind(in.Kind), in.Of)
	})
	post(a, log, "create", "/s/{studio}/rows/{kind}", func(ctx context.Context, in *struct {
		InStudio
		Kind string `path:"kind" enum:"tools,lots,commissions,pieces,racks"`
		Body newRow
	}) (made, error) {
		id, err := s.Create(ctx, in.Studio, studio.Kind(in.Kind), in.Body.Parent, in.Body.Set)
		return made{id}, err
	})
	post(a, log, "change", "/s/{studio}/rows/{kind}/{id}", func(ctx context.Context, in *struct {
		RowOf
		Body journal.ChangeIn
	}) (made, error) {
		return made{in.ID}, s.Change(ctx, in.Studio, studio.Kind(in.Kind), in.ID, in.Body)
	})
	post(a, log, "remove", "/s/{studio}/rows/{kind}/{id}/remove", func(ctx context.Context, in *RowOf) (made, error) {
		return made{in.ID}, s.Delete(ctx, in.Studio, studio.Kind(in.Kind), in.ID, false)
	})
	post(a, log, "restore", "/s/{studio}/rows/{kind}/{id}/restore", func(ctx context.Context, in *RowOf) (made, error) {
		return made{in.ID}, s.Delete(ctx, in.Studio, studio.Kind(in.Kind), in.ID, true)
	})
	post(a, log, "setState", "/s/{studio}/commissions/{id}/state/{state}", func(ctx context.Context, in *struct {
		InStudio
		ID     int64  `path:"id"`
		State  string `path:"state" enum:"open,aside,handedOver"`
		Anyway bool   `query:"anyway" doc:"although something of it is left to do"`
	}) (made, error) {
		return made{in.ID}, s.SetState(ctx, in.Studio, in.ID, in.State, in.Anyway)
	})
}

// drawerRoutes are those of the tool drawer.
func drawerRoutes(a huma.API, s *studio.Service, log *slog.Logger) {
	get(a, log, "tools", "/s/{studio}/tools", func(ctx context.Context, in *InStudio) ([]pantry.ToolView, error) { return s.Tools(ctx, in.Studio) })
	post(a, log, "copySays", "/s/{studio}/tools/{id}/copies/{do}", func(ctx context.Context, in *struct {
		NumberIn
		Do string `path:"do" enum:"broke,mended,lent,back"`
	}) (made, error) {
		return made{in.ID}, s.CopySays(ctx, in.Studio, in.ID, in.Do)
	})
	post(a, log, "weighStrip", "/s/{studio}/tools/{id}/strip", func(ctx context.Context, in *struct {
		NumberIn
		Body pantry.StripIn
	}) (made, error) {
		return made{in.ID}, s.WeighStrip(ctx, in.Studio, in.ID, in.Body)
	})
	post(a, log, "recast", "/s/{studio}/tools/{id}/cast", func(ctx context.Context, in *NumberIn) (made, error) {
		return made{in.ID}, s.Recast(ctx, in.Studio, in.ID)
	})
	get(a, log, "toolMade", "/s/{studio}/tools/{id}/made", func(ctx context.Context, in *NumberIn) (pantry.MadeView, error) {
		return s.Made(ctx, in.Studio, in.ID)
	})
	get(a, log, "toolKinds", "/s/{studio}/tools/kinds", func(ctx context.Context, in *InStudio) ([]pantry.KindView, error) {
		return s.Kinds(ctx, in.Studio)
	})
	post(a, log, "sketchTool", "/s/{studio}/tools/sketch/{kind}", func(ctx context.Context, in *struct {
		InStudio
		Kind string `path:"kind"`
		Body sketched
	}) (pantry.ToolPicture, error) {
		return s.Sketch(ctx, in.Studio, in.Kind, in.Body.Set)
	})
	register(a, log, http.MethodPost, "photograph", "/s/{studio}/tools/{id}/photo", func(ctx context.Context, in *struct {
		NumberIn
		RawBody []byte `contentType:"application/octet-stream"`
	}) (made, error) {
		jpeg, err := keptSmall(ctx, in.RawBody)
		if err != nil {
			return made{}, err
		}
		return made{in.ID}, s.Photograph(ctx, in.Studio, in.ID, jpeg)
	}, func(op *huma.Operation) { op.MaxBodyBytes, op.SkipValidateBody = mostPhoto, true })
	post(a, log, "unphotograph", "/s/{studio}/tools/{id}/photo/remove", func(ctx context.Context, in *NumberIn) (made, error) {
		return made{in.ID}, s.Photograph(ctx, in.Studio, in.ID, nil)
	})
	post(a, log, "markPhoto", "/s/{studio}/tools/{id}/photo/{photo}/marks", func(ctx context.Context, in *struct {
		NumberIn
		Photo int64 `path:"photo"`
		Body  struct {
			Marks []noun.Spot `json:"marks"`
		}
	}) (made, error) {
		return made{in.ID}, s.Mark(ctx, in.Studio, in.ID, in.Photo, in.Body.Marks)
	})
}

// wayRoutes are those of ways of making.
func wayRoutes(a huma.API, s *studio.Service, log *slog.Logger) {
	get(a, log, "ways", "/s/{studio}/ways", func(ctx context.Context, in *InStudio) ([]studio.TechniqueRow, error) {
		return s.Ways(ctx, in.Studio)
	})
	get(a, log, "way", "/s/{studio}/ways/{key}", func(ctx context.Context, in *struct {
		InStudio
		Key string `path:"key"`
	}) (studio.TechniqueView, error) {
		return s.Way(ctx, in.Studio, in.Key)
	})
	post(a, log, "copyWay", "/s/{studio}/ways/{key}/copy", func(ctx context.Context, in *struct {
		InStudio
		Key  string `path:"key"`
		Body struct {
			Name string `json:"name" doc:"what it is called here"`
		}
	}) (keyed, error) {
		key, err := s.CopyWay(ctx, in.Studio, in.Key, in.Body.Name)
		return keyed{key}, err
	})
	post(a, log, "chooseWay", "/s/{studio}/pieces/{id}/way/{question}", func(ctx context.Context, in *struct {
		NumberIn
		Question string `path:"question"`
		Option   string `query:"option" doc:"empty: as usual"`
	}) (made, error) {
		return made{in.ID}, s.ChooseWay(ctx, in.Studio, in.ID, in.Question, in.Option)
	})
	get(a, log, "offers", "/s/{studio}/commissions/{id}/offers", func(ctx context.Context, in *struct {
		NumberIn
		studio.WishIn
	}) (studio.OffersView, error) {
		return s.Offers(ctx, in.Studio, in.ID, in.WishIn)
	})
	post(a, log, "likeBefore", "/s/{studio}/pieces/{id}/again/{commission}", func(ctx context.Context, in *struct {
		NumberIn
		Commission int64 `path:"commission"`
	}) (made, error) {
		id, err := s.LikeBefore(ctx, in.Studio, in.ID, in.Commission)
		return made{id}, err
	})
}

// pieceRoutes are those of tiers, pieces and their parts.
func pieceRoutes(a huma.API, s *studio.Service, log *slog.Logger) {
	post(a, log, "addTier", "/s/{studio}/commissions/{id}/tiers", func(ctx context.Context, in *NumberIn) (made, error) {
		return made{in.ID}, s.AddTier(ctx, in.Studio, in.ID)
	})
	post(a, log, "takeTier", "/s/{studio}/commissions/{id}/tiers/{at}/off", func(ctx context.Context, in *struct {
		NumberIn
		At int `path:"at"`
	}) (made, error) {
		return made{in.ID}, s.TakeTier(ctx, in.Studio, in.ID, in.At)
	})
	post(a, log, "addPart", "/s/{studio}/pieces/{id}/parts/{at}", func(ctx context.Context, in *struct {
		NumberIn
		At   int `path:"at" doc:"the place of a part that is there; -1: a new one"`
		Body studio.JoinIn
	}) (made, error) {
		id, err := s.AddPart(ctx, in.Studio, in.ID, in.At, in.Body)
		return made{id}, err
	})
	post(a, log, "takePart", "/s/{studio}/pieces/{id}/parts/{at}/off", func(ctx context.Context, in *struct {
		NumberIn
		At int `path:"at"`
	}) (made, error) {
		return made{in.ID}, s.TakePart(ctx, in.Studio, in.ID, in.At)
	})
	post(a, log, "duplicate", "/s/{studio}/pieces/{id}/duplicate", func(ctx context.Context, in *NumberIn) (made, error) {
		id, err := s.Duplicate(ctx, in.Studio, in.ID)
		return made{id}, err
	})
	post(a, log, "move", "/s/{studio}/pieces/{id}/move/{way}", func(ctx context.Context, in *struct {
		InStudio
		ID  int64  `path:"id"`
		Way string `path:"way" enum:"up,down"`
	}) (made, error) {
		return made{in.ID}, s.Move(ctx, in.Studio, in.ID, in.Way == "up")
	})
	post(a, log, "pressMore", "/s/{studio}/pieces/{id}/more/{n}", func(ctx context.Context, in *struct {
		InStudio
		ID int64 `path:"id"`
		N  int   `path:"n"`
	}) (evening.BenchView, error) {
		return s.PressMore(ctx, in.Studio, in.ID, in.N)
	})
}

// journalRoutes are those of what has happened, taken back and done again.
func journalRoutes(a huma.API, s *studio.Service, log *slog.Logger) {
	get(a, log, "journal", "/s/{studio}/journal", func(ctx context.Context, in *struct {
		InStudio
		Commission int64 `query:"commission"`
		Before     int64 `query:"before" doc:"the entry before which the page begins"`
	}) (journal.JournalView, error) {
		return s.Journal(ctx, in.Studio, in.Commission, in.Before)
	})
	post(a, log, "undo", "/s/{studio}/journal/undo", func(ctx context.Context, in *struct {
		InStudio
		Entry int64 `query:"entry" required:"true" minimum:"1" doc:"the line that is meant"`
		Last  bool  `query:"last" doc:"it is meant as the last thing that was done: refused when something has been done since"`
	}) (made, error) {
		return made{in.Entry}, s.Undo(ctx, in.Studio, in.Entry, in.Last)
	})
	post(a, log, "redo", "/s/{studio}/journal/redo", func(ctx context.Context, in *struct {
		InStudio
		Entry int64 `query:"entry" required:"true" minimum:"1" doc:"the line that took it back"`
	}) (made, error) {
		return made{in.Entry}, s.Redo(ctx, in.Studio, in.Entry)
	})
}
