"""Independent laterals and drained areas for golden_test.go.

Made with shapely 1.8.5:  python3 laterals.py > laterals.json
Each side of the collector has parallel lines at S/2, 3S/2, ... (herringbone: the second side at S, 2S, ...) measured
across them from the outlet; a lateral starts where its line cuts the collector and ends at the first boundary it meets,
held S/2 off every edge that runs with the axis of the collector, or S/2 before the collector itself or a branch; what is
shorter than S/2 is left out. A branch
has laterals on the same parallel lines; one that would run where a lateral of the collector drains already (within 0.6 S
of it) or down the slope is left out. Reached is the block within S/2 of a drain, with each lateral lengthened by S/2 and
the collector and the branch as far as their last junction.
"""
import json, math
from shapely.geometry import Polygon, LineString, Point
from shapely.ops import substring, unary_union

SHAPES = {
    "rectangle": ([(0, 0), (200, 0), (200, 120), (0, 120)], []),
    "wedge": ([(0, 0), (260, 30), (300, 180), (150, 240), (-20, 150)], []),
    "bay": ([(0, 0), (180, 0), (180, 90), (90, 90), (90, 200), (0, 200)], []),
    "holed": ([(0, 0), (300, 0), (300, 200), (0, 200)], [[(120, 80), (160, 80), (160, 120), (120, 120)]]),
    "strip": ([(0, 0), (75, 0), (75, 300), (0, 300)], []),
    "sliver": ([(0, 0), (420, 25), (424, 70), (10, 45)], []),
}
CASES = [
    ("rectangle", [(0, 60), (200, 60)], 20, 60), ("rectangle", [(0, 0.01), (200, 0.01)], 14, 90), ("wedge", [(2, 2), (150, 120), (240, 190)], 12, 60),
    ("wedge", [(-15, 145), (130, 110), (270, 110)], 9.5, 45), ("bay", [(3, 3), (60, 60), (60, 190)], 11, 60), ("bay", [(5, 2), (175, 2)], 8, 90),
    ("holed", [(2, 2), (110, 70), (170, 130), (295, 195)], 15, 60), ("holed", [(2, 100), (110, 130), (290, 140)], 25, 35), ("sliver", [(5, 22), (415, 48)], 12, 90),
    ("holed", [(1, 1), (299, 1)], 10, 90),
    ("rectangle", [(0, 0), (0, 120)], 20, 90, [(0, 119.9), (100, 119.9), (100, 0.1)]), ("rectangle", [(0.5, 0), (0.5, 120)], 9, 90, [(0.5, 60), (110, 60), (110, 2)]),
    ("holed", [(1, 1), (299, 1)], 10, 90, [(108, 1), (112, 128), (166, 129)]), ("holed", [(1, 1), (299, 1)], 12, 90, [(175, 1), (170, 126), (116, 132)]),
    ("wedge", [(2, 2), (255, 32)], 12, 90, [(20, 2 + 18 / 253 * 30), (10, 110), (240, 130)]), ("wedge", [(2, 2), (255, 32)], 17, 90, [(245, 2 + 243 / 253 * 30), (268, 110), (20, 120)]),
    ("rectangle", [(0, 45), (200, 45)], 18, 52), ("strip", [(0.01, 0), (0.01, 300)], 18, 52),
]

def height(x, y):
    return 50 + 0.002 * x + 0.003 * y

def unit(x, y):
    n = math.hypot(x, y)
    return x / n, y / n

