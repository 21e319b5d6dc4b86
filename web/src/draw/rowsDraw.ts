import type { Plan, Schema } from "../api/client";
import type { View } from "./frame";
import { palette } from "./palette";

/** Drawn is what of a plan the rows are drawn from. */
export type Drawn = Pick<Plan, "rows" | "beside" | "spec" | "outAge" | "laterAge">;

/** Colours of companions by role: fill and line. */
export const roleColours: Record<string, [fill: string, line: string]> = {
  companion: ["#e8d9a8", palette.straw],
  nurse: ["#dfe3c0", "#7d8a4e"],
  shade: ["#43633026", "#6b7f4c"],
  temporary: ["#e9e2d2", palette.faint],
  pollinizer: [palette.sand, palette.straw],
  windbreak: ["#7f9a72", "#2f4a2a"],
};

export function drawRows(
  c: CanvasRenderingContext2D,
  plan: Drawn,
  v: View,
  width: number,
  height: number,
  year: Pick<Plan["years"][number], "age" | "spreadM"> | undefined,
) {
  const spacing = plan.spec.plantSpacingM * v.k;
  const after = (age: number) => age > 0 && year !== undefined && year.age > age;
  const gone: Record<string, boolean> = { t: after(plan.outAge), s: after(plan.laterAge) };
  const spread = Math.max(year?.spreadM ?? 0, 0.25);
  const r = Math.max(1.1, (spread / 2) * v.k);
  const hedge = spacing < 0.8 * r && !plan.rows.some((p) => p.roles); // crowns have grown into one another
  if (spacing < 2.2 || hedge) {
    // too small for single plants, or no single crowns any more: each row as a line as wide as its canopy
    const apart = plan.spec.rowSpacingM * v.k;
    const nth = apart > 0 ? Math.max(1, Math.ceil(1.8 / apart)) : 1; // rows closer than the eye parts stand for one another
    c.lineWidth = Math.max(0.6, Math.min(spread * v.k, apart * 0.8 * nth));
    c.strokeStyle = palette.growth;
    c.globalAlpha = 0.55;
    for (const p of plan.rows) {
      if (p.row % nth) continue;
      const [from, to] = seen(p, v, width, height, c.lineWidth);
      if (to < from) continue;
      c.beginPath(); // each on its own: one path of all is many times slower to paint
      c.moveTo(v.x + (p.x + p.dx * from) * v.k, v.y - (p.y + p.dy * from) * v.k);
      c.lineTo(v.x + (p.x + p.dx * to) * v.k, v.y - (p.y + p.dy * to) * v.k);
      c.stroke();
    }
    c.globalAlpha = 1;
    if (spacing >= 6) stems(c, plan.rows, v, width, height);
    return;
  }
  // one path for all plants of a kind: a hundred thousand of them are drawn while the sheet is moved
  const kinds = {
    stays: new Path2D(),
    pollinizer: new Path2D(),
    sprout: new Path2D(),
    temporary: new Path2D(),
    gone: new Path2D(),
    bars: new Path2D(),
  };
  for (const p of plan.rows) {
    const [from, to] = seen(p, v, width, height, r);
    for (let i = from; i <= to; i++) {
      const x = v.x + (p.x + i * p.dx) * v.k;
      const y = v.y - (p.y + i * p.dy) * v.k;
      const role = p.roles?.[i] ?? "m";
      const out = role === "t" || role === "s";
      const kind = out ? (gone[role] ? "gone" : "temporary") : role === "p" ? "pollinizer" : role === "k" ? "sprout" : "stays";
      dot(kinds[kind], x, y, r);
      if (role === "p" && r > 3) {
        kinds.bars.moveTo(x - r * 0.5, y);
        kinds.bars.lineTo(x + r * 0.5, y);
      }
    }
  }
  c.lineWidth = 0.8;
  c.setLineDash(r > 2 ? [2, 2] : []);
  c.strokeStyle = palette.faint;
  c.fillStyle = palette.leaf;
  c.globalAlpha = 0.45;
  c.fill(kinds.temporary);
  c.globalAlpha = 1;
  c.stroke(kinds.temporary);
  c.stroke(kinds.gone);
  c.setLineDash([]);
  for (const [kind, fill, line] of [
    ["stays", palette.leaf, palette.growth],
    ["pollinizer", palette.sand, palette.straw],
    ["sprout", palette.growth, palette.ink],
  ] as const) {
    c.fillStyle = fill;
    c.strokeStyle = line;
    c.globalAlpha = 0.9;
    c.fill(kinds[kind]);
    c.globalAlpha = 1;
    if (r > 1.6) c.stroke(kinds[kind]);
  }
  c.strokeStyle = palette.straw;
  c.stroke(kinds.bars);
}

