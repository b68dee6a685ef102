# Every test, and beside them some seconds of torn input for what reads files and devices; then what
# runs beside one another once more with the detector of races ($RACED).
set -u
fuzz() { # package, fuzzer
    go test "$1" -run XXX -fuzz "^$2\$" -fuzztime 10s -parallel 1 >"$said.$2" 2>&1 && return
    # Go's fuzzer may call the end of its own time a failure; then there is no failing input
    grep -q 'context deadline exceeded' "$said.$2" && ! grep -q 'Failing input' "$said.$2"
}
said=$(mktemp)
trap 'rm -f "$said" "$said".*' EXIT
{ fuzz ./craft/outline FuzzSVG && fuzz ./device/protocol FuzzParseHeat; } &
torn=$!
# the longest first; vet has looked at all of it before; no result is taken from an earlier run, which
# cannot know that the program the windows' tests start has changed
go test -count=1 -vet=off -timeout 20m ./e2e ./studio ./api ./...
code=$?
if ! wait $torn; then
    cat "$said".*
    code=1
fi
go test -vet=off -race -timeout 10m -run "$RACED" ./device ./store ./studio ./api || code=1
exit $code
