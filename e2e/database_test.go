package e2e

import (
	"context"
	"os"
	"os/exec"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5"

	"dustyfern/localpg"
)

// TestAnotherPostgreSQL points the program at somebody else's server.
func TestAnotherPostgreSQL(t *testing.T) {
	ctx := context.Background()
	dir, err := os.MkdirTemp("", "dfother")
	if err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(dir)
	c, err := localpg.Start(ctx, localpg.Options{Dir: dir, DieWithUs: true})
	if err != nil {
		t.Fatal(err)
	}
	defer c.Stop()
	conn, err := pgx.Connect(ctx, c.DSN("postgres"))
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close(ctx)
	for _, q := range []string{"CREATE ROLE dustyfern_app LOGIN PASSWORD 'abc' NOSUPERUSER NOBYPASSRLS", "CREATE DATABASE cakes"} {
		if _, err := conn.Exec(ctx, q); err != nil {
			t.Fatal(err)
		}
	}
	owner, app := c.DSN("cakes"), c.DSNAs("dustyfern_app", "abc", "cakes")
	if code, said := once(t, []string{"DATABASE_URL=" + owner}, "--port", "0"); code == 0 || !strings.Contains(said, "superuser") {
		t.Errorf("a superuser was let in: %d %s", code, said)
	}
	p := &program{data: dir}
	t.Setenv("DATABASE_OWNER_URL", owner)
	p.env = []string{"DATABASE_URL=" + app}
	p.start(t)
	var rows []any
	if p.get(t, "/studios", &rows); len(rows) != 0 {
		t.Errorf("it got demo data unasked: %v", rows)
	}
	cmd := exec.Command(binary, "demo")
	cmd.Env = append(os.Environ(), "DATABASE_URL="+app)
	if out, err := cmd.CombinedOutput(); err != nil {
		t.Errorf("%v %s", err, out)
	}
	if p.get(t, "/studios", &rows); len(rows) != 1 {
		t.Errorf("asked for, the demo is not there: %v", rows)
	}
	p.stop(t)
}
