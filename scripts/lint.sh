#!/bin/sh
# lint.sh looks over the code of both sides, and that what is generated is fresh.
set -eu
unformatted=$(gofmt -l $(find . -name '*.go' -not -path './ui/node_modules/*'))
[ -z "$unformatted" ] || { echo "Not formatted, run gofmt -w:" >&2; echo "$unformatted" >&2; exit 1; }
./bin/dustyfern openapi | cmp -s - api/openapi.json || { echo "api/openapi.json is stale: ./bin/dustyfern openapi > api/openapi.json, then npm run types in ui." >&2; exit 1; }
said=$(mktemp)
trap 'rm -f "$said" "$said".*' EXIT
( # the interface's side beside Go's
	cd ui
	npx --no-install openapi-typescript ../api/openapi.json -o "$said".types >/dev/null 2>&1
	cmp -s "$said".types src/api/schema.d.ts || { echo "ui/src/api/schema.d.ts is stale: npm run types in ui."; exit 1; }
	npm run --silent lint
) >"$said" 2>&1 &
go vet ./...
go tool -modfile=tools/go.mod staticcheck ./...
wait $! || { cat "$said" >&2; exit 1; }
