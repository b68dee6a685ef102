package photo

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"errors"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"

	"dustyfern/craft/fault"
)

// card is a photo of a green pat beside white paper, in the light of a lamp
// that takes some blue away. The upper left is green, the upper right paper,
// below it is half black half white.
func card() *image.NRGBA {
	m := image.NewNRGBA(image.Rect(0, 0, 400, 300))
	for y := range 300 {
		for x := range 400 {
			c := color.NRGBA{R: 95, G: 138, B: 60, A: 255}
			switch {
			case y >= 200:
				c = color.NRGBA{R: 0, G: 0, B: 0, A: 255}
				if (x+y)%2 == 0 {
					c = color.NRGBA{R: 255, G: 255, B: 255, A: 255}
				}
			case x >= 200:
				c = color.NRGBA{R: 240, G: 240, B: 190, A: 255}
			}
			m.SetNRGBA(x, y, c)
		}
	}
	return m
}

func asPNG(t testing.TB, m image.Image) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := png.Encode(&b, m); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func asJPEG(t testing.TB, m image.Image) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := jpeg.Encode(&b, m, &jpeg.Options{Quality: 98}); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func TestASpotAndAWhiteCard(t *testing.T) {
	for _, raw := range [][]byte{asPNG(t, card()), asJPEG(t, card())} {
		bare, err := Pick(raw, In{Spot: Spot{0.2, 0.3}})
		if err != nil || !strings.Contains(bare.Says, "Without a white card") {
			t.Fatalf("%+v %v", bare, err)
		}
		if bare.Hex[:3] != "#5F" && bare.Hex[:3] != "#5E" && bare.Hex[:3] != "#60" {
			t.Errorf("%+v", bare)
		}
		right, err := Pick(raw, In{Spot: Spot{0.2, 0.3}, Card: &Spot{0.8, 0.3}})
		if err != nil || right.Says != "Corrected by the white card." {
			t.Fatalf("%+v %v", right, err)
		}
		paper, err := Pick(raw, In{Spot: Spot{0.8, 0.3}, Card: &Spot{0.8, 0.3}})
		if err != nil {
			t.Fatal(err)
		}
		if r, g, b := paper.Hex[1:3], paper.Hex[3:5], paper.Hex[5:7]; r != g || g != b {
			t.Errorf("paper is no grey: %s", paper.Hex)
		}
		if right.Hex[5:7] <= bare.Hex[5:7] {
			t.Errorf("the blue that the lamp took comes back: %s from %s", right.Hex, bare.Hex)
		}
		uneven, err := Pick(raw, In{Spot: Spot{0.5, 0.9}})
		if err != nil || !strings.Contains(uneven.Says, "uneven") {
			t.Errorf("%+v %v", uneven, err)
		}
	}
}

// TestTheSpotIsWhereItIsLookedAt turns a photo in all the ways a camera marks:
// the place that is pressed on is the place that is read.
// turnedBy is a JPEG whose camera said how it was held.
func turnedBy(plain []byte, orientation int) []byte {
	return turnedIn(binary.BigEndian, plain, orientation)
}

func turnedIn(order binary.AppendByteOrder, plain []byte, orientation int) []byte {
	tiff := []byte("MM\x00\x2a")
	if order == binary.AppendByteOrder(binary.LittleEndian) {
		tiff = []byte("II\x2a\x00")
	}
	tiff = order.AppendUint32(tiff, 8)
	tiff = order.AppendUint16(tiff, 1)
	tiff = order.AppendUint16(tiff, 0x0112)
	tiff = order.AppendUint16(tiff, 3)
	tiff = order.AppendUint32(tiff, 1)
	tiff = order.AppendUint16(tiff, uint16(orientation))
	tiff = append(tiff, 0, 0)
	exif := append([]byte("Exif\x00\x00"), tiff...)
	raw := append([]byte{0xFF, 0xD8, 0xFF, 0xE1}, binary.BigEndian.AppendUint16(nil, uint16(len(exif)+2))...)
	return append(append(raw, exif...), plain[2:]...)
}

func TestTheSpotIsWhereItIsLookedAt(t *testing.T) {
	m := image.NewNRGBA(image.Rect(0, 0, 200, 100)) // stored: red in its upper left
	for y := range 100 {
		for x := range 200 {
			c := color.NRGBA{R: 250, G: 250, B: 250, A: 255}
			if x < 60 && y < 40 {
				c = color.NRGBA{R: 200, G: 20, B: 20, A: 255}
			}
			m.SetNRGBA(x, y, c)
		}
	}
	plain := asJPEG(t, m)
	seen := map[int]Spot{1: {.1, .1}, 2: {.9, .1}, 3: {.9, .9}, 4: {.1, .9}, 5: {.1, .1}, 6: {.9, .1}, 7: {.9, .9}, 8: {.1, .9}}
	for o, spot := range seen {
		for _, order := range []binary.AppendByteOrder{binary.BigEndian, binary.LittleEndian} {
			raw := turnedIn(order, plain, o)
			got, err := Pick(raw, In{Spot: spot})
			if err != nil || got.Hex[1] < 'B' || got.Hex[3] > '3' {
				t.Errorf("orientation %d: %+v %v", o, got, err)
			}
		}
	}
}

