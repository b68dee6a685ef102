package work

import (
	"fmt"

	"dustyfern/craft/piece"
	"dustyfern/studio/read"
)

// PairShare is how much heavier the heavier ball of a pair may be (assumed).
const PairShare = 0.03

// RopeSays is how so many balls are cut from one rope: its grams, its length at the width
// of a ball, and how far apart the cuts lie; "" while a piece is not weighed.
func RopeSays(w *Reckoned, balls int, r read.Reader) string {
	if !w.balls() && w.PieceG == 0 || balls < 2 || w.PieceG <= 0 {
		return ""
	}
	n := balls
	if w.Batch.TooCoarse {
		n = *w.Batch.RopePieces
	}
	one, err := piece.OnePiece(piece.PieceIn{TrialPieceG: &w.PieceG})
	if err != nil {
		return ""
	}
	g := w.PieceG * float64(n)
	rope, err := piece.OnePiece(piece.PieceIn{TrialPieceG: &g, RopeMM: &one.BallDiameterMM})
	if err != nil || rope.RopeLengthMM == nil {
		return ""
	}
	return fmt.Sprintf("As a rope: %s, rolled %s thick it is %s long; a cut every %s gives %d.", r.Mass(g), r.Length(one.BallDiameterMM), r.Length(*rope.RopeLengthMM), r.Length(*rope.RopeLengthMM/float64(n)), n)
}
