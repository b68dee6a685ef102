//go:build race

package api

const raced = true
