package read

import (
	"fmt"
	"strings"

	"dustyfern/studio/noun"
)

func Count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	if strings.HasSuffix(what, "ch") || strings.HasSuffix(what, "ss") || strings.HasSuffix(what, "x") {
		return fmt.Sprintf("%d %ses", n, what)
	}
	return fmt.Sprintf("%d %ss", n, what)
}

func WeighedSays(t *noun.Tool, r Reader) string {
	n := len(t.Weighings)
	if n == 0 {
		return ""
	}
	mean, spread := t.Weighed()
	if n == 1 {
		return fmt.Sprintf("%s, 1 piece weighed", Trimmed(mean, 2)+" g")
	}
	return fmt.Sprintf("%s g ± %s g, %d pieces weighed", Trimmed(mean, 2), Trimmed(spread, 2), n)
}

func LowerFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}
