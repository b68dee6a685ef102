package read

import "strings"

// Named are colours by names of our own, light to dark within a family.
var Named = []Option{
	{Code: "#F7F5EE", Say: "sugar white"}, {Code: "#F0E4C8", Say: "old ivory"}, {Code: "#EAD9B0", Say: "oat straw"}, {Code: "#F2E39A", Say: "primrose"}, {Code: "#EFC84A", Say: "ginkgo gold"}, {Code: "#E39A45", Say: "lantern orange"}, {Code: "#C9713D", Say: "terracotta"},
	{Code: "#E9B7B0", Say: "shell pink"}, {Code: "#D87A8C", Say: "dog rose"}, {Code: "#B5442F", Say: "toadstool red"}, {Code: "#8C2F3A", Say: "haw berry"}, {Code: "#DCE3C4", Say: "hazel catkin"}, {Code: "#A9B99A", Say: "sage"}, {Code: "#8FB377", Say: "young frond"}, {Code: "#6B9455", Say: "fern"},
	{Code: "#4F7A3F", Say: "deep fern"}, {Code: "#5C6B3A", Say: "moss"}, {Code: "#37775E", Say: "holly"}, {Code: "#BFD8DC", Say: "rime"}, {Code: "#6FA3B5", Say: "mill pond"}, {Code: "#4F6FA8", Say: "harebell"}, {Code: "#2F3F66", Say: "night blue"}, {Code: "#B9A6CC", Say: "heather mist"}, {Code: "#7A5C99", Say: "heather"},
	{Code: "#B08A63", Say: "acorn"}, {Code: "#7A5236", Say: "bark"}, {Code: "#4A3226", Say: "wet earth"}, {Code: "#8B8D87", Say: "slate"}, {Code: "#2B3A34", Say: "beetle"},
}

// namedSwatch is the swatch of a colour by its name, in either spelling; "" for none.
func namedSwatch(text string) string {
	for _, n := range Named {
		if strings.EqualFold(n.Say, text) || strings.EqualFold(American.Say(n.Say), text) {
			return n.Code
		}
	}
	return ""
}
