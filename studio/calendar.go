package studio

import (
	"fmt"
)

func opBatch(piece int64, part int) string { return fmt.Sprintf("p%d.%d", piece, part) }

func opID(p *Piece, part int, kind string) string { return opBatch(p.ID, part) + "." + kind }
