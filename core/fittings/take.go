package fittings

import (
	"fmt"
	"math"

	"slowroot/core/units"
)

// trellis is posts and wire of every row, method LAY-8: line posts ⌈L/s⌉ − 1, wire w·(L + 2·t)·(1 + slack)·√(1 + slope²).
func trellis(v values, s Site) []Item {
	posts, braces, run := 0.0, 0.0, 0.0
	for _, l := range s.RowsM {
		posts += math.Max(0, up(l/v["postM"])-1)
		run += l + 2*v["tieM"]
		if l > v["braceM"] {
			braces += 2
		}
	}
	n := float64(len(s.RowsM))
	slope := math.Sqrt(1 + s.SlopePct*s.SlopePct/1e4)
	wire := v["wires"] * run * (1 + v["slack"]) * slope
	return []Item{
		{"line posts or arms", "post", posts, units.Count, "Σ over rows of ⌈length / spacing⌉ − 1",
			fmt.Sprintf("%.0f rows, {%.0f m} together, every {%g m}", n,
				s.metres(), v["postM"])},
		{"end assemblies", "end-assembly", 2 * n, units.Count, "2 × rows", fmt.Sprintf("2 × %.0f", n)},
		{"anchors", "anchor", 2*n + braces, units.Count, "2 × rows, and 2 more in long rows", fmt.Sprintf("2 × %.0f + %.0f", n, braces)},
		{"wire", "wire", wire, units.Distance, "wires × Σ(length + 2 · tie) × (1 + slack) × √(1 + slope²)",
			fmt.Sprintf("%g × %.1f × %g × %.5f", v["wires"], run, 1+v["slack"], slope)},
		{"rolls of wire", "", up(wire / v["rollM"]), units.Count, "⌈wire / roll⌉", fmt.Sprintf("⌈%.1f / %g⌉", wire, v["rollM"])},
		{"staples", "staple", (posts + 2*n) * v["wires"], units.Count, "posts × wires", fmt.Sprintf("%.0f × %g", posts+2*n, v["wires"])},
		{"tensioners", "tensioner", n * v["wires"], units.Count, "rows × wires", fmt.Sprintf("%.0f × %g", n, v["wires"])},
	}
}

// kit is a support bought whole: an arm at both ends of a row and every so far between, and two row ends, method LAY-8.
func kit(v values, s Site) []Item {
	arms := 0.0
	for _, l := range s.RowsM {
		arms += up(l/v["armM"]) + 1
	}
	n := float64(len(s.RowsM))
	return []Item{
		{"arms or posts of the kit", "kit", up(arms * (1 + v["spare"])), units.Count, "⌈Σ over rows of (⌈length / spacing⌉ + 1) × (1 + spare)⌉",
			fmt.Sprintf("⌈%.0f × %g⌉", arms, 1+v["spare"])},
		{"row ends of the kit", "kit-end", 2 * n, units.Count, "2 × rows", fmt.Sprintf("2 × %.0f", n)},
	}
}

// cover is a strip of film on brackets over every row.
func cover(v values, s Site) []Item {
	m, brackets := 0.0, 0.0
	for _, l := range s.RowsM {
		m += l + 2*v["endM"]
		brackets += up(l/v["bracketM"]) + 1
	}
	return []Item{
		{"film of the rain cover", "cover-film", m * v["widthM"], units.Area, "Σ over rows of (length + 2 · ends) × width",
			fmt.Sprintf("%d rows, {%.1f m} together, {%g m} wide",
				len(s.RowsM), s.metres(), v["widthM"])},
		{"brackets of the rain cover", "bracket", brackets, units.Count, "Σ over rows of ⌈length / spacing⌉ + 1", fmt.Sprintf("%d rows, every {%g m}",
			len(s.RowsM),
			v["bracketM"])},
	}
}

