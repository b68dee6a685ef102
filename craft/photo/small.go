package photo

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"math"

	"dustyfern/craft/fault"
)

// How a photo is kept: its longer side in points at most, its quality in per cent,
// and how many points each way are looked at for one that is kept.
const (
	keptSide    = 1000
	keptQuality = 80
	looks       = 4
)

// MostKept is how many bytes a kept photo has at most.
const MostKept = 1_000_000

// Small makes a photo of a PNG or JPEG that is small enough to keep: the right way up,
// at most 1000 points on its longer side, without what a camera writes beside it.
// Faults are on photo.
func Small(raw []byte) ([]byte, error) {
	img, turn, err := unfold(raw)
	if err != nil {
		return nil, err
	}
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	if turn >= 5 { // it lies on its side
		w, h = h, w
	}
	by := math.Min(1, keptSide/float64(max(w, h)))
	out := image.NewRGBA(image.Rect(0, 0, max(1, int(float64(w)*by)), max(1, int(float64(h)*by))))
	size := out.Bounds().Size()
	for y := range size.Y {
		for x := range size.X {
			out.SetRGBA(x, y, meanOf(img, turn, x, y, size))
		}
	}
	var kept bytes.Buffer
	if err := jpeg.Encode(&kept, out, &jpeg.Options{Quality: keptQuality}); err != nil {
		return nil, err
	}
	return kept.Bytes(), nil
}

// meanOf is the colour of what one point of the kept photo shows, on white where it
// is seen through.
func meanOf(img image.Image, turn, x, y int, size image.Point) color.RGBA {
	b := img.Bounds()
	var sum [3]float64
	for j := range looks {
		for i := range looks {
			s := Spot{(float64(x) + (float64(i)+0.5)/looks) / float64(size.X), (float64(y) + (float64(j)+0.5)/looks) / float64(size.Y)}.turned(turn)
			r, g, bl, a := img.At(b.Min.X+min(b.Dx()-1, int(s.X*float64(b.Dx()))), b.Min.Y+min(b.Dy()-1, int(s.Y*float64(b.Dy())))).RGBA()
			for k, c := range [3]uint32{r, g, bl} {
				sum[k] += float64(c+0xffff-a) / 0xffff
			}
		}
	}
	const n = looks * looks
	return color.RGBA{uint8(255*sum[0]/n + 0.5), uint8(255*sum[1]/n + 0.5), uint8(255*sum[2]/n + 0.5), 255}
}

// CheckKept refuses what was never made by Small.
func CheckKept(raw []byte) error {
	cfg, kind, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || kind != "jpeg" || len(raw) > MostKept || max(cfg.Width, cfg.Height) > keptSide {
		return fault.New(fault.Syntax, "photo", "A kept photo is a JPEG of at most %d points a side.", keptSide)
	}
	return nil
}
