package report

import (
	"strings"

	"slowroot/core/units"
)

// Line is one line of a bill of quantities.
type Line struct {
	What     string         `json:"what"`
	Amount   float64        `json:"amount"`
	Quantity units.Quantity `json:"quantity"`
	CostText string         `json:"costText"`
	Note     string         `json:"note"`
	Item     string         `json:"-"` // of the price book; "" where nothing is bought
	Kind     string         `json:"-"` // what it is, for whoever looks for it: pipe, ditch, pit, land
}

// As says what kind of line it is.
func (l Line) As(kind string) Line {
	l.Kind = kind
	return l
}

// Bill adds up lines priced from the price book, and remembers which lack a price.
type Bill struct {
	say  *Voice
	Sum  float64 // of what has a price, the estate's currency
	lack []string
}

// NewBill is a bill priced by the voice's prices.
func (v *Voice) NewBill() *Bill { return &Bill{say: v} }

// Line prices one line. item is its name in the price book, "" for what is not bought.
func (b *Bill) Line(what, item string, amount float64, q units.Quantity, note string) Line {
	l := Line{What: what, Amount: amount, Quantity: q, Note: note, CostText: "no price", Item: item}
	priced := amount
	if q == units.MassT {
		priced /= 1000 // held in kg, sold in t
	}
	if item == "" {
		l.CostText = ""
		return l
	}
	if each, ok := b.say.PriceOf(item); ok {
		b.Sum += each * priced
		l.CostText = b.say.Money(each * priced)
	} else if amount > 0 {
		b.lack = append(b.lack, what)
	}
	return l
}

// Text is the sum, with what it lacks.
func (b *Bill) Text() string {
	if b.Sum == 0 && len(b.lack) > 0 {
		return "no price"
	}
	s := b.say.Money(b.Sum)
	if len(b.lack) > 0 {
		s += ", without " + strings.Join(b.lack, ", ")
	}
	return s
}