def run(shape, line, S, angle, branch=None):
    outer, holes = SHAPES[shape]
    block = Polygon(outer, holes)
    collector = LineString(line)
    mains = [collector] + ([LineString(branch)] if branch else [])
    ux, uy = unit(line[-1][0] - line[0][0], line[-1][1] - line[0][1])
    a = math.radians(angle)
    laterals = []
    rings = [block.exterior] + list(block.interiors)
    edges = [(r.coords[i], r.coords[i + 1]) for r in rings for i in range(len(r.coords) - 1)]
    for number, main in enumerate(mains):
        drained = unary_union([LineString([(x, y), (x + dx * f, y + dy * f)]).buffer(0.6 * S, resolution=64) for x, y, dx, dy, f in laterals])
        found = []
        for sign in (1, -1):
            dx = ux * math.cos(sign * a) - uy * math.sin(sign * a)
            dy = ux * math.sin(sign * a) + uy * math.cos(sign * a)
            nx, ny = dy, -dx
            way = math.copysign(1, (line[-1][0] - line[0][0]) * nx + (line[-1][1] - line[0][1]) * ny)
            nx, ny = nx * way, ny * way
            offset = S if sign < 0 and angle < 89 else S / 2
            while offset < 2000:
                # the line of this lateral, far both ways, cut with the collector or the branch
                cx, cy = line[0][0] + nx * offset, line[0][1] + ny * offset
                ray = LineString([(cx - dx * 4000, cy - dy * 4000), (cx + dx * 4000, cy + dy * 4000)])
                hit = main.intersection(ray)
                points = [hit] if hit.geom_type == "Point" else list(getattr(hit, "geoms", []))
                points = [p for p in points if p.geom_type == "Point" and main.project(p) > 1e-6]
                offset += S
                if not points:
                    continue
                for start in sorted(points, key=main.project)[:None if number else 1]:  # the collector only on its first pass
                    x, y = start.x, start.y
                    if not block.contains(Point(x + 0.1 * dx, y + 0.1 * dy)):
                        continue
                    go = LineString([(x, y), (x + dx * 4000, y + dy * 4000)])
                    far, edge = 1e9, None
                    for p, q in edges:
                        h = go.intersection(LineString([p, q]))
                        if h.geom_type == "Point" and 0.05 < start.distance(h) < far:
                            far, edge = start.distance(h), unit(q[0] - p[0], q[1] - p[1])
                    if edge is None:
                        continue
                    if abs(edge[0] * ux + edge[1] * uy) > math.sqrt(0.5):
                        far -= S / 2 / max(0.2, abs(dx * edge[1] - dy * edge[0]))
                    for p, q in edges:
                        ex, ey = unit(q[0] - p[0], q[1] - p[1])
                        if abs(ex * ux + ey * uy) <= math.sqrt(0.5) or start.distance(LineString([(p[0] - 4000 * ex, p[1] - 4000 * ey), (q[0] + 4000 * ex, q[1] + 4000 * ey)])) <= S / 2 or abs(dx * ey - dy * ex) < 0.2:
                            continue
                        way = math.copysign(S / 2, ex * (y - p[1]) - ey * (x - p[0]))  # on the side the lateral comes from
                        beside = LineString([(p[0] - ey * way, p[1] + ex * way), (q[0] - ey * way, q[1] + ex * way)])
                        h = go.intersection(beside)
                        if h.geom_type == "Point":
                            far = min(far, start.distance(h))
                    for other in mains:
                        again = go.intersection(other)
                        for p in [again] if again.geom_type == "Point" else list(getattr(again, "geoms", [])):
                            if p.geom_type == "Point" and start.distance(p) > 0.5:
                                far = min(far, start.distance(p) - S / 2)
                    if far < S / 2:
                        continue
                    own = [LineString([(u, v), (u + e * g, v + f * g)]) for u, v, e, f, g in found if abs(e * dy - f * dx) < 0.05 and math.hypot(u - x, v - y) > 1e-6]
                    if number and any(o.distance(Point(x + dx * S / 4, y + dy * S / 4)) < 0.6 * S for o in own):
                        continue
                    if number and (drained.contains(Point(x + dx * S / 4, y + dy * S / 4)) or height(x, y) - height(x + dx * far, y + dy * far) > 0.3):
                        continue
                    if number and LineString([(x + dx * S / 4, y + dy * S / 4), (x + dx * far, y + dy * far)]).intersects(drained):
                        raise SystemExit(f"{shape}: a lateral of the branch runs into drained ground; choose another branch")
                    found.append((x, y, dx, dy, far))
        laterals += found
    joints = [[m.project(Point(x, y)) for x, y, _, _, _ in laterals if m.distance(Point(x, y)) < 1e-6] for m in mains]
    if branch:
        joints[0].append(collector.project(Point(branch[0])))
    laid = [substring(m, 0, max(j)) if j else m for m, j in zip(mains, joints)]
    drains = laid + [LineString([(x, y), (x + dx * (f + S / 2), y + dy * (f + S / 2))]) for x, y, dx, dy, f in laterals]
    reached = unary_union([d.buffer(S / 2, resolution=64) for d in drains]).intersection(block)
    out = dict(shape=shape, outer=outer, holes=holes, line=line, spacing=S, angle=angle, laterals=len(laterals), metres=round(sum(l[4] for l in laterals), 3), reached=round(reached.area, 1), block=round(block.area, 3))
    if branch:
        out["branch"] = branch
    return out

print(json.dumps([run(*c) for c in CASES], indent=1))
