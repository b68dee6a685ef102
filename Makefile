.DELETE_ON_ERROR:
PG   := '/usr/lib/postgresql/*/bin/initdb=postgresql'
GCC  := '/usr/bin/gcc=gcc' '/usr/include/stdlib.h=libc6-dev'
VIEW := '/usr/lib/chromium/chromium-headless-shell=chromium-headless-shell' '/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf=fonts-dejavu-core'
export GOFLAGS := -buildvcs=false
GO_FILES := $(shell find . -name '*.go' -not -path './ui/node_modules/*') $(wildcard store/migrations/*.sql demo/*.json craft/*/data/*.json craft/*/*.json craft/*/*.txt) go.mod go.sum
UI_FILES := $(shell find ui/src ui/public -type f) ui/index.html ui/vite.config.ts ui/pack.mjs ui/package.json ui/tsconfig.json

# what runs beside one another, tried again with the detector of races
RACED := 'TwoWindows|EveryWindow|HundredWindows|ManyWindows|Stream|Crowd|Served|Planner|ManyHands|Twice|Errors|Source|Readings|Killed'

.PHONY: start test lint shots check ahead

# start the application on http://127.0.0.1:8017
start: check bin/dustyfern
	@sh scripts/debian.sh $(PG)
	@exec ./bin/dustyfern start

# every test, with the checks of the code; memory is there for them, the cores are not
test: export GOGC := 400
test: check
	@sh scripts/debian.sh $(PG) $(VIEW) $(GCC)
	@$(MAKE) --no-print-directory -j2 ahead bin/dustyfern
	@sh scripts/lint.sh
	@RACED=$(RACED) sh scripts/test.sh

# what does not wait for the interface is compiled and looked over while its packages come
ahead:
	@go vet ./...
	@go tool -modfile=tools/go.mod staticcheck ./...
	@go test -race -run XXX ./device ./store ./studio >/dev/null

lint: check bin/dustyfern
	@sh scripts/lint.sh

# remake docs/screenshots from the demo studio
shots: bin/dustyfern
	@sh scripts/debian.sh $(PG) $(VIEW)
	SHOTS=$(CURDIR)/docs/screenshots go test ./e2e -run TestShots -count=1

check:
	@sh scripts/check.sh

ui/node_modules/.package-lock.json: ui/package-lock.json
	@echo "Fetching the interface's packages (about 20 s)"
	@cd ui && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

ui/dist/index.html: ui/node_modules/.package-lock.json $(UI_FILES)
	@echo "Building the interface (about 10 s)"
	@cd ui && npm run --silent build >/dev/null

bin/dustyfern: ui/dist/index.html $(GO_FILES)
	@echo "Building dustyfern (up to a minute the first time)"
	@go build -o $@ ./cmd/dustyfern
