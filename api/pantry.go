package api

import (
	"context"
	"log/slog"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dustyfern/studio"
	"dustyfern/studio/pantry"
	"dustyfern/studio/work"
)

// NumberIn names a lot, or a commission, by its number.
type NumberIn struct {
	InStudio
	ID int64 `path:"id"`
}

// pantryFile is a table or a document of lots, as it was sent.
type pantryFile struct {
	InStudio
	RawBody []byte `contentType:"application/octet-stream"`
}

const mostPantry = 4 << 20

// pantryRoutes registers the pantry and the colour bench.
func pantryRoutes(a huma.API, s *studio.Service, log *slog.Logger) {
	get(a, log, "pantry", "/s/{studio}/pantry", func(ctx context.Context, in *InStudio) (pantry.PantryView, error) { return s.Pantry(ctx, in.Studio) })
	get(a, log, "lot", "/s/{studio}/lots/{id}", func(ctx context.Context, in *NumberIn) (pantry.LotView, error) { return s.Lot(ctx, in.Studio, in.ID) })
	get(a, log, "needs", "/s/{studio}/needs", func(ctx context.Context, in *InStudio) (pantry.NeedsView, error) { return s.Needs(ctx, in.Studio) })
	wide := func(op *huma.Operation) { op.MaxBodyBytes, op.SkipValidateBody = mostPantry, true }
	register(a, log, http.MethodPost, "lookAtPantry", "/s/{studio}/pantry/look", func(ctx context.Context, in *pantryFile) (pantry.PantryPreview, error) {
		return s.LookAtPantry(ctx, in.Studio, in.RawBody)
	}, wide)
	register(a, log, http.MethodPost, "importPantry", "/s/{studio}/pantry/import", func(ctx context.Context, in *pantryFile) (pantry.PantryPreview, error) {
		return s.ImportPantry(ctx, in.Studio, in.RawBody)
	}, wide)
	post(a, log, "takeFromLot", "/s/{studio}/lots/{id}/take", func(ctx context.Context, in *struct {
		NumberIn
		Body struct {
			Amount string `json:"amount" doc:"as people write it: 20 g, 1 tsp"`
			Why    string `json:"why" required:"false"`
		}
	}) (made, error) {
		return made{in.ID}, s.Take(ctx, in.Studio, in.ID, in.Body.Amount, in.Body.Why)
	})
	post(a, log, "feel", "/s/{studio}/lots/{id}/feel/{what}", func(ctx context.Context, in *struct {
		NumberIn
		What string `path:"what"`
	}) (made, error) {
		return made{in.ID}, s.Feel(ctx, in.Studio, in.ID, in.What)
	})
	post(a, log, "compare", "/s/{studio}/lots/{id}/compare", func(ctx context.Context, in *struct {
		NumberIn
		Body work.CompareIn
	}) (made, error) {
		return made{in.ID}, s.Compare(ctx, in.Studio, in.ID, in.Body)
	})
	get(a, log, "colours", "/s/{studio}/commissions/{id}/colours", func(ctx context.Context, in *NumberIn) (work.ColoursView, error) {
		return s.Colours(ctx, in.Studio, in.ID)
	})
	get(a, log, "showRecipe", "/s/{studio}/commissions/{id}/recipe", func(ctx context.Context, in *struct {
		NumberIn
		Target string `query:"target"`
		Base   string `query:"base"`
		Grams  string `query:"grams"`
	}) (work.OtherBase, error) {
		return s.ShowRecipe(ctx, in.Studio, in.ID, in.Target, in.Base, in.Grams)
	})
	get(a, log, "schools", "/s/{studio}/schools", func(ctx context.Context, in *InStudio) ([]work.SchoolView, error) {
		return s.SchoolsOf(ctx, in.Studio)
	})
	post(a, log, "takeSide", "/s/{studio}/schools/{question}/{side}", func(ctx context.Context, in *struct {
		InStudio
		Question string `path:"question"`
		Side     string `path:"side"`
	}) (made, error) {
		return made{}, s.TakeSide(ctx, in.Studio, in.Question, in.Side)
	})
	get(a, log, "together", "/s/{studio}/commissions/{id}/together", func(ctx context.Context, in *NumberIn) (pantry.TogetherView, error) {
		return s.Together(ctx, in.Studio, in.ID)
	})
	post(a, log, "acceptTogether", "/s/{studio}/commissions/{id}/together", func(ctx context.Context, in *NumberIn) (made, error) {
		return made{in.ID}, s.AcceptTogether(ctx, in.Studio, in.ID)
	})
	post(a, log, "mix", "/s/{studio}/pieces/{id}/mix", func(ctx context.Context, in *struct {
		NumberIn
		Body struct {
			Text  string `json:"text"`
			Means string `json:"means" required:"false" enum:",flowerPaste,modellingPaste"`
		}
	}) (made, error) {
		return made{in.ID}, s.Mix(ctx, in.Studio, in.ID, in.Body.Text, in.Body.Means)
	})
	post(a, log, "setColour", "/s/{studio}/colour", func(ctx context.Context, in *struct {
		InStudio
		Body struct {
			IDs  []int64 `json:"ids"`
			From string  `json:"from" enum:",gels,leftovers,asItIs"`
			Gels string  `json:"gels" required:"false"`
		}
	}) (made, error) {
		return made{}, s.SetColour(ctx, in.Studio, in.Body.IDs, in.Body.From, in.Body.Gels)
	})
	post(a, log, "setStrands", "/s/{studio}/strands", func(ctx context.Context, in *struct {
		InStudio
		Body struct {
			IDs   []int64  `json:"ids"`
			With  []string `json:"with" nullable:"false" doc:"swatches of what is half kneaded in; empty: the paste as it comes"`
			Parts string   `json:"parts" doc:"its own first, as 1 : 1 : 2; empty: equal"`
		}
	}) (made, error) {
		return made{}, s.SetStrands(ctx, in.Studio, in.Body.IDs, in.Body.With, in.Body.Parts)
	})
	post(a, log, "setTarget", "/s/{studio}/target", func(ctx context.Context, in *struct {
		InStudio
		Body struct {
			IDs    []int64 `json:"ids"`
			Swatch string  `json:"swatch" doc:"as people write it: #5F8A4A, rgb 95 138 74, Lab 53 -25 29"`
			Name   string  `json:"name"`
		}
	}) (made, error) {
		return made{}, s.SetTarget(ctx, in.Studio, in.Body.IDs, in.Body.Swatch, in.Body.Name)
	})
	get(a, log, "showFinish", "/s/{studio}/finish", func(ctx context.Context, in *struct {
		InStudio
		Lot    int64  `query:"lot"`
		Ground string `query:"ground"`
		Passes int    `query:"passes" minimum:"0" maximum:"20"`
		Spirit string `query:"spirit"`
	}) (work.FinishView, error) {
		return s.ShowFinish(ctx, in.Studio, in.Lot, in.Ground, in.Passes, in.Spirit)
	})
	get(a, log, "showLadder", "/s/{studio}/ladder", func(ctx context.Context, in *struct {
		InStudio
		From  string `query:"from"`
		To    string `query:"to"`
		N     int    `query:"n" minimum:"2" maximum:"20"`
		Grams string `query:"grams"`
	}) (work.LadderView, error) {
		return s.ShowLadder(ctx, in.Studio, in.From, in.To, in.N, in.Grams)
	})
}
