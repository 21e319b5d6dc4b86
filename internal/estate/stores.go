package estate

import (
	"context"
	"fmt"
	"sort"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/plan"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/supply"
	"slowroot/core/units"
)

// Order is what the plans of all blocks take of one thing, what of it is on its way or in store, and what is short.
type Order struct {
	Item     string         `json:"item"`
	What     string         `json:"what"`
	Group    string         `json:"group"`
	Amount   float64        `json:"amount"` // still to be used
	Quantity units.Quantity `json:"quantity"`
	By       civil.Date     `json:"by"` // the last day to order it, or to have it
	CostText string         `json:"costText"`
	Blocks   []string       `json:"blocks"`
	Late     bool           `json:"late"`
	OnOrder  float64        `json:"onOrder"`
	InStore  float64        `json:"inStore"` // came and was kept, less what is used
	Used     float64        `json:"used"`
	Short    float64        `json:"short"`
	// OnArrival says how many of a delivery of plants are looked at and how many may be poor; "" for other things.
	OnArrival string `json:"onArrival"`
}

// What a delivery of plants is judged by: a share of poor plants that is taken, and one that is not, each wrongly in one of
// twenty and one of ten cases (common practice, no source).
const (
	poorTaken, poorRefused = 0.02, 0.10
	takenWrong, missWrong  = 0.05, 0.10
)

// Orders sums what the plans of all blocks take by the day it must be ordered: plants on the last day of the order their
// sheet asks for, what work takes on the day of the work, fittings by the planting. What work that is done took is used;
// what came for a planting that stands since is used too.
func (s *Service) Orders(ctx context.Context) ([]Order, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return nil, err
	}
	docs, err := s.blocks(ctx)
	if err != nil {
		return nil, err
	}
	sum := &ordering{at: map[string]int{}, deliveries: e.Estate.Deliveries}
	for _, d := range docs {
		if d.Err != nil || d.Block.Planting == nil {
			continue
		}
		st := d.Block.Planting.Stage()
		if st != document.Planned && st != document.Adopted && (st != document.Planted || len(e.Estate.Deliveries) == 0) {
			continue
		}
		p, err := s.brief(ctx, e.Estate, d)
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if err != nil {
			continue // the overview says why
		}
		sum.add(p, d.Block)
	}
	return sum.settled(e.Estate, s.today()), nil
}

// ordering sums orders by their item.
type ordering struct {
	at         map[string]int
	out        []Order
	deliveries []document.Delivery
}

// since is the first day something of an item came or was ordered; ok is false where it never was.
func (o *ordering) since(item string) (first civil.Date, ok bool) {
	for _, d := range o.deliveries {
		if d.Item == item && (!ok || d.Ordered.Before(first)) {
			first, ok = d.Ordered, true
		}
	}
	return first, ok
}

// add counts what the plan of a block takes, and what of it is used.
func (o *ordering) add(p *plan.Plan, b document.Block) {
	done := map[string]float64{}
	for _, j := range p.Jobs {
		if !j.Done.IsZero() {
			done[j.Key] = 1
		} else {
			done[j.Key] = j.Share
		}
	}
	planted := p.Stage == document.Planted
	for _, l := range p.Bill {
		if l.Item == "" {
			continue
		}
		used := 0.0
		if planted {
			if first, ok := o.since(l.Item); !ok || b.Planting.Planted.Before(first) {
				continue // it stood before anything of it was ordered here
			}
			used = l.Amount
		} else {
			for _, u := range p.Supplies {
				if "use:"+u.What == l.Item && u.For == l.How {
					used = l.Amount * done[u.Key]
				}
			}
		}
		by := orderedBy(p, l.Group == "Plants", l.What, p.CropDate)
		k, ok := o.at[l.Item]
		if !ok {
			k = len(o.out)
			o.at[l.Item] = k
			o.out = append(o.out, Order{Item: l.Item, What: l.What, Group: l.Group, Quantity: l.Quantity, By: by, Blocks: []string{}})
		}
		x := &o.out[k]
		x.Amount += l.Amount - used
		x.Used += used
		if l.Amount > used {
			x.Blocks = append(x.Blocks, b.Name)
			if by.Before(x.By) || x.Amount == l.Amount-used {
				x.By = by
			}
		}
	}
}

// settled sets what is ordered and what came against what is needed.
func (o *ordering) settled(e document.Estate, today civil.Date) []Order {
	for _, d := range o.deliveries { // what was ordered and no plan asks for any more is in store too
		if _, ok := o.at[d.Item]; !ok {
			o.at[d.Item] = len(o.out)
			o.out = append(o.out, Order{Item: d.Item, What: d.What, Quantity: units.Count, By: d.Ordered, Blocks: []string{}})
		}
	}
	for i := range o.out {
		x := &o.out[i]
		for _, d := range o.deliveries {
			switch {
			case d.Item != x.Item:
			case d.Arrived.IsZero():
				x.OnOrder += d.Amount
			default:
				x.InStore += d.Got - d.Refused
			}
		}
		x.InStore = max(0, x.InStore-x.Used)
		x.Short = max(0, x.Amount-x.OnOrder-x.InStore)
		x.Late = x.By.Before(today) && x.Short > 0
		x.CostText = "no price"
		if p, ok := e.PriceOf(x.Item, today); ok {
			amount := x.Short
			if x.Quantity == units.MassT {
				amount /= 1000
			}
			v := &report.Voice{Units: e.Units, Currency: e.Currency}
			x.CostText = v.Money(p.Each * amount)
		}
		if lot := int(max(x.OnOrder, x.Short)); x.Group == "Plants" && lot > 0 {
			if n, err := supply.Inspect(lot, poorTaken, poorRefused, takenWrong, missWrong); err == nil {
				x.OnArrival = fmt.Sprintf("On arrival look at %s, taken from all parts of the load; send it back with more than %d poor ones. A load with %g %% poor "+
					"is so taken and one with %g %% refused; common practice, no source.", units.Text(float64(n.Sample), units.Count, e.Units), n.Most,
					100*poorTaken, 100*poorRefused)
			}
		}
	}
	sort.SliceStable(o.out, func(i, j int) bool { return o.out[i].By.Before(o.out[j].By) })
	return append([]Order{}, o.out...)
}

// orderedBy is the last day for a line of a bill.
func orderedBy(p *plan.Plan, plants bool, what string, planting civil.Date) civil.Date {
	if plants {
		for _, j := range p.Jobs {
			if schedule.OperationOf(j.Key) == "order" {
				return j.By
			}
		}
		return planting
	}
	for _, s := range p.Supplies {
		if s.What == what {
			return s.By
		}
	}
	return planting
}
