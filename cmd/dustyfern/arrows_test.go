package main

import (
	"encoding/json"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// TestArrows keeps the house: what each room may import of ours.
func TestArrows(t *testing.T) {
	may := map[string][]string{
		"craft": {"craft"}, "studio": {"studio/noun", "studio/read", "studio/journal", "studio/work", "studio/plan", "studio/evening", "studio/pantry", "studio/shelf", "studio/notebook", "studio/leaving", "studio/mending", "studio/document", "studio/template", "craft"}, "store": {"studio", "craft"}, "device": {"studio", "craft", "device/protocol"}, "device/protocol": {"craft"}, "reckon": {"craft"},
		"api": {"studio", "craft", "reckon"}, "demo": {"studio", "studio/journal", "studio/document"}, "localpg": {}, "ui": {}, "e2e": {"localpg"},
		"store/storetest": {"store", "localpg"}, // what the tests of several rooms share
		// the rooms of the studio, in the order in which data passes them
		"studio/noun": {"craft"}, "studio/read": {"studio/noun", "craft"}, "studio/journal": {"studio/noun", "studio/read", "craft"},
		"studio/work":     {"studio/noun", "studio/read", "craft"},
		"studio/template": {"craft"},
		"studio/plan":     {"studio/noun", "studio/read", "studio/journal", "studio/work", "craft"},
		"studio/evening":  {"studio/noun", "studio/read", "studio/journal", "studio/work", "studio/plan", "craft"},
		"studio/pantry":   {"studio/noun", "studio/read", "studio/journal", "studio/work", "studio/plan", "craft"},
		"studio/shelf":    {"studio/noun", "studio/read", "studio/journal", "studio/work", "studio/plan", "craft"},
		"studio/notebook": {"studio/noun", "studio/read", "studio/journal", "studio/work", "studio/plan", "craft"},
		"studio/leaving":  {"studio/noun", "studio/read", "studio/journal", "studio/work", "studio/plan", "studio/template", "craft"},
		"studio/mending":  {"studio/noun", "studio/read", "studio/journal", "studio/work", "studio/plan", "craft"},
		"studio/document": {"studio/noun", "studio/read", "studio/journal", "studio/work", "studio/plan", "craft"},
	}
	cmd := exec.Command("go", "list", "-json=ImportPath,Imports", "./...")
	cmd.Dir = "../.."
	out, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	room := func(path string) string {
		path = strings.TrimPrefix(path, "dustyfern/")
		if _, own := may[path]; own {
			return path
		}
		return strings.SplitN(path, "/", 2)[0]
	}
	seen := 0
	for d := json.NewDecoder(strings.NewReader(string(out))); d.More(); {
		var p struct {
			ImportPath string
			Imports    []string
		}
		if err := d.Decode(&p); err != nil {
			t.Fatal(err)
		}
		seen++
		from := room(p.ImportPath)
		for _, word := range []string{"util", "common", "helpers", "types", "models"} {
			if strings.HasSuffix(p.ImportPath, "/"+word) {
				t.Errorf("%s: a package is named after what it holds", p.ImportPath)
			}
		}
		for _, i := range p.Imports {
			if from == "craft" {
				for _, outside := range []string{"os", "net", "net/http", "database/sql", "math/rand", "math/rand/v2"} {
					if i == outside {
						t.Errorf("%s imports %s: the core does no I/O and throws no dice", p.ImportPath, i)
					}
				}
			}
			if from == "cmd" || !strings.HasPrefix(i, "dustyfern/") {
				continue
			}
			ok := false
			for _, to := range may[from] {
				// who stands outside may ask any room of the studio
				ok = ok || room(i) == to || to == "studio" && strings.HasPrefix(room(i), "studio/")
			}
			if !ok {
				t.Errorf("%s may not import %s", p.ImportPath, i)
			}
		}
	}
	if seen < 12 {
		t.Fatalf("go list saw only %d packages", seen)
	}
}

// TestNobodyNamesATechnique: a way of making is known by its file alone; no code of
// either side compares its key.
func TestNobodyNamesATechnique(t *testing.T) {
	key := regexp.MustCompile("[\"'`]T[0-9]{2}[\"'`]")
	seen := 0
	for _, dir := range []string{"../../craft", "../../studio", "../../store", "../../api", "../../reckon", "../../cmd", "../../ui/src"} {
		err := filepath.WalkDir(dir, func(path string, d fs.DirEntry, err error) error {
			ext := filepath.Ext(path)
			if err != nil || d.IsDir() || strings.HasSuffix(path, "_test.go") || ext != ".go" && ext != ".vue" && ext != ".ts" {
				return err
			}
			seen++
			text, err := os.ReadFile(path)
			if at := key.Find(text); at != nil && !strings.HasSuffix(path, "craft/finish/chain.go") { // whose input is a code
				t.Errorf("%s names the technique %s", path, at)
			}
			return err
		})
		if err != nil {
			t.Fatal(err)
		}
	}
	if seen < 200 {
		t.Errorf("only %d files were looked at", seen)
	}
}
