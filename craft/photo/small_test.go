package photo

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"testing"
)

// A photo is kept the right way up, its longer side at most a thousand points, and
// without what the camera wrote beside it.
func TestAPhotoIsMadeSmall(t *testing.T) {
	m := image.NewNRGBA(image.Rect(0, 0, 2400, 1200)) // stored: red on its left third
	for y := range 1200 {
		for x := range 2400 {
			c := color.NRGBA{R: 250, G: 250, B: 250, A: 255}
			if x < 800 {
				c = color.NRGBA{R: 200, G: 20, B: 20, A: 255}
			}
			m.SetNRGBA(x, y, c)
		}
	}
	plain := asJPEG(t, m)
	for _, c := range []struct {
		say    string
		raw    []byte
		w, h   int
		rx, ry float64 // a red place as it is looked at
	}{
		{"as it is stored", plain, 1000, 500, .1, .5},
		{"turned to the right", turnedBy(plain, 6), 500, 1000, .5, .1},
		{"turned to the left", turnedBy(plain, 8), 500, 1000, .5, .9},
		{"upside down", turnedBy(plain, 3), 1000, 500, .9, .5},
		{"small already", asPNG(t, card()), 400, 300, -1, -1},
	} {
		got, err := Small(c.raw)
		if err != nil {
			t.Fatal(c.say, err)
		}
		if bytes.Contains(got, []byte("Exif")) || CheckKept(got) != nil {
			t.Errorf("%s: %v", c.say, CheckKept(got))
		}
		img, err := jpeg.Decode(bytes.NewReader(got))
		if err != nil {
			t.Fatal(c.say, err)
		}
		if s := img.Bounds().Size(); s.X != c.w || s.Y != c.h {
			t.Errorf("%s: %v", c.say, s)
		}
		if c.rx < 0 {
			continue
		}
		r, g, _, _ := img.At(int(c.rx*float64(c.w)), int(c.ry*float64(c.h))).RGBA()
		r2, g2, _, _ := img.At(int((1-c.rx)*float64(c.w)), int((1-c.ry)*float64(c.h))).RGBA()
		if r>>8 < 180 || g>>8 > 60 || r2>>8 < 230 || g2>>8 < 230 {
			t.Errorf("%s: %d %d, across %d %d", c.say, r>>8, g>>8, r2>>8, g2>>8)
		}
	}
	for say, raw := range map[string][]byte{"no photo": []byte("tea"), "cut off": plain[:len(plain)/3], "too large unfolded": bomb(60000, 60000)} {
		if _, err := Small(raw); err == nil {
			t.Errorf("%s was taken", say)
		}
		if CheckKept(raw) == nil && say != "cut off" {
			t.Errorf("%s would be kept", say)
		}
	}
	if CheckKept(plain) == nil {
		t.Error("a photo of 2400 points is not small")
	}
}
