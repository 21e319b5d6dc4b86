package estate

import (
	"errors"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/finding"
)

// What is ordered is no longer short, what came is in store less what was sent back, what a job that is done took is used,
// and what is put away by mistake is refused with the field.
func TestWhatIsInStore(t *testing.T) {
	s, docs := demoEstate(t)
	of := func(item string) Order {
		t.Helper()
		list, err := s.Orders(ctx)
		if err != nil {
			t.Fatal(err)
		}
		for _, o := range list {
			if o.Item == item {
				return o
			}
		}
		return Order{}
	}
	deliver := func(text string) error {
		e, err := s.Estate(ctx)
		if err != nil {
			t.Fatal(err)
		}
		_, err = s.ChangeEstate(ctx, "A", e.Revision, []byte(`{"deliveries":[`+text+`]}`))
		return err
	}
	trees := of("plant:persimmon")
	if trees.Amount != 3897 || trees.Short != trees.Amount || !trees.Late || trees.OnOrder+trees.InStore+trees.Used != 0 {
		t.Fatalf("%+v", trees)
	}
	if !strings.HasPrefix(trees.OnArrival, "On arrival look at 65,") || !strings.Contains(trees.OnArrival, "more than 3 poor") {
		t.Errorf("of 3 897 trees: %s", trees.OnArrival)
	}
	one := func(more string) string {
		return `{"item":"plant:persimmon","what":"trees","supplier":"Hollow Nursery","ordered":"2027-03-15","due":"2027-07-20","amount":3000,` + more + `}`
	}
	if err := deliver(one(`"got":0,"refused":0,"why":""`)); err != nil {
		t.Fatal(err)
	}
	if o := of("plant:persimmon"); o.OnOrder != 3000 || o.Short != 897 || !o.Late {
		t.Errorf("3 000 are on their way: %+v", o)
	}
	if err := deliver(one(`"arrived":"2027-03-20","got":2990,"refused":120,"why":"dry roots"`)); err != nil {
		t.Fatal(err)
	}
	if o := of("plant:persimmon"); o.InStore != 2870 || o.OnOrder != 0 || o.Short != 1027 {
		t.Errorf("2 990 came and 120 went back: %+v", o)
	}
	// what planting took
	water := of("use:water at planting")
	d, err := s.Block(ctx, docs["Orchard Foot"].ID)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.RecordPlanted(ctx, "A", d.ID, d.Revision, civil.Must(2027, 3, 10)); err != nil {
		t.Fatal(err)
	}
	after := of("use:water at planting")
	if !(after.Amount < water.Amount) {
		t.Errorf("water still to use %g, then %g", water.Amount, after.Amount)
	}
	if o := of("plant:persimmon"); o.Amount != 452 || o.Short != 0 || o.InStore != 2870 {
		t.Errorf("planted before they were ordered, the trees are in store still: %+v", o)
	}
	for field, text := range map[string]string{
		"deliveries[0].refused": one(`"arrived":"2027-03-20","got":5,"refused":6,"why":""`),
		"deliveries[0].arrived": one(`"arrived":"2027-03-01","got":5,"refused":1,"why":""`),
		"deliveries[0].got":     one(`"got":-5,"refused":0,"why":""`),
		"deliveries[0].what":    `{"item":"","what":"","supplier":"","ordered":"2027-03-15","amount":1,"got":0,"refused":0,"why":""}`,
	} {
		var fe *finding.FieldError
		if err := deliver(text); !errors.As(err, &fe) || fe.Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}
