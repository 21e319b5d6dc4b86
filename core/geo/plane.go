package geo

import "math"

// WGS 84 ellipsoid, defining parameters. NIMA TR8350.2, World Geodetic System 1984.
const (
	semiMajorM = 6378137.0
	flattening = 1 / 298.257223563
)

// XY is a point of a local plane: metres east (X) and north (Y) of the plane's origin.
type XY struct{ X, Y float64 }

// Plane is a transverse Mercator plane with scale 1 on its central meridian and its origin at
// (Lon0, Lat0). Within 10 km of the origin its scale differs from 1 by less than 1.3 parts in a
// million. Krüger's series to n⁴: L. Krüger, Konforme Abbildung des Erdellipsoids in der Ebene,
// 1912; coefficients as in C. F. F. Karney, Transverse Mercator with an accuracy of a few
// nanometers, J. Geodesy 85, 2011.
type Plane struct {
	Lon0, Lat0 float64
	y0         float64
}

var (
	third = flattening / (2 - flattening)
	rectA = semiMajorM / (1 + third) * (1 + third*third/4 + math.Pow(third, 4)/64)
	ecc   = math.Sqrt(flattening * (2 - flattening))
	alpha = [4]float64{
		third/2 - 2*third*third/3 + 5*math.Pow(third, 3)/16 + 41*math.Pow(third, 4)/180,
		13*third*third/48 - 3*math.Pow(third, 3)/5 + 557*math.Pow(third, 4)/1440,
		61*math.Pow(third, 3)/240 - 103*math.Pow(third, 4)/140,
		49561 * math.Pow(third, 4) / 161280,
	}
	beta = [4]float64{
		third/2 - 2*third*third/3 + 37*math.Pow(third, 3)/96 - math.Pow(third, 4)/360,
		third*third/48 + math.Pow(third, 3)/15 - 437*math.Pow(third, 4)/1440,
		17*math.Pow(third, 3)/480 - 37*math.Pow(third, 4)/840,
		4397 * math.Pow(third, 4) / 161280,
	}
)

// PlaneAt is the local plane with its origin at o.
func PlaneAt(o Point) Plane {
	p := Plane{Lon0: o.Lon, Lat0: o.Lat}
	_, p.y0 = mercator(0, o.Lat)
	return p
}

// LocalPlane is the plane at the arithmetic mean of the distinct vertices of the outer ring. Longitudes are taken
// from the first vertex on, so that a ring across 180° has its middle there and not on the other side of the earth.
func LocalPlane(p Polygon) Plane {
	r := p.Outer.open()
	if len(r) == 0 {
		return PlaneAt(Point{})
	}
	var lon, lat float64
	for _, v := range r {
		lon += turn(v.Lon - r[0].Lon)
		lat += v.Lat
	}
	n := float64(len(r))
	return PlaneAt(Point{turn(r[0].Lon + lon/n), lat / n})
}

// Between is the point a share f of the way from a to b, straight in degrees and the short way round.
func Between(a, b Point, f float64) Point {
	return Point{Lon: turn(a.Lon + f*turn(b.Lon-a.Lon)), Lat: a.Lat + f*(b.Lat-a.Lat)}
}

// turn brings degrees of longitude, or a difference of them, into −180 to 180.
func turn(deg float64) float64 {
	if deg >= -180 && deg <= 180 {
		return deg
	}
	return math.Remainder(deg, 360)
}

func mercator(dlonDeg, latDeg float64) (x, y float64) {
	phi, lam := latDeg*math.Pi/180, dlonDeg*math.Pi/180
	s := math.Sin(phi)
	t := math.Sinh(math.Atanh(s) - ecc*math.Atanh(ecc*s))
	xi := math.Atan2(t, math.Cos(lam))
	eta := math.Atanh(math.Sin(lam) / math.Sqrt(1+t*t))
	x, y = eta, xi
	for j, a := range alpha {
		k := 2 * float64(j+1)
		x += a * math.Cos(k*xi) * math.Sinh(k*eta)
		y += a * math.Sin(k*xi) * math.Cosh(k*eta)
	}
	return rectA * x, rectA * y
}

// To projects a point onto the plane, in metres.
func (p Plane) To(q Point) XY {
	x, y := mercator(turn(q.Lon-p.Lon0), q.Lat)
	return XY{x, y - p.y0}
}

// From is the inverse of To.
func (p Plane) From(q XY) Point {
	xi, eta := (q.Y+p.y0)/rectA, q.X/rectA
	xi0, eta0 := xi, eta
	for j, b := range beta {
		k := 2 * float64(j+1)
		xi -= b * math.Sin(k*xi0) * math.Cosh(k*eta0)
		eta -= b * math.Cos(k*xi0) * math.Sinh(k*eta0)
	}
	tauPrime := math.Sin(xi) / math.Sqrt(math.Sinh(eta)*math.Sinh(eta)+math.Cos(xi)*math.Cos(xi))
	tau := tauPrime
	for range 6 { // Newton; converges to double precision in three steps
		root := math.Sqrt(1 + tau*tau)
		sigma := math.Sinh(ecc * math.Atanh(ecc*tau/root))
		f := tau*math.Sqrt(1+sigma*sigma) - sigma*root - tauPrime
		df := (math.Sqrt((1+sigma*sigma)*(1+tau*tau)) - sigma*tau) * (1 - ecc*ecc) * root / (1 + (1-ecc*ecc)*tau*tau)
		tau -= f / df
	}
	return Point{
		Lon: turn(p.Lon0 + math.Atan2(math.Sinh(eta), math.Cos(xi))*180/math.Pi),
		Lat: math.Atan(tau) * 180 / math.Pi,
	}
}
