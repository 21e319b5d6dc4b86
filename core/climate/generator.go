package climate

import (
	"math"

	"slowroot/core/finding"
)

// Random is SplitMix64, a fixed sequence for a seed so that a simulated year is the same everywhere.
type Random struct{ x uint64 }

// NewRandom starts the sequence of a seed.
func NewRandom(seed uint64) *Random { return &Random{seed} }

// Next is the next 64 bits.
func (r *Random) Next() uint64 {
	r.x += 0x9E3779B97F4A7C15
	z := r.x
	z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
	z = (z ^ z>>27) * 0x94D049BB133111EB
	return z ^ z>>31
}

// Uniform is the next number strictly between 0 and 1.
func (r *Random) Uniform() float64 { return (float64(r.Next()>>11) + 0.5) / (1 << 53) }

// Normal is the next standard normal number, by inversion.
func (r *Random) Normal() float64 { return NormalQuantile(r.Uniform()) }

// NormalQuantile is Φ⁻¹(p) by algorithm AS 241 (PPND16): Wichura, Applied Statistics 37, 1988.
func NormalQuantile(p float64) float64 {
	poly := func(c []float64, x float64) float64 {
		s := 0.0
		for i := len(c) - 1; i >= 0; i-- {
			s = s*x + c[i]
		}
		return s
	}
	if q := p - 0.5; math.Abs(q) <= 0.425 {
		r := 0.180625 - q*q
		return q * poly([]float64{3.3871328727963666080, 133.14166789178437745, 1971.5909503065514427, 13731.693765509461125, 45921.953931549871457,
			67265.770927008700853, 33430.575583588128105, 2509.0809287301226727}, r) /
			poly([]float64{1, 42.313330701600911252, 687.18700749205790830, 5394.1960214247511077, 21213.794301586595867, 39307.895800092710610, 28729.085735721942674,
				5226.4952788528545610}, r)
	}
	r := p
	if p > 0.5 {
		r = 1 - p
	}
	if r <= 0 {
		return math.Copysign(math.Inf(1), p-0.5)
	}
	r = math.Sqrt(-math.Log(r))
	var v float64
	if r <= 5 {
		r -= 1.6
		v = poly([]float64{1.42343711074968357734, 4.63033784615654529590, 5.76949722146069140550, 3.64784832476320460504, 1.27045825245236838258,
			0.241780725177450611770, 0.0227238449892691845833, 7.74545014278341407640e-4}, r) /
			poly([]float64{1, 2.05319162663775882187, 1.67638483018380384940, 0.689767334985100004550, 0.148103976427480074590, 0.0151986665636164571966,
				5.47593808499534494600e-4, 1.05075007164441684324e-9}, r)
	} else {
		r -= 5
		v = poly([]float64{6.65790464350110377720, 5.46378491116411436990, 1.78482653991729133580, 0.296560571828504891230, 0.0265321895265761230930,
			0.00124266094738807843860, 2.71155556874348757815e-5, 2.01033439929228813265e-7}, r) /
			poly([]float64{1, 0.599832206555887937690, 0.136929880922735805310, 0.0148753612908506148525, 7.86869131145613259100e-4, 1.84631831751005468180e-5,
				1.42151175831644588870e-7, 2.04426310338993978564e-15}, r)
	}
	return math.Copysign(v, p-0.5)
}

// NormalCDF is Φ(x).
func NormalCDF(x float64) float64 { return 0.5 * math.Erfc(-x/math.Sqrt2) }

// RainModel is the wet-day chain and amounts of a month, from its normals (Geng, Penning de Vries &
// Supit, A simple method for generating daily rainfall data, Agric. Forest Meteorol., 1986; method C2).
type RainModel struct {
	WetAfterDry float64 `json:"wetAfterDry"`
	WetAfterWet float64 `json:"wetAfterWet"`
	MeanMM      float64 `json:"meanMm"` // of a wet day
	Scale       float64 `json:"scale"`  // of the gamma amounts
	Shape       float64 `json:"shape"`
}

// NewRainModel takes a month's total in mm, its wet days and its length.
func NewRainModel(totalMM, wetDays float64, days int) (RainModel, error) {
	switch {
	case days < 28 || days > 31:
		return RainModel{}, finding.Bad("days", days, "is not the length of a month", "28 to 31")
	case !(totalMM >= 0 && totalMM <= 2000):
		return RainModel{}, finding.Bad("rainMm", totalMM, "is not a month's rain", "0 to 2000 mm")
	case !(wetDays >= 0 && wetDays <= float64(days)):
		return RainModel{}, finding.Bad("wetDays", wetDays, "is not a number of wet days", "0 to the days of the month")
	case totalMM > 0 && wetDays < 1:
		return RainModel{}, finding.Bad("wetDays", wetDays, "rain falls on at least one day", "1 or more")
	}
	if wetDays == 0 {
		return RainModel{Shape: 1}, nil
	}
	f := wetDays / float64(days)
	m := RainModel{WetAfterDry: 0.75 * f, MeanMM: totalMM / wetDays}
	m.WetAfterWet = 0.25 + m.WetAfterDry
	m.Scale, m.Shape = m.MeanMM, 1
	if m.MeanMM >= 2.6 {
		m.Scale = -2.16 + 1.83*m.MeanMM
		m.Shape = m.MeanMM / m.Scale
	}
	return m, nil
}

// Days draws n days of rain in mm, starting dry: one number for wet or dry, and on a wet day a second
// for an exponential amount. The order of draws is part of the method.
func (m RainModel) Days(n int, r *Random) []float64 {
	out := make([]float64, n)
	wet := false
	for i := range out {
		p := m.WetAfterDry
		if wet {
			p = m.WetAfterWet
		}
		if wet = r.Uniform() < p; wet {
			out[i] = -m.MeanMM * math.Log(1-r.Uniform())
		}
	}
	return out
}
