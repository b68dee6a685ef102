package main

import (
	"bufio"
	"bytes"
	"fmt"
	"os"

	"dustyfern/reckon"
)

func main() {
	sc := bufio.NewScanner(os.Stdin)
	sc.Buffer(nil, 64<<20)
	for sc.Scan() {
		if len(bytes.TrimSpace(sc.Bytes())) == 0 {
			continue
		}
		fmt.Println(string(reckon.Line(sc.Bytes())))
	}
}
