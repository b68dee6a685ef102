package e2e

import (
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5"

	"dustyfern/localpg"
	"dustyfern/store"
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

	// its keeper takes a copy, and it comes back in another place
	for _, q := range []string{"CREATE ROLE keeper LOGIN PASSWORD 'def' BYPASSRLS", "GRANT pg_read_all_data TO keeper", "CREATE DATABASE again"} {
		if _, err := conn.Exec(ctx, q); err != nil {
			t.Fatal(err)
		}
	}
	dump := filepath.Join(t.TempDir(), "cakes.dump")
	tool(t, "pg_dump", "--format=custom", "--file="+dump, "--dbname="+c.DSNAs("keeper", "def", "cakes"))
	tool(t, "pg_restore", "--no-owner", "--dbname="+c.DSN("again"), dump)
	t.Setenv("DATABASE_OWNER_URL", c.DSN("again"))
	p.env = []string{"DATABASE_URL=" + c.DSNAs("dustyfern_app", "abc", "again")}
	p.start(t)
	if p.get(t, "/studios", &rows); len(rows) != 1 {
		t.Errorf("what was dumped did not come back: %v", rows)
	}
	p.stop(t)

	// a grant that is missing, and tables of a later program
	again, err := pgx.Connect(ctx, c.DSN("again"))
	if err != nil {
		t.Fatal(err)
	}
	defer again.Close(ctx)
	for _, x := range []struct{ do, says string }{
		{"REVOKE INSERT ON journal FROM dustyfern_app", "may not read and write journal: as the owner say GRANT"},
		{"INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, true)", "made by a newer Dusty Fern"},
	} {
		if _, err := again.Exec(ctx, x.do); err != nil {
			t.Fatal(err)
		}
		if code, said := once(t, p.env, "--port", "0"); code == 0 || !strings.Contains(said, x.says) {
			t.Errorf("%s: %d %s", x.do, code, said)
		}
	}
}

// tool runs one of PostgreSQL's own programs.
func tool(t *testing.T, name string, args ...string) string {
	t.Helper()
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/" + name)
	if len(found) == 0 {
		t.Fatal("no " + name)
	}
	out, err := exec.Command(found[len(found)-1], args...).CombinedOutput()
	if err != nil {
		t.Fatalf("%s: %v %s", name, err, out)
	}
	return string(out)
}

// TestADatabaseOfBefore is brought up to date with what was done in it: two of
// seventeen caps pressed, a clock set by hand, gels kept by their names.
func TestADatabaseOfBefore(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	dir, err := os.MkdirTemp("", "dfbefore")
	if err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(dir)
	c, err := localpg.Start(ctx, localpg.Options{Dir: dir, DieWithUs: true})
	if err != nil {
		t.Fatal(err)
	}
	word, err := localpg.Secret(dir, "app.password")
	if err != nil {
		t.Fatal(err)
	}
	if err := c.EnsureDatabase(ctx, "dustyfern"); err != nil {
		t.Fatal(err)
	}
	if err := store.PrepareRole(ctx, c.DSN("dustyfern"), word); err != nil {
		t.Fatal(err)
	}
	packed, err := os.Open("testdata/version5.sql.gz")
	if err != nil {
		t.Fatal(err)
	}
	defer packed.Close()
	plain, err := gzip.NewReader(packed)
	if err != nil {
		t.Fatal(err)
	}
	sql, err := io.ReadAll(plain)
	if err != nil {
		t.Fatal(err)
	}
	conn, err := pgx.Connect(ctx, c.DSN("dustyfern"))
	if err != nil {
		t.Fatal(err)
	}
	for _, q := range []string{string(sql), "UPDATE public.pieces SET gels = 'Lagoon teal + Marigold orange' WHERE id = 5"} {
		if _, err := conn.PgConn().Exec(ctx, q).ReadAll(); err != nil {
			t.Fatal(err)
		}
	}
	conn.Close(ctx)
	if err := c.Stop(); err != nil {
		t.Fatal(err)
	}

	p := &program{data: dir}
	p.start(t, "--now", "2026-11-24T20:12:00Z")
	if !strings.Contains(p.told, "A copy of the database as it was is in "+filepath.Join(dir, "dumps")) {
		t.Error(p.told)
	}
	dumps, _ := filepath.Glob(filepath.Join(dir, "dumps", "before-version-5-*.dump"))
	if len(dumps) != 1 || !strings.Contains(tool(t, "pg_restore", "--list", dumps[0]), "TABLE DATA public pieces") {
		t.Errorf("%v is no copy", dumps)
	}
	var b struct {
		Now    struct{ Op string }
		Move   struct{ N, Of int }
		Timers []struct {
			ID, Says string
			Then     []struct{ Kind, Says string }
		}
		Tallies []struct{ PieceID, Made int }
	}
	p.get(t, demoStudio+"/bench", &b)
	if b.Now.Op != "p4.1.press" || b.Move.N != 3 || b.Move.Of != 17 || b.Tallies[1].Made != 2 {
		t.Errorf("%+v", b)
	}
	found := 0
	for _, x := range b.Timers {
		if x.Says == "Look at the ganache" || x.Says == "Fern fronds, small: bend them before Tue 18:22" {
			found++
		}
		for _, y := range x.Then {
			if y.Kind == "join" && strings.HasPrefix(y.Says, "Fern fronds, small: firm about ") {
				found++
			}
		}
	}
	if found != 3 {
		t.Errorf("%+v", b.Timers)
	}
	export := exec.Command(binary, "export", "--data", dir, "hollow-lane-sugar-room")
	export.Env = append(os.Environ(), "DATABASE_URL=")
	doc, err := export.Output()
	var d struct {
		Lots []struct {
			Number int
			Name   string
		}
		Commissions []struct {
			Pieces []struct {
				Name    string
				GelLots []int
			}
		}
	}
	if err != nil || json.Unmarshal(doc, &d) != nil {
		t.Fatal(err)
	}
	var gels []string
	for _, x := range d.Commissions[0].Pieces[4].GelLots {
		gels = append(gels, d.Lots[x-1].Name)
	}
	if fmt.Sprint(gels) != "[Lagoon teal Marigold orange]" && fmt.Sprint(gels) != "[Marigold orange Lagoon teal]" {
		t.Errorf("the gels are %v", gels)
	}
	p.stop(t)
}
