# Every test. The windows' come first, for they wait the longest; beside them, where a core is free, go
# the others, the checks of the code, some seconds of torn input for what reads files and devices,
# and what runs beside one another once more with the detector of races ($RACED).
set -u
export GOGC=400 # memory is there, the cores are not
said=$(mktemp)
trap 'rm -f "$said" "$said".*' EXIT
beside() { # name, command: what it says is kept until it is wanted
    name=$1
    shift
    nice -n 10 "$@" >"$said.$name" 2>&1 || echo "$name" >>"$said.failed"
}
fuzz() { # package, fuzzer
    beside "$2" go test "$1" -run XXX -fuzz "^$2\$" -fuzztime 10s -parallel 1
    # Go's fuzzer may call the end of its own time a failure; then there is no failing input
    if grep -q 'context deadline exceeded' "$said.$2" && ! grep -q 'Failing input' "$said.$2"; then
        sed -i "/^$2\$/d" "$said.failed"
    fi
}
{
    beside tests go test -vet=off -timeout 20m ./studio ./api $(go list ./... | grep -v -e /e2e -e /studio$ -e /api$)
    beside lint sh scripts/lint.sh
    fuzz ./craft/outline FuzzSVG
    fuzz ./device/protocol FuzzParseHeat
    beside races go test -vet=off -race -timeout 15m -run "$RACED" ./device ./store ./studio ./api
} &
go test -vet=off -timeout 20m ./e2e
code=$?
wait $!
cat "$said.tests" "$said.races"
if [ -s "$said.failed" ]; then
    code=1
    for name in $(grep -v -e tests -e races "$said.failed"); do
        cat "$said.$name"
    done
fi
exit $code
