// Package photo finds the colour of a spot in a photo, corrected by a white
// card beside it, and makes photos small enough to keep.
package photo

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/color"
	_ "image/jpeg" // the two kinds that are read
	_ "image/png"
	"math"

	"dustyfern/craft/fault"
)

// Spot is a place as shares of width and height, as the photo is looked at.
type Spot struct{ X, Y float64 }

// In is a spot, and a white card when there is one.
type In struct {
	Spot Spot
	Card *Spot
}

// Out is the mean colour round the spot.
type Out struct {
	Hex    string  `json:"hex"`
	Raw    string  `json:"raw"`    // before the card
	Spread float64 `json:"spread"` // root mean square of the linear values round the spot, of their mean
	Says   string  `json:"says"`
}

const (
	mostPixels  = 52e6 // a telephone's photo has 12 to 50 million
	mostBytes   = 270e6
	mostScans   = 24  // a progressive JPEG has about ten
	mostWork    = 6e8 // points times scans
	reach       = 0.006
	unevenFrom  = 0.15
	cardDarkest = 0.2
)

// Pick reads a PNG or JPEG and gives the mean colour round a spot, in linear
// light. With a card each channel is scaled so that the card becomes white of
// its own brightness, or lighter when it is underexposed. Faults are on photo
// or card.
func Pick(raw []byte, in In) (Out, error) {
	img, turn, err := unfold(raw)
	if err != nil {
		return Out{}, err
	}
	mean, spread := around(img, in.Spot.turned(turn))
	out := Out{Raw: hex(mean), Spread: spread}
	if in.Card != nil {
		card, _ := around(img, in.Card.turned(turn))
		light := math.Max(card[0], math.Max(card[1], card[2]))
		if light < cardDarkest {
			return Out{}, fault.New(fault.OutOfRange, "card", "That spot is too dark for a white card: pick the card, or leave it out.")
		}
		for k := range mean {
			if card[k] < light/4 {
				return Out{}, fault.New(fault.OutOfRange, "card", "That spot is coloured, no white card: pick the card, or leave it out.")
			}
			mean[k] *= 0.9 / card[k] // white paper reflects nine tenths
		}
	}
	out.Hex = hex(mean)
	switch {
	case spread > unevenFrom:
		out.Says = "The spot is uneven: light and shade, or two colours. Pick a flat, evenly lit place."
	case in.Card == nil:
		out.Says = "Without a white card the light of the room is in it: lay white paper beside and pick that too."
	default:
		out.Says = "Corrected by the white card."
	}
	return out, nil
}

// unfold decodes a PNG or JPEG that is bearable; turn is how it is looked at, by EXIF.
func unfold(raw []byte) (img image.Image, turn int, err error) {
	cfg, kind, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || kind != "png" && kind != "jpeg" {
		return nil, 0, fault.New(fault.Syntax, "photo", "This is no photo that can be read: a PNG or a JPEG is wanted.")
	}
	if cfg.Width < 1 || cfg.Height < 1 || float64(cfg.Width)*float64(cfg.Height) > mostPixels {
		return nil, 0, fault.New(fault.OutOfRange, "photo", "It would unfold to %d by %d points: at most 52 million are read. Save it smaller.", cfg.Width, cfg.Height)
	}
	if err := bearable(raw, &cfg, kind); err != nil {
		return nil, 0, err
	}
	img, _, err = image.Decode(bytes.NewReader(raw))
	if err != nil {
		return nil, 0, fault.New(fault.Syntax, "photo", "The photo is damaged: it ends too early or is not what it says. Save it anew.")
	}
	turn = 1
	if kind == "jpeg" {
		turn = orientation(raw)
	}
	return img, turn, nil
}

// bearable refuses a photo whose decoder would take too much room or too long,
// by what its head and its scans say, before it is unfolded.
func bearable(raw []byte, cfg *image.Config, kind string) error {
	points := float64(cfg.Width) * float64(cfg.Height)
	each := 4.0 // bytes a point
	switch kind {
	case "png":
		switch cfg.ColorModel {
		case color.NRGBA64Model, color.RGBA64Model:
			each = 8
		case color.GrayModel:
			each = 1
		case color.Gray16Model:
			each = 2
		}
		if len(raw) > interlaceByte && raw[interlaceByte] != 0 {
			each *= 2 // its passes are unfolded beside it
		}
	case "jpeg":
		scans, progressive := scansOf(raw)
		if scans > mostScans || points*float64(max(1, scans)) > mostWork {
			return fault.New(fault.OutOfRange, "photo", "It is drawn in %d passes over %d by %d points, which takes too long. Save it as a plain JPEG, or smaller.", scans, cfg.Width, cfg.Height)
		}
		if progressive {
			each += 12 // all its coefficients are kept until the last scan
		}
	}
	if points*each > mostBytes {
		return fault.New(fault.OutOfRange, "photo", "It would take %.0f MB to unfold: at most %.0f are given. Save it smaller, or as a plain JPEG.", points*each/1e6, mostBytes/1e6)
	}
	return nil
}

