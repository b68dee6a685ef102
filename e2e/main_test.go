// Package e2e drives the real interface of the built program in Chromium.
package e2e

import (
	"bufio"
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"runtime/debug"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/proto"
	"github.com/go-rod/rod/lib/utils"

	"dustyfern/store/storetest/memory"
)

const tuesdayEvening = "2026-11-24T20:12:00Z"

// evening is the first of the demo's plan, a day after it was loaded.
const evening = "2026-11-25T19:00:00Z"

// tonight is its first step.
const tonight = "Knead 44 g for Fern fronds, large, part 1 of 2"

var (
	browser *rod.Browser
	binary  string
	axe     string
	shown   string // the studio that the tests walk through: it stays as it is when the demo grows
	begun   string // a data folder with the demo of Tuesday evening, to be copied
	hung    string // the same a day later, with the line hung for the evening
)

func TestMain(m *testing.M) { os.Exit(run(m)) }

func run(m *testing.M) int {
	dir, err := os.MkdirTemp(memory.Dir(), "dfe2e")
	if err != nil {
		fmt.Println(err)
		return 1
	}
	defer os.RemoveAll(dir)
	binary = filepath.Join(dir, "dustyfern")
	build := exec.Command("go", "build", "-o", binary, "../cmd/dustyfern")
	if out, err := build.CombinedOutput(); err != nil {
		fmt.Printf("%v\n%s", err, out)
		return 1
	}
	if shown, err = unpacked(dir); err != nil {
		fmt.Println(err)
		return 1
	}
	begun, hung = filepath.Join(dir, "begun"), filepath.Join(dir, "hung")
	if err := begin(begun, tuesdayEvening); err != nil {
		fmt.Println(err)
		return 1
	}
	if out, err := exec.Command("cp", "-a", begun, hung).CombinedOutput(); err != nil {
		fmt.Printf("%v %s", err, out)
		return 1
	}
	if err := begin(hung, evening); err != nil {
		fmt.Println(err)
		return 1
	}
	source, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	if err != nil {
		fmt.Println("the interface is not built:", err)
		return 1
	}
	axe = string(source)
	l := launcher.New().
		Bin("/usr/lib/chromium/chromium-headless-shell"). // without Bin Rod looks around and then downloads one; opens a window with a fifth of the work of the whole browser
		Leakless(false).
		UserDataDir(filepath.Join(dir, "chrome")).
		NoSandbox(os.Geteuid() == 0).
		Set("force-prefers-reduced-motion").     // what moves is drawn sixty times a second, for nobody
		Set("js-flags", "--no-opt --no-maglev"). // no window lives long enough for its script to be made fast
		Set("v8-cache-options", "none").Set("disable-gpu").Set("disable-quic").Set("no-first-run").
		Set("disable-background-networking").
		// tests run beside one another: a window behind another is as awake as the one in front
		Set("disable-renderer-backgrounding").Set("disable-backgrounding-occluded-windows").Set("disable-background-timer-throttling").
		Set("disable-component-update").Set("disable-sync").
		Set("force-device-scale-factor", "1").Set("hide-scrollbars").Set("font-render-hinting", "none").
		Set("lang", "en-GB").Env(append(os.Environ(), "LANGUAGE=en_GB", "TZ=Europe/London")...).
		Logger(io.Discard)
	u, err := l.Launch()
	if err != nil {
		fmt.Println(err)
		return 1
	}
	defer l.Kill()
	browser = rod.New().ControlURL(u).MustConnect()
	defer browser.MustClose()
	return m.Run()
}

// unpacked puts the tests' studio into a folder.
func unpacked(dir string) (string, error) {
	f, err := os.Open("testdata/studio.json.gz")
	if err != nil {
		return "", err
	}
	defer f.Close()
	raw, err := gzip.NewReader(f)
	if err != nil {
		return "", err
	}
	text, err := io.ReadAll(raw)
	if err != nil {
		return "", err
	}
	file := filepath.Join(dir, "studio.json")
	return file, os.WriteFile(file, text, 0o600)
}

// asDemo are the words by which the program takes the tests' studio as its demo; none where
// pictures of the demo itself are made.
func asDemo() []string {
	if os.Getenv("SHOTS") != "" {
		return nil
	}
	return []string{"--demo", shown}
}

// begin starts the program on a folder at an instant, and stops it when its line is hung.
func begin(data, at string) error {
	if err := os.Chmod(filepath.Dir(data), 0o755); err != nil {
		return err
	}
	cmd := exec.Command(binary, slices.Concat([]string{"start", "--port", "0", "--fast", "--data", data, "--now", at}, asDemo())...)
	cmd.Env = append(os.Environ(), "DATABASE_URL=")
	pipe, err := cmd.StdoutPipe()
	if err != nil {
		return err
	}
	if err := cmd.Start(); err != nil {
		return err
	}
	var wrong error
	for lines := bufio.NewScanner(pipe); lines.Scan(); {
		if u, ok := strings.CutPrefix(lines.Text(), "Dusty Fern is ready: "); ok {
			wrong = untilHung(u)
			wrong = errors.Join(wrong, cmd.Process.Signal(syscall.SIGINT))
		}
	}
	return errors.Join(wrong, cmd.Wait())
}

// folder is a data folder of a test's own, as it is after a first start.
func folder(t testing.TB) string { return copyOf(t, begun) }

func copyOf(t testing.TB, from string) string {
	t.Helper()
	data, err := os.MkdirTemp(memory.Dir(), "dfdata")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { os.RemoveAll(data) })
	if out, err := exec.Command("cp", "-a", from+"/.", data).CombinedOutput(); err != nil {
		t.Fatalf("%v %s", err, out)
	}
	return data
}

