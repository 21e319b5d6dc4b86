package soils

import (
	"fmt"
	"math"

	"slowroot/core/soil"
)

// ReadPit works a pit out for roots that go down to root cm. Roots of a crop that lives in wet soil are
// not stopped by it.
func ReadPit(pit soil.Pit, root float64, livesWet bool) PitView {
	v := PitView{Name: pit.Name, Zone: pit.Zone, BottomCm: pit.Bottom(), Wetness: pit.Wetness(), RootCm: root, Layers: []LayerView{}, Barriers: []soil.Barrier{}}
	v.Reading = v.Wetness.Class.Reading()
	for _, l := range pit.Layers {
		class, _, measured := l.Texture()
		lv := LayerView{TopCm: l.TopCm, BottomCm: l.BottomCm, Class: class, Measured: measured}
		lv.Words = string(class)
		for _, w := range []string{l.Colour, string(l.Structure), string(l.Hardness)} {
			if w != "" && w != string(soil.Firm) {
				lv.Words += ", " + w
			}
		}
		if l.StonesPct > 0 {
			lv.Words += fmt.Sprintf(", %.0f %% stones", l.StonesPct)
		}
		if l.Hardness != soil.Rock && l.Hardness != soil.Cemented {
			if w, err := l.Water(); err == nil {
				lv.HoldsMM, lv.KsMmH, lv.KsLow, lv.KsHigh = 10*w.Available*(l.BottomCm-l.TopCm), w.BulkKsMmH, w.BulkKsMmH/soil.KsFactor, w.BulkKsMmH*soil.KsFactor
				lv.Doubtful = w.OutOfValidity
			} else {
				lv.Doubtful = true
			}
		}
		v.Layers = append(v.Layers, lv)
	}
	wetAt := 0.0
	if v.Wetness.Seen && !livesWet {
		wetAt = math.Max(v.Wetness.DepthCm, 1)
	}
	if bs := pit.Barriers(wetAt); bs != nil {
		v.Barriers = bs
	}
	cm, lim := soil.Effective(v.Barriers, v.BottomCm, nil)
	v.EffectiveCm = cm
	if lim != nil {
		v.Limiting = lim.Kind
	}
	cm, lim = soil.Effective(v.Barriers, v.BottomCm, func(soil.Barrier) bool { return true })
	v.AfterCm = cm
	if lim != nil {
		v.AfterStops = lim.Kind
	}
	v.AvailableMM, _, _, _ = pit.Available(math.Min(root, v.EffectiveCm))
	v.Held = soil.HeldClass(v.AvailableMM)
	if top, what, ok := pit.Restrictive(); ok {
		v.Restrictive = &RestrictiveView{top, what}
	}
	if r, ok := pit.Ripping(v.Barriers); ok {
		v.Rip = &r
	}
	return v
}
