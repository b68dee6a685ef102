# Every test. Beside them the checks of the code, some seconds of torn input for what reads files and
# devices, and what runs beside one another once more with the detector of races ($RACED).
set -u
export GOGC=400 # memory is there, the cores are not
said=$(mktemp)
trap 'rm -f "$said" "$said".*' EXIT
beside() { # name, command: what it says is kept until it is wanted
    name=$1
    shift
    echo "$*" >"$said.$name"
    "$@" >>"$said.$name" 2>&1 && return
    echo "$name" >>"$said.failed"
}
fuzz() { # package, fuzzer
    go test "$1" -run XXX -fuzz "^$2\$" -fuzztime 10s -parallel 1 >"$said.$2" 2>&1 && return
    cat "$said.$2"
    # Go's fuzzer may call the end of its own time a failure; then there is no failing input
    grep -q 'context deadline exceeded' "$said.$2" && ! grep -q 'Failing input' "$said.$2"
}
{
    beside lint sh scripts/lint.sh
    beside svg fuzz ./craft/outline FuzzSVG
    beside heat fuzz ./device/protocol FuzzParseHeat
    beside races go test -vet=off -race -timeout 15m -run "$RACED" ./device ./store ./studio ./api
} &
go test -vet=off -p 3 -timeout 20m ./e2e ./studio ./api ./... # the longest first
code=$?
wait $!
[ ! -s "$said.failed" ] || code=1
for name in races $(cat "$said.failed" 2>/dev/null | grep -v races); do
    cat "$said.$name"
done
exit $code
