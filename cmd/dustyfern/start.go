package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"sync/atomic"
	"syscall"
	"time"

	"dustyfern/api"
	"dustyfern/demo"
	"dustyfern/device"
	"dustyfern/localpg"
	"dustyfern/studio"
	"dustyfern/studio/plan"
	"dustyfern/ui"
)

const database = "dustyfern"

// settings of one start.
type settings struct {
	data   string
	port   int
	now    string
	clock  string
	noDemo bool
	demo   string // a file that stands for the demo
	fast   bool
	scale  string
	room   string
	heat   string
	quiet  bool // says nothing of its progress
}

func dataFolder() string {
	if d := os.Getenv("DUSTYFERN_DATA"); d != "" {
		return d
	}
	if os.Geteuid() == 0 {
		return "/var/lib/dustyfern" // the server runs as postgres, which may not enter /root
	}
	if d := os.Getenv("XDG_STATE_HOME"); d != "" {
		return filepath.Join(d, "dustyfern")
	}
	home, _ := os.UserHomeDir()
	return filepath.Join(home, ".local", "state", "dustyfern")
}

func ownerURL() string {
	if u := os.Getenv("DATABASE_OWNER_URL"); u != "" {
		return u
	}
	return os.Getenv("DATABASE_URL")
}

func newLog() *slog.Logger {
	level := slog.LevelInfo
	if os.Getenv("DUSTYFERN_DEBUG") != "" {
		level = slog.LevelDebug
	}
	o := &slog.HandlerOptions{Level: level}
	if st, err := os.Stderr.Stat(); err == nil && st.Mode()&os.ModeCharDevice != 0 {
		return slog.New(slog.NewTextHandler(os.Stderr, o))
	}
	return slog.New(slog.NewJSONHandler(os.Stderr, o))
}