func drip(v values, s Site) []Item {
	m := s.metres() * v["lines"] * (1 + v["extra"])
	emitters := 0.0
	for _, l := range s.RowsM {
		emitters += v["lines"] * (math.Floor(l/v["emitterM"]+small) + 1)
	}
	return []Item{
		{"drip line", "drip", m, units.Distance, "row length × lines × (1 + extra)", fmt.Sprintf("%.1f × %g × %g", s.metres(), v["lines"], 1+v["extra"])},
		{"emitters", "", emitters, units.Count, "Σ over rows of lines × (⌊length / spacing⌋ + 1)", fmt.Sprintf("%d rows, every {%g m}", len(s.RowsM),
			v["emitterM"])},
		{"rolls of drip line", "", up(m / v["rollM"]), units.Count, "⌈line / roll⌉", fmt.Sprintf("⌈%.1f / %g⌉", m, v["rollM"])},
		{"end closures", "drip-end", float64(len(s.RowsM)) * v["lines"], units.Count, "rows × lines", fmt.Sprintf("%d × %g", len(s.RowsM), v["lines"])},
	}
}

func film(v values, s Site) []Item {
	m := (s.metres() + 2*v["endM"]*float64(len(s.RowsM))) * (1 + v["overlap"])
	return []Item{
		{"film or fabric", "fabric", m, units.Distance, "(row length + 2 · ends × rows) × (1 + overlap)",
			fmt.Sprintf("(%.1f + 2 · %g × %d) × %g", s.metres(), v["endM"], len(s.RowsM), 1+v["overlap"])},
		{"its area", "", m * v["widthM"], units.Area, "length × width", fmt.Sprintf("%.1f × %g", m, v["widthM"])},
		{"rolls of film or fabric", "", up(m / v["rollM"]), units.Count, "⌈length / roll⌉", fmt.Sprintf("⌈%.1f / %g⌉", m, v["rollM"])},
	}
}

// mulch is what a strip along the rows takes, loose, method BED-6; a strip wider than the rows are apart covers the ground once.
func mulch(v values, s Site) []Item {
	w := v["widthM"]
	how := "width × depth × row length"
	if s.RowM > 0 && w > s.RowM {
		w, how = s.RowM, "row spacing (the strips would overlap) × depth × row length"
	}
	settled := w * v["deepCm"] / 100 * s.metres()
	return []Item{
		{"mulch as it lies", "", settled, units.Earth, how, fmt.Sprintf("%g × %g × %.1f", w, v["deepCm"]/100, s.metres())},
		{"mulch to order, loose", "mulch", settled / v["settles"], units.Earth, "settled / what it settles to", fmt.Sprintf("%.1f / %g", settled,
			v["settles"])},
	}
}

// pits is the earth of box pits, method BED-3.
func pits(v values, s Site) []Item {
	n := float64(s.Stations)
	one := v["longM"] * v["wideM"] * v["deepM"]
	top := v["longM"] * v["wideM"] * math.Min(v["topsoilM"], v["deepM"])
	fill := math.Max(0, one-v["ballL"]/1000)
	return []Item{
		{"earth dug", "", one * n, units.Earth, "length × width × depth × stations", fmt.Sprintf("%g × %g × %g × %.0f", v["longM"], v["wideM"],
			v["deepM"], n)},
		{"topsoil, heaped by itself", "", top * n, units.Earth, "length × width × topsoil × stations", fmt.Sprintf("%g × %g × %g × %.0f", v["longM"],
			v["wideM"],
			math.Min(v["topsoilM"], v["deepM"]), n)},
		{"subsoil", "", (one - top) * n, units.Earth, "the rest", fmt.Sprintf("(%.4f − %.4f) × %.0f", one, top, n)},
		{"compost or manure, well rotted", "organic", v["organic"] * fill * n, units.Earth, "share × (pit − root ball) × stations",
			fmt.Sprintf("%g × %.4f × %.0f",
				v["organic"], fill, n)},
		{"days of digging by hand", "", one * n / v["m3Day"], units.Count, "earth dug / earth a day", fmt.Sprintf("%.1f / %g", one*n, v["m3Day"])},
	}
}

func furrow(v values, s Site) []Item {
	return []Item{{"earth moved", "earth", v["widthM"] * v["deepM"] * s.metres(), units.Earth, "width × depth × row length",
		fmt.Sprintf("%g × %g × %.1f",
			v["widthM"], v["deepM"], s.metres())}}
}

func stakes(v values, s Site) []Item {
	n := v["each"] * float64(s.Stations)
	return []Item{{"stakes", "stake", n, units.Count, "stations × stakes", fmt.Sprintf("%d × %g", s.Stations, v["each"])},
		{"ties", "tie", n * v["ties"], units.Count, "stakes × ties", fmt.Sprintf("%.0f × %g", n, v["ties"])}}
}