// bomb is a PNG of some bytes that says it is very large.
func bomb(w, h uint32) []byte {
	chunk := func(kind string, data []byte) []byte {
		out := binary.BigEndian.AppendUint32(nil, uint32(len(data)))
		body := append([]byte(kind), data...)
		return binary.BigEndian.AppendUint32(append(out, body...), crc32.ChecksumIEEE(body))
	}
	head := binary.BigEndian.AppendUint32(nil, w)
	head = append(binary.BigEndian.AppendUint32(head, h), 8, 2, 0, 0, 0)
	var z bytes.Buffer
	zw := zlib.NewWriter(&z)
	_, _ = zw.Write(make([]byte, 1000))
	_ = zw.Close()
	out := []byte("\x89PNG\r\n\x1a\n")
	out = append(out, chunk("IHDR", head)...)
	out = append(out, chunk("IDAT", z.Bytes())...)
	return append(out, chunk("IEND", nil)...)
}

func TestWhatIsNoPhotoIsRefused(t *testing.T) {
	whole := asJPEG(t, card())
	for name, c := range map[string]struct {
		raw   []byte
		in    In
		field string
		words string
	}{
		"nothing":         {nil, In{}, "photo", "PNG or a JPEG"},
		"a text":          {[]byte("a photo of a fern"), In{}, "photo", "PNG or a JPEG"},
		"a moving one":    {[]byte("GIF89a\x01\x00\x01\x00"), In{}, "photo", "PNG or a JPEG"},
		"a bomb":          {bomb(60000, 60000), In{}, "photo", "60000 by 60000"},
		"a wide one":      {bomb(4_000_000_000, 4_000_000_000), In{}, "photo", ""},
		"cut short":       {whole[:len(whole)/2], In{}, "photo", "damaged"},
		"a lie":           {bomb(100, 100), In{}, "photo", "damaged"},
		"a black card":    {asPNG(t, image.NewGray(image.Rect(0, 0, 50, 50))), In{Card: &Spot{.5, .5}}, "card", "too dark"},
		"a coloured card": {asPNG(t, flat(color.NRGBA{R: 240, G: 60, B: 40, A: 255})), In{Card: &Spot{.5, .5}}, "card", "no white card"},
	} {
		_, err := Pick(c.raw, c.in)
		var f *fault.Fault
		if !errors.As(err, &f) || f.Field != c.field || !strings.Contains(f.Message, c.words) {
			t.Errorf("%s: %v", name, err)
		}
	}
	for _, s := range []Spot{{0, 0}, {1, 1}, {0, 1}} {
		if _, err := Pick(whole, In{Spot: s}); err != nil {
			t.Errorf("a corner is a spot: %v", err)
		}
	}
}

func flat(c color.NRGBA) image.Image {
	m := image.NewNRGBA(image.Rect(0, 0, 40, 40))
	for y := range 40 {
		for x := range 40 {
			m.SetNRGBA(x, y, c)
		}
	}
	return m
}

func FuzzPick(f *testing.F) {
	f.Add(asPNG(f, flat(color.NRGBA{R: 1, G: 2, B: 3, A: 255})), 0.5, 0.5)
	f.Add(asJPEG(f, flat(color.NRGBA{R: 1, G: 2, B: 3, A: 255})), 0.1, 0.9)
	f.Add(bomb(70000, 70000), 0.1, 0.9)
	f.Fuzz(func(_ *testing.T, raw []byte, x, y float64) {
		if x >= 0 && x <= 1 && y >= 0 && y <= 1 {
			_, _ = Pick(raw, In{Spot: Spot{x, y}})
		}
	})
}

// TestAPhotoThatWouldHoldTheDoor is refused by its head, before it is unfolded:
// by its scans, its points and the room they take.
func TestAPhotoThatWouldHoldTheDoor(t *testing.T) {
	spot := In{Spot: Spot{0.5, 0.5}}
	// the head of a progressive JPEG of these points, then so many empty scans
	progressive := func(w, h, scans int) []byte {
		b := []byte{0xFF, 0xD8, 0xFF, 0xC2, 0, 17, 8, byte(h >> 8), byte(h), byte(w >> 8), byte(w), 3, 1, 0x11, 0, 2, 0x11, 0, 3, 0x11, 0}
		for range scans {
			b = append(b, 0xFF, 0xDA, 0, 8, 1, 1, 0, 0, 0, 0, 0x00)
		}
		return append(b, 0xFF, 0xD9)
	}
	deep := func(w, h int, interlaced byte) []byte {
		b := append([]byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0dIHDR"), 0, 0, byte(w>>8), byte(w), 0, 0, byte(h>>8), byte(h), 16, 6, 0, 0, interlaced)
		return binary.BigEndian.AppendUint32(b, crc32.ChecksumIEEE(b[12:]))
	}
	for _, c := range []struct {
		say  string
		raw  []byte
		want string
	}{
		{"10,000 empty scans", progressive(3000, 3000, 10_000), "10000 passes"},
		{"25 scans of few points", progressive(100, 100, 25), "25 passes"},
		{"24 scans of many points", progressive(6000, 6000, 24), "24 passes"},
		{"coefficients of 50 million points", progressive(8000, 6400, 3), "MB to unfold"},
		{"16 bits a channel", deep(8000, 6000, 0), "MB to unfold"},
		{"16 bits, interlaced", deep(5000, 4000, 1), "MB to unfold"},
	} {
		_, err := Pick(c.raw, spot)
		if f := (*fault.Fault)(nil); !errors.As(err, &f) || f.Field != "photo" || !strings.Contains(f.Message, c.want) {
			t.Errorf("%s: %v", c.say, err)
		}
	}
	// what telephones make is let through to the decoder
	for say, raw := range map[string][]byte{"a progressive photo of 12 million points": progressive(4000, 3000, 10), "a deep PNG of 12 million": deep(4000, 3000, 0)} {
		_, err := Pick(raw, spot)
		if f := (*fault.Fault)(nil); !errors.As(err, &f) || f.Code != fault.Syntax {
			t.Errorf("%s: %v", say, err)
		}
	}
}
