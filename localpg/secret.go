package localpg

import (
	"bytes"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
	"syscall"
)

// binDir returns the /usr/lib/postgresql/N/bin of the version that made data,
// or the newest when there is no data yet.
func binDir(data string) (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/initdb")
	if len(found) == 0 {
		return "", errors.New("no PostgreSQL server was found in /usr/lib/postgresql: install Debian's package postgresql")
	}
	version := func(p string) int { n, _ := strconv.Atoi(strings.Split(p, "/")[4]); return n }
	sort.Slice(found, func(i, j int) bool { return version(found[i]) > version(found[j]) })
	made, err := os.ReadFile(filepath.Join(data, "PG_VERSION"))
	if err != nil {
		return filepath.Dir(found[0]), nil
	}
	for _, p := range found {
		if strconv.Itoa(version(p)) == strings.TrimSpace(string(made)) {
			return filepath.Dir(p), nil
		}
	}
	return "", fmt.Errorf("%s was made by PostgreSQL %.8s, and %d is installed: install Debian's package postgresql-%[2]s beside it; nothing was touched", data, strings.TrimSpace(string(made)), version(found[0]))
}

// credential returns who the server must run as: nil for an ordinary user, the
// postgres user for root, because PostgreSQL refuses to run as root.
func credential() (*syscall.Credential, error) {
	if os.Geteuid() != 0 {
		return nil, nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return nil, fmt.Errorf("root needs the postgres user that Debian's package makes: %w", err)
	}
	uid, _ := strconv.Atoi(u.Uid)
	gid, _ := strconv.Atoi(u.Gid)
	return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
}

func command(cred *syscall.Credential, dir, name string, args ...string) *exec.Cmd {
	cmd := exec.Command(name, args...)
	cmd.Dir = dir // the caller's own folder may be closed to postgres (/root, a 0700 home)
	cmd.Env = []string{"PATH=/usr/bin:/bin", "LC_ALL=C.UTF-8", "TZ=UTC", "HOME=" + dir}
	// Setpgid: Ctrl-C in the terminal reaches only us, and we stop the server in order
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: cred, Setpgid: true}
	return cmd
}

// Prepare makes the folder, owned by whoever the server runs as.
func Prepare(dir string) error {
	cred, err := credential()
	if err != nil {
		return err
	}
	// folders above it that are missing are made open, or postgres could not pass
	if err := os.MkdirAll(filepath.Dir(dir), 0o755); err != nil {
		return err
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return err
	}
	probe, err := os.CreateTemp(dir, ".probe")
	if err != nil {
		return err
	}
	_ = probe.Close()
	_ = os.Remove(probe.Name())
	if cred != nil {
		return os.Chown(dir, int(cred.Uid), int(cred.Gid))
	}
	return nil
}

const ownerFile = "owner.password"

func secretThere(dir, name string) bool {
	b, err := os.ReadFile(filepath.Join(dir, name))
	return err == nil && len(bytes.TrimSpace(b)) >= 32
}

// Secret reads a password of the folder, or makes it: hexadecimal, 0600.
func Secret(dir, name string) (string, error) {
	path := filepath.Join(dir, name)
	if b, err := os.ReadFile(path); err == nil && len(bytes.TrimSpace(b)) >= 32 {
		return string(bytes.TrimSpace(b)), nil
	}
	raw := make([]byte, 24)
	_, _ = rand.Read(raw)
	word := hex.EncodeToString(raw)
	if err := os.WriteFile(path, []byte(word), 0o600); err != nil {
		return "", err
	}
	return word, nil
}