func guards(v values, s Site) []Item {
	return []Item{{"guards", "guard", v["each"] * float64(s.Plants), units.Count, "plants × guards", fmt.Sprintf("%d × %g", s.Plants, v["each"])}}
}

func shades(v values, s Site) []Item {
	return []Item{{"screens", "screen", v["each"] * float64(s.Stations), units.Count, "stations × screens", fmt.Sprintf("%d × %g", s.Stations,
		v["each"])}}
}

func fence(v values, s Site) []Item {
	round := s.PerimeterM + 2*math.Pi*v["outM"]
	net := math.Max(0, round-v["gates"]*v["gateM"])
	out := []Item{
		{"fence", "fence", net, units.Distance, "boundary + 2π · distance outside − gates × width", fmt.Sprintf("%.1f + 6.283185 · %g − %g × %g",
			s.PerimeterM,
			v["outM"],
			v["gates"], v["gateM"])},
		{"fence posts", "fence-post", up(net/v["postM"]) + v["gates"], units.Count, "⌈fence / spacing⌉, and one more at each gate",
			fmt.Sprintf("⌈%.1f / %g⌉ + %g",
				net, v["postM"], v["gates"])},
		{"gates", "gate", v["gates"], units.Count, "as said", fmt.Sprintf("%g", v["gates"])},
	}
	if v["wires"] > 0 {
		out = append(out, Item{"fence wire", "wire", net * v["wires"], units.Distance, "fence × wires", fmt.Sprintf("%.1f × %g", net, v["wires"])})
	}
	return out
}

// tunnel is hoops and film over bays as wide as said: a bay covers as many rows as fit, its arc is half an ellipse (Ramanujan, 1914).
func tunnel(v values, s Site) []Item {
	rows := math.Max(1, math.Floor(v["bayM"]/math.Max(s.RowM, 0.1)+small))
	a, b := v["bayM"]/2, v["highM"]
	arc := math.Pi * (3*(a+b) - math.Sqrt((3*a+b)*(a+3*b))) / 2
	bays := up(float64(len(s.RowsM)) / rows)
	length := s.metres() / rows
	hoops := up(length/v["hoopM"]) + bays
	return []Item{
		{"bays", "", bays, units.Count, "⌈rows / rows a bay⌉", fmt.Sprintf("⌈%d / %g⌉", len(s.RowsM), rows)},
		{"hoops", "hoop", hoops, units.Count, "⌈length of the bays / spacing⌉ + bays", fmt.Sprintf("⌈%.1f / %g⌉ + %.0f", length, v["hoopM"], bays)},
		{"tunnel film", "tunnel-film", length * (arc + 2*v["skirtM"]), units.Area, "length of the bays × (half ellipse + 2 · skirt)",
			fmt.Sprintf("%.1f × (%.2f + 2 · %g)", length, arc, v["skirtM"])},
	}
}

func net(v values, s Site) []Item {
	return []Item{{"net or rope", "net", s.metres() * v["lines"] * (1 + v["extra"]), units.Distance, "row length × lines × (1 + extra)",
		fmt.Sprintf("%.1f × %g × %g", s.metres(), v["lines"], 1+v["extra"])}}
}

func seed(v values, s Site) []Item {
	ha := s.PlantedM2 / 1e4 * v["share"]
	kg := v["kgHa"] * ha * v["reckoned"] / v["germination"]
	return []Item{{"seed", "seed", kg, units.MassKg, "rate × planted area × share × germination reckoned / germination of the lot",
		fmt.Sprintf("%g × %.4f × %g × %g / %g", v["kgHa"], s.PlantedM2/1e4, v["share"], v["reckoned"], v["germination"])}}
}

func pots(v values, s Site) []Item {
	n := up(float64(s.Plants) * (1 + v["spare"]))
	return []Item{{"pots or bags", "pot", n, units.Count, "⌈plants × (1 + spare)⌉", fmt.Sprintf("⌈%d × %g⌉", s.Plants, 1+v["spare"])},
		{"substrate", "substrate", n * v["litres"] / 1000 / (1 - v["shrink"]), units.Earth, "pots × volume / 1000 / (1 − settling)",
			fmt.Sprintf("%.0f × %g / 1000 / %g", n,
				v["litres"], 1-v["shrink"])}}
}