// program is a running dustyfern of its own, with its data.
type program struct {
	cmd  *exec.Cmd
	data string
	url  string
	env  []string
	out  *strings.Builder
	told string // what it said of its start
	done chan error
	args []string // of this program alone
	safe bool     // writes reach the disk, as in a real kitchen
}

// start runs the built program on a free port with a fixed clock.
func start(t testing.TB, args ...string) *program {
	t.Helper()
	p := &program{data: copyOf(t, hung)}
	p.start(t, append([]string{"--now", evening}, args...)...)
	t.Cleanup(func() { p.stop(t) })
	return p
}

// startAt runs the program with a clock that the test moves.
func startAt(t testing.TB, at string) *program {
	t.Helper()
	p := &program{data: folder(t)}
	p.clock(t, at)
	p.args = []string{"--clock", p.clockFile()}
	p.start(t)
	t.Cleanup(func() { p.stop(t) })
	return p
}

func (p *program) clockFile() string { return p.data + ".clock" }

// clock sets the program's time; every window hears of it within a moment.
func (p *program) clock(t testing.TB, at string) {
	t.Helper()
	if err := os.WriteFile(p.clockFile()+".new", []byte(at), 0o600); err != nil {
		t.Fatal(err)
	}
	if err := os.Rename(p.clockFile()+".new", p.clockFile()); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { os.Remove(p.clockFile()) })
}

// again starts a stopped program where it was: same data, same address.
func (p *program) again(t testing.TB) {
	t.Helper()
	p.start(t, "--port", p.url[strings.LastIndex(p.url, ":")+1:])
}

func (p *program) start(t testing.TB, args ...string) {
	t.Helper()
	how := []string{"start", "--port", "0", "--fast", "--data", p.data}
	if p.safe {
		how = []string{"start", "--port", "0", "--data", p.data}
	}
	p.cmd = exec.Command(binary, slices.Concat(how, asDemo(), p.args, args)...)
	p.cmd.Env = append(append(os.Environ(), "DATABASE_URL="), p.env...)
	pipe, err := p.cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	p.told = ""
	p.out, p.done = &strings.Builder{}, make(chan error, 1)
	p.cmd.Stderr = p.out
	if err := p.cmd.Start(); err != nil {
		t.Fatal(err)
	}
	lines := bufio.NewScanner(pipe)
	for lines.Scan() {
		p.told += lines.Text() + "\n"
		if u, ok := strings.CutPrefix(lines.Text(), "Dusty Fern is ready: "); ok {
			p.url = u
			go func() {
				_, _ = io.Copy(io.Discard, pipe)
				p.done <- p.cmd.Wait()
			}()
			return
		}
	}
	t.Fatalf("it did not start: %v\n%s", p.cmd.Wait(), p.out)
}

func (p *program) stop(t testing.TB) {
	if p.cmd.ProcessState != nil || p.cmd.Process == nil {
		return
	}
	_ = p.cmd.Process.Signal(syscall.SIGINT)
	select {
	case <-p.done:
	case <-time.After(15 * time.Second):
		_ = p.cmd.Process.Kill()
		t.Error("it did not stop within 15 s")
	}
}

const demoStudio = "/s/hollow-lane-sugar-room"

// open shows an address in a window of its own, 1280x800.
func (p *program) open(t testing.TB, path string) *rod.Page {
	t.Helper()
	b := browser.MustIncognito()
	ctx, cancel := context.WithTimeout(context.Background(), 10*patience) // every wait below ends by then, even of the walk through every way
	page, err := b.Page(proto.TargetCreateTarget{})
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		cancel()
		_ = page.Context(context.Background()).Close()
		_ = proto.TargetDisposeBrowserContext{BrowserContextID: b.BrowserContextID}.Call(b)
	})
	// look often: Rod's own sleeper backs off to a second
	page = page.Context(ctx).Sleeper(func() utils.Sleeper { return utils.BackoffSleeper(20*time.Millisecond, 100*time.Millisecond, nil) })
	// what never comes fails its test, not all of them
	page = page.WithPanic(func(err any) { t.Fatalf("%v at%s", err, whereIn(debug.Stack())) })
	page.MustSetViewport(1280, 800, 1, false)
	if err := (proto.EmulationSetFocusEmulationEnabled{Enabled: true}).Call(page); err != nil {
		t.Fatal(err)
	}
	// what the page says wrong is the test's failure
	go page.EachEvent(func(e *proto.RuntimeExceptionThrown) { t.Errorf("page: %s", e.ExceptionDetails.Exception.Description) })()
	page.MustNavigate(p.url + path)
	ready(page)
	return page
}

// whereIn finds the lines of tests in a stack.
func whereIn(stack []byte) (out string) {
	for _, line := range strings.Split(string(stack), "\n") {
		if strings.Contains(line, "_test.go:") && !strings.Contains(line, "main_test.go") {
			out += " " + strings.TrimSpace(filepath.Base(line))
		}
	}
	return out
}

// ready waits for a heading and the fonts.
func ready(page *rod.Page) {
	page.MustElement("h1")
	page.MustEval(`() => document.fonts.ready.then(() => true)`)
}

// to goes to another address of the same program.
func (p *program) to(page *rod.Page, path string) {
	page.MustNavigate(p.url + path)
	ready(page)
}

// patience is how long a test waits for what must come, on two busy cores and a slow
// disk as well. What comes sooner is not waited for.
const patience = 45 * time.Second

func scheme(page *rod.Page, name string) {
	_ = proto.EmulationSetEmulatedMedia{Features: []*proto.EmulationMediaFeature{{Name: "prefers-color-scheme", Value: name}, {Name: "prefers-reduced-motion", Value: "reduce"}}}.Call(page)
	until(page, fmt.Sprintf(`() => document.documentElement.classList.contains('dim') === %v`, name == "dark"))
}