func start(args []string) int {
	var s settings
	f := flag.NewFlagSet("start", flag.ContinueOnError)
	f.StringVar(&s.data, "data", dataFolder(), "folder of the private database")
	f.IntVar(&s.port, "port", 8017, "port on 127.0.0.1")
	f.StringVar(&s.now, "now", "", "")
	f.StringVar(&s.clock, "clock", "", "")
	f.StringVar(&s.scale, "scale", "", "the scale: tcp://HOST:PORT, or a serial port such as /dev/ttyUSB0 (default: a stand-in)")
	f.StringVar(&s.heat, "thermometer", "", "the thermometer: tcp://HOST:PORT, or a serial port (default: a stand-in)")
	f.StringVar(&s.room, "room", "", "the room sensor: tcp://HOST:PORT, or a serial port (default: a stand-in)")
	f.StringVar(&s.demo, "demo", "", "another document as the demo studio (docs/formats.md)")
	f.BoolVar(&s.noDemo, "empty", false, "do not load the demo studio")
	f.BoolVar(&s.fast, "fast", false, "")
	if err := f.Parse(args); err != nil {
		return 2
	}
	if s.port < 0 || s.port > 65535 {
		return fail("--port wants a number from 1 to 65535, or 0 for any free one.")
	}
	if s.demo != "" {
		if err := demo.Use(s.demo); err != nil {
			return fail("--demo: " + err.Error())
		}
	}
	clock := time.Now
	if (s.now != "" || s.clock != "") && os.Getenv("DATABASE_URL") != "" {
		return fail("--now and --clock are for the private database only.")
	}
	if s.clock != "" {
		var err error
		if clock, err = clockOf(s.clock); err != nil {
			return fail("--clock wants a file with an instant such as 2026-03-05T19:00:00Z.")
		}
	}
	if s.now != "" {
		at, err := time.Parse(time.RFC3339, s.now)
		if err != nil {
			return fail("--now wants an instant such as 2026-03-05T19:00:00Z.")
		}
		clock = func() time.Time { return at }
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	return serve(ctx, s, clock)
}

// clockOf reads the time from a file each time, so that tests can move it.
func clockOf(path string) (func() time.Time, error) {
	read := func() (time.Time, error) {
		b, err := os.ReadFile(path)
		if err != nil {
			return time.Time{}, err
		}
		return time.Parse(time.RFC3339, strings.TrimSpace(string(b)))
	}
	var last atomic.Int64 // a file that is just being written is no time at all
	at, err := read()
	last.Store(at.Unix())
	return func() time.Time {
		if at, err := read(); err == nil {
			last.Store(at.Unix())
		}
		return time.Unix(last.Load(), 0).UTC()
	}, err
}

// serve holds the port, the folder and the database while it runs.
func serve(ctx context.Context, s settings, clock func() time.Time) int {
	address := fmt.Sprintf("http://127.0.0.1:%d", s.port)
	listener, err := net.Listen("tcp", fmt.Sprintf("127.0.0.1:%d", s.port))
	if err != nil {
		if where := runsAlready(s.data); where != "" {
			fmt.Println("Dusty Fern runs already: " + where)
			return 0
		}
		return fail("port %d is taken by another program: stop that one, or start with --port 8018.", s.port)
	}
	defer listener.Close()
	if s.port == 0 {
		address = "http://" + listener.Addr().String()
	}
	db := &data{log: newLog(), s: s, clock: clock}
	if os.Getenv("DATABASE_URL") != "" {
		err = db.openURL(ctx)
	} else {
		err = db.openPrivate(ctx, address)
	}
	if err != nil {
		db.close()
		if ctx.Err() != nil {
			return 0
		}
		if errors.Is(err, errRuns) {
			fmt.Println("Dusty Fern runs already: " + runsAlready(s.data))
			return 0
		}
		return fail("%v", err)
	}
	defer db.close()
	return db.run(ctx, listener, address)
}

// takeLock holds the folder for this run and notes where it serves.
func takeLock(dir, address string) (*os.File, error) {
	f, err := os.OpenFile(filepath.Join(dir, "lock"), os.O_RDWR|os.O_CREATE, 0o600)
	if err != nil {
		return nil, err
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		f.Close()
		return nil, errRuns
	}
	if err := f.Truncate(0); err != nil {
		return nil, err
	}
	_, err = f.WriteAt([]byte(address), 0)
	return f, err
}

// runsAlready tells where a running copy of this folder serves, "" when none does.
func runsAlready(dir string) string {
	f, err := os.OpenFile(filepath.Join(dir, "lock"), os.O_RDWR, 0)
	if err != nil {
		return ""
	}
	defer f.Close()
	if syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB) == nil {
		return ""
	}
	b := make([]byte, 200)
	n, _ := f.ReadAt(b, 0)
	if n == 0 {
		return "it is just starting"
	}
	return string(b[:n])
}

// run serves until it is asked to stop, or the database is gone for good.
func (d *data) run(ctx context.Context, listener net.Listener, address string) int {
	dist := ui.Dist()
	if dist == nil {
		fmt.Println("The interface is not built: run make start, or npm run build in ui.")
	}
	service := studio.New(d.store, d.clock)
	service.Demo = demo.Slug
	live := api.NewLive()
	if d.s.clock != "" {
		live.Beat = 200 * time.Millisecond // a clock set by hand is looked at often
	}
	following, unfollow := context.WithCancel(context.Background())
	defer unfollow()
	go d.store.Listen(following, live.Tell)
	planner := plan.NewPlanner(following, service.Planning, d.log)
	service.Wake = planner.Wake
	defer planner.Wait()
	defer unfollow()
	scale, err := d.openScale(following)
	if err != nil {
		return fail("the stand-in for a scale cannot listen: %v.", err)
	}
	heat, err := d.openThermometer(following)
	if err != nil {
		return fail("the stand-in for a thermometer cannot listen: %v.", err)
	}
	room, err := d.openRoom(following, service)
	if err != nil {
		return fail("the stand-in for a room sensor cannot listen: %v.", err)
	}
	handler, _ := api.New(api.Options{Scale: scale, Thermometer: heat, Room: room, Service: service, Live: live, UI: dist, Log: d.log, Reset: d.resetDemo(service)})
	server := &http.Server{Handler: handler, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 15 * time.Second, WriteTimeout: 30 * time.Second, IdleTimeout: 2 * time.Minute,
		ErrorLog: slog.NewLogLogger(d.log.Handler(), slog.LevelWarn)}
	server.RegisterOnShutdown(live.Close)
	ended := make(chan error, 1)
	go func() { ended <- server.Serve(listener) }()
	fmt.Println("Dusty Fern is ready: " + address)
	code := 0
	for watching := true; watching; {
		var gone <-chan struct{}
		if d.cluster != nil {
			gone = d.cluster.Done()
		}
		select {
		case <-ctx.Done():
			watching = false
		case err := <-ended:
			d.log.Error("the server ended", "err", err)
			return 1
		case <-gone:
			fmt.Fprintln(os.Stderr, "Dusty Fern: the database ended by itself; starting it again.")
			again, err := localpg.Start(ctx, d.options)
			if err != nil {
				code = fail("the database ended and does not start again (%v): look into %s.", err, filepath.Join(d.s.data, "postgres.log"))
				d.cluster = nil
				watching = false
				break
			}
			d.cluster = again
			fmt.Fprintln(os.Stderr, "Dusty Fern: the database is back.")
		}
	}
	stopping, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	_ = server.Shutdown(stopping)
	fmt.Println("Dusty Fern has stopped.")
	return code
}

