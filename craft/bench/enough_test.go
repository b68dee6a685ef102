package bench

import (
	"context"
	"errors"
	"testing"
)

// Who has waited long enough gets the best so far, a whole plan; who goes away gets none.
func TestTheBestSoFarIsTaken(t *testing.T) {
	t.Parallel()
	in := load(t, "large-1")
	ctx, cancel := context.WithCancelCause(t.Context())
	cancel(ErrEnough)
	p, err := BuildWithin(ctx, BuildIn{Instance: in})
	if err != nil {
		t.Fatal(err)
	}
	for _, v := range violations(t, in, p) {
		t.Error(v)
	}
	gone, leave := context.WithCancel(t.Context())
	leave()
	if _, err := BuildWithin(gone, BuildIn{Instance: in}); !errors.Is(err, ErrTime) {
		t.Errorf("%v, and nobody waits for it", err)
	}
}
