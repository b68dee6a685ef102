package plan

import (
	"fmt"

	"dustyfern/studio/noun"
)

func opBatch(piece int64, part int) string { return fmt.Sprintf("p%d.%d", piece, part) }

func OpID(p *noun.Piece, part int, kind string) string { return opBatch(p.ID, part) + "." + kind }