// openScale reads the scale that was named, or a stand-in on a free port.
func (d *data) openScale(ctx context.Context) (*api.Scale, error) {
	address := d.s.scale
	out := &api.Scale{Modes: device.Modes}
	if address == "" {
		in, err := device.NewStandIn(uint64(d.clock().Unix()/86400), 100*time.Millisecond)
		if err != nil {
			return nil, err
		}
		go in.Run(ctx)
		address, out.StandIn = in.Address(), in
	}
	scale := device.NewScale(address)
	go scale.Run(ctx)
	out.Reads = scale
	return out, nil
}

// panQuick is how much faster than a kitchen the stand-in's pan heats: a syrup in a minute.
const panQuick = 20

// openThermometer reads the thermometer that was named, or a stand-in on a free port.
func (d *data) openThermometer(ctx context.Context) (*api.Thermometer, error) {
	address := d.s.heat
	out := &api.Thermometer{Modes: device.PanModes}
	if address == "" {
		pan, err := device.NewPan(uint64(d.clock().Unix()/86400), 200*time.Millisecond, panQuick)
		if err != nil {
			return nil, err
		}
		go pan.Run(ctx)
		address, out.StandIn = pan.Address(), pan
	}
	t := device.NewThermometer(address)
	go t.Run(ctx)
	out.Reads = t
	return out, nil
}

// openRoom reads the room sensor that was named, or a stand-in on a free port, and keeps
// what it says by the minute.
func (d *data) openRoom(ctx context.Context, service *studio.Service) (*api.RoomSensor, error) {
	address := d.s.room
	out := &api.RoomSensor{Modes: device.RoomModes}
	if address == "" {
		in, err := device.NewRooms(uint64(d.clock().Unix()/86400), 100*time.Millisecond, d.clock)
		if err != nil {
			return nil, err
		}
		go in.Run(ctx)
		address, out.StandIn = in.Address(), in
	}
	sensor := device.NewRoomSensor(address)
	go sensor.Run(ctx)
	go d.keepRoom(ctx, sensor, service)
	out.Reads = sensor
	return out, nil
}

// keepEvery is how often it is looked whether a minute has gone by.
const keepEvery = 500 * time.Millisecond

// keepRoom keeps what the sensor says, once a minute of the program's clock: what was heard
// in it, and at once what is heard first after a silence.
func (d *data) keepRoom(ctx context.Context, sensor *device.RoomSensor, service *studio.Service) {
	tick := time.NewTicker(keepEvery)
	defer tick.Stop()
	var kept time.Time
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
		if minute := d.clock().Truncate(time.Minute); !minute.Equal(kept) {
			heard := sensor.Take()
			if len(heard) == 0 {
				continue
			}
			if err := service.Shelf.Keep(ctx, heard); err != nil && ctx.Err() == nil {
				d.log.Warn("what the room sensor says was not kept", "err", err)
				continue
			}
			kept = minute
		}
	}
}
