#!/bin/sh
# lint.sh looks over the code of both sides, and that what is generated is fresh.
set -eu
unformatted=$(gofmt -l $(find . -name '*.go' -not -path './ui/node_modules/*'))
[ -z "$unformatted" ] || { echo "Not formatted, run gofmt -w:" >&2; echo "$unformatted" >&2; exit 1; }
go vet ./...
go tool -modfile=tools/go.mod staticcheck ./...
./bin/dustyfern openapi | cmp -s - api/openapi.json || { echo "api/openapi.json is stale: ./bin/dustyfern openapi > api/openapi.json, then npm run types in ui." >&2; exit 1; }
cd ui
types=$(mktemp)
npx --no-install openapi-typescript ../api/openapi.json -o "$types" >/dev/null 2>&1
cmp -s "$types" src/api/schema.d.ts || { rm -f "$types"; echo "ui/src/api/schema.d.ts is stale: npm run types in ui." >&2; exit 1; }
rm -f "$types"
npm run --silent lint