// interlaceByte is where the head of a PNG says whether it is interlaced.
const interlaceByte = 28

// scansOf counts the scans of a JPEG by its markers, and tells whether it is
// progressive.
func scansOf(raw []byte) (scans int, progressive bool) {
	for at := 2; at+4 <= len(raw); {
		if raw[at] != 0xFF { // inside a scan: on to its end
			next := bytes.IndexByte(raw[at:], 0xFF)
			if next < 0 {
				break
			}
			at += next
			continue
		}
		switch m := raw[at+1]; {
		case m == 0xFF:
			at++
		case m == 0 || m >= 0xD0 && m <= 0xD8: // a byte of data, or a restart
			at += 2
		case m == 0xD9:
			return scans, progressive
		default:
			if m == 0xDA {
				scans++
			}
			progressive = progressive || m == 0xC2
			at += 2 + max(2, int(binary.BigEndian.Uint16(raw[at+2:])))
		}
	}
	return scans, progressive
}

// around is the mean of linear light in a small square, and how uneven it is.
func around(img image.Image, s Spot) (mean [3]float64, spread float64) {
	b := img.Bounds()
	r := max(1, int(reach*float64(min(b.Dx(), b.Dy()))))
	x0 := b.Min.X + min(b.Dx()-1, int(s.X*float64(b.Dx())))
	y0 := b.Min.Y + min(b.Dy()-1, int(s.Y*float64(b.Dy())))
	n, squares := 0.0, 0.0
	for y := max(b.Min.Y, y0-r); y <= min(b.Max.Y-1, y0+r); y++ {
		for x := max(b.Min.X, x0-r); x <= min(b.Max.X-1, x0+r); x++ {
			cr, cg, cb, ca := img.At(x, y).RGBA()
			if ca == 0 {
				continue
			}
			light := 0.0
			for k, c := range []uint32{cr, cg, cb} {
				v := linear(float64(c) / float64(ca))
				mean[k] += v
				light += v
			}
			squares += light * light
			n++
		}
	}
	if n == 0 {
		return [3]float64{1, 1, 1}, 0
	}
	total := 0.0
	for k := range mean {
		mean[k] /= n
		total += mean[k]
	}
	if total > 0 {
		spread = math.Sqrt(math.Max(0, squares/n-total*total)) / total
	}
	return mean, spread
}

func linear(v float64) float64 {
	if v <= 0.04045 {
		return v / 12.92
	}
	return math.Pow((v+0.055)/1.055, 2.4)
}

func hex(rgb [3]float64) string {
	c := func(v float64) int {
		v = math.Min(1, math.Max(0, v))
		if v <= 0.0031308 {
			v *= 12.92
		} else {
			v = 1.055*math.Pow(v, 1/2.4) - 0.055
		}
		return int(math.Round(255 * v))
	}
	return fmt.Sprintf("#%02X%02X%02X", c(rgb[0]), c(rgb[1]), c(rgb[2]))
}

// turned gives the place in the picture as it is stored of one as it is looked
// at, by the EXIF orientation (1 to 8).
func (s Spot) turned(orientation int) Spot {
	x, y := s.X, s.Y
	switch orientation {
	case 2:
		return Spot{1 - x, y}
	case 3:
		return Spot{1 - x, 1 - y}
	case 4:
		return Spot{x, 1 - y}
	case 5:
		return Spot{y, x}
	case 6:
		return Spot{y, 1 - x}
	case 7:
		return Spot{1 - y, 1 - x}
	case 8:
		return Spot{1 - y, x}
	}
	return s
}

// orientation of a JPEG by its EXIF tag 0x0112; 1 when there is none.
func orientation(raw []byte) int {
	at := 2
	for at+4 <= len(raw) && raw[at] == 0xFF {
		size := int(binary.BigEndian.Uint16(raw[at+2:]))
		end := at + 2 + size
		if size < 2 || end > len(raw) || raw[at+1] == 0xDA {
			return 1
		}
		if raw[at+1] == 0xE1 && size > 16 && string(raw[at+4:at+10]) == "Exif\x00\x00" {
			return tiffOrientation(raw[at+10 : end])
		}
		at = end
	}
	return 1
}

func tiffOrientation(t []byte) int {
	if len(t) < 8 {
		return 1
	}
	var order binary.ByteOrder = binary.BigEndian
	if t[0] == 'I' {
		order = binary.LittleEndian
	}
	first := int(order.Uint32(t[4:]))
	if first < 8 || first+2 > len(t) {
		return 1
	}
	for i := range int(order.Uint16(t[first:])) {
		e := first + 2 + 12*i
		if e+12 > len(t) {
			return 1
		}
		if order.Uint16(t[e:]) == 0x0112 {
			if o := int(order.Uint16(t[e+8:])); o >= 1 && o <= 8 {
				return o
			}
		}
	}
	return 1
}