/** stems are the stations of a hedge, each a small mark in its row. */
function stems(c: CanvasRenderingContext2D, list: Schema["RowPiece"][], v: View, width: number, height: number) {
  c.fillStyle = palette.ink;
  for (const p of list) {
    const [from, to] = seen(p, v, width, height, 2);
    for (let i = from; i <= to; i++) c.fillRect(v.x + (p.x + i * p.dx) * v.k - 1, v.y - (p.y + i * p.dy) * v.k - 1, 2, 2);
  }
}

/** Names of the clones in their blocks, where a block is large enough on the sheet to hold one. */
export function drawClones(c: CanvasRenderingContext2D, plan: Pick<Plan, "rows" | "clones">, v: View) {
  if (plan.clones.length === 0) return;
  const at = new Map<number, { x0: number; x1: number; y0: number; y1: number; clone: number }>();
  for (const p of plan.rows) {
    if (!p.plot) continue;
    for (const i of [0, p.n - 1]) {
      const [x, y] = [p.x + i * p.dx, p.y + i * p.dy];
      const b = at.get(p.plot) ?? { x0: x, x1: x, y0: y, y1: y, clone: p.clone ?? 1 };
      at.set(p.plot, { ...b, x0: Math.min(b.x0, x), x1: Math.max(b.x1, x), y0: Math.min(b.y0, y), y1: Math.max(b.y1, y) });
    }
  }
  c.font = "12px 'Atkinson Hyperlegible Next Variable', sans-serif";
  c.textAlign = "center";
  for (const b of at.values()) {
    const name = plan.clones[b.clone - 1]?.name ?? "";
    const w = c.measureText(name).width;
    if (w + 6 > (b.x1 - b.x0) * v.k) continue;
    const [x, y] = [v.x + ((b.x0 + b.x1) / 2) * v.k, v.y - ((b.y0 + b.y1) / 2) * v.k];
    c.fillStyle = "#fffdf6d9";
    c.fillRect(x - w / 2 - 3, y - 8, w + 6, 16);
    c.fillStyle = palette.ink;
    c.fillText(name, x, y + 4);
  }
  c.textAlign = "start";
}

/** dot adds a plant to a path: a circle, or a square where nobody could tell them apart. */
function dot(path: Path2D, x: number, y: number, r: number) {
  if (r < 2.2) {
    path.rect(x - r, y - r, 2 * r, 2 * r);
    return;
  }
  path.moveTo(x + r, y);
  path.arc(x, y, r, 0, 7);
}

/** seen are the first and the last station of a piece of row that lie on the sheet; the first behind the last where none do. */
function seen(p: Schema["RowPiece"], v: View, width: number, height: number, r: number): [number, number] {
  let [lo, hi] = [0, p.n - 1];
  const within = (at: number, step: number, most: number) => {
    if (Math.abs(step) < 1e-9) {
      if (at < -r || at > most + r) hi = -1;
      return;
    }
    const [a, b] = [(-r - at) / step, (most + r - at) / step];
    lo = Math.max(lo, Math.ceil(Math.min(a, b)));
    hi = Math.min(hi, Math.floor(Math.max(a, b)));
  };
  within(v.x + p.x * v.k, p.dx * v.k, width);
  within(v.y - p.y * v.k, -p.dy * v.k, height);
  return [lo, hi];
}

