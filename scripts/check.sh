#!/bin/sh
# check.sh says in one sentence what is missing before anything is built.
set -eu
need() { command -v "$1" >/dev/null 2>&1 || { echo "Dusty Fern needs $2: please install it first." >&2; exit 1; }; }
need git "git"
need go "Go 1.26 or newer (https://go.dev)"
need node "Node 20.19 or newer"
need npm "npm, which comes with Node"
go_version=$(go env GOVERSION | sed 's/^go//')
newest=$(printf '1.26\n%s\n' "$go_version" | sort -V | tail -1)
[ "$newest" = "$go_version" ] || { echo "Dusty Fern needs Go 1.26 or newer, and this is $go_version." >&2; exit 1; }
node_version=$(node --version | sed 's/^v//')
newest=$(printf '20.19\n%s\n' "$node_version" | sort -V | tail -1)
[ "$newest" = "$node_version" ] || { echo "Dusty Fern needs Node 20.19 or newer, and this is $node_version." >&2; exit 1; }
