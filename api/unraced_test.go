//go:build !race

package api

// raced tells of the detector of races, under which a plan takes ten times as long.
const raced = false