/** The companions that stand in a year: as single plants where they are large enough to see, else each row as a line. */
export function drawBeside(
  c: CanvasRenderingContext2D,
  list: Schema["Beside"][],
  v: View,
  width: number,
  height: number,
  age: number,
) {
  for (const b of list) {
    const from = Math.max(b.fromYear, 1);
    if (age < b.fromYear || (b.toYear > 0 && age > b.toYear)) continue;
    const own = Math.max(1, age - from + 1);
    const spread = b.spreadM.length ? b.spreadM[Math.min(own, b.spreadM.length) - 1]! : b.role === "windbreak" ? 2 : 0.5;
    const [fill, line] = roleColours[b.role] ?? roleColours.companion!;
    c.fillStyle = fill;
    c.strokeStyle = line;
    c.lineWidth = 0.9;
    const r = Math.max(1.1, (spread / 2) * v.k);
    const plants = new Path2D();
    for (const p of b.rows) {
      if (Math.hypot(p.dx, p.dy) * v.k < 2.2) {
        c.lineWidth = Math.max(0.7, Math.min(4, spread * v.k));
        c.globalAlpha = 0.7;
        c.beginPath();
        c.moveTo(v.x + p.x * v.k, v.y - p.y * v.k);
        c.lineTo(v.x + (p.x + p.dx * (p.n - 1)) * v.k, v.y - (p.y + p.dy * (p.n - 1)) * v.k);
        c.stroke();
        c.globalAlpha = 1;
        continue;
      }
      const [from, to] = seen(p, v, width, height, r);
      for (let i = from; i <= to; i++) dot(plants, v.x + (p.x + i * p.dx) * v.k, v.y - (p.y + i * p.dy) * v.k, r);
    }
    c.lineWidth = 0.9;
    c.fill(plants);
    c.stroke(plants);
  }
}

/** The ground behind a belt on which the wind is slowed. */
export function drawShelter(c: CanvasRenderingContext2D, list: Schema["Beside"][], v: View) {
  c.fillStyle = "#2f618714";
  for (const b of list)
    for (const s of b.shelter) {
      c.beginPath();
      s.ring.forEach(([x = 0, y = 0], i) =>
        i ? c.lineTo(v.x + x * v.k, v.y - y * v.k) : c.moveTo(v.x + x * v.k, v.y - y * v.k),
      );
      c.closePath();
      c.fill();
    }
}

/** What takes no plants: as it lies, and dashed as far as it is kept free. */
export function drawObstacles(c: CanvasRenderingContext2D, list: Schema["ObstacleLaid"][], v: View) {
  const X = (p: number[]) => v.x + p[0]! * v.k;
  const Y = (p: number[]) => v.y - p[1]! * v.k;
  for (const o of list) {
    const path = () => {
      c.beginPath();
      if (o.points.length === 1) c.arc(X(o.points[0]!), Y(o.points[0]!), Math.max(2, o.halfM * v.k), 0, 7);
      else o.points.forEach((p, i) => (i ? c.lineTo(X(p), Y(p)) : c.moveTo(X(p), Y(p))));
      if (o.area) c.closePath();
    };
    c.lineJoin = c.lineCap = "round";
    if (o.points.length > 1) {
      path();
      c.strokeStyle = "#5d544722";
      c.lineWidth = Math.max(1, o.freeM * 2 * v.k);
      c.stroke();
    }
    path();
    c.fillStyle = o.kind === "wet spot" ? "#2f618755" : "#8a7f6e77";
    c.strokeStyle = o.kind === "wet spot" ? palette.water : palette.ink;
    if (o.area || o.points.length === 1) c.fill();
    c.lineWidth = o.area || o.points.length === 1 ? 1.2 : Math.max(1.4, o.halfM * 2 * v.k);
    c.setLineDash(o.kind === "power line" ? [7, 4] : []);
    c.stroke();
    c.setLineDash([]);
    const at = o.points[Math.floor(o.points.length / 2)]!;
    c.fillStyle = palette.ink;
    c.font = "12px 'Atkinson Hyperlegible Next Variable', sans-serif";
    c.fillText(o.name || o.kind, X(at) + 6, Y(at) - 4);
  }
}
