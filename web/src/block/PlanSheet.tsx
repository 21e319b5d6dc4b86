import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Plan, Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { useWidth } from "../shell/useWidth";

interface View {
  x: number;
  y: number;
  k: number; // pixels per metre
}

const palette = {
  ink: "#2a251f",
  soil: "#efe7d7",
  leaf: "#c9d3b0",
  growth: "#436330",
  sand: "#ddc48f",
  straw: "#7a5a0c",
  faint: "#8a7f6e",
  contour: "#a9835a",
  water: "#2f6187",
  decide: "#9c2218",
};

/** A round length for the scale bar, about a sixth of the sheet. */
function round(m: number) {
  const p = 10 ** Math.floor(Math.log10(m));
  return [5, 2, 1].map((f) => f * p).find((v) => v <= m) ?? p;
}

/** The block to scale as a surveyor would draw it: boundary, rows and stations, north and a scale bar. */
export function PlanSheet({
  plan,
  season,
  height = 400,
  land,
}: {
  plan: Plan;
  season: number;
  height?: number;
  land?: Schema["Drawing"] | null;
}) {
  const [box, width] = useWidth(200);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [view, setView] = useState<View>();
  const { system, text } = useReading();
  const rings = plan.ground.rings as [number, number][][];

  const fit = useMemo<View>(() => {
    const xs = rings[0]!.map((p) => p[0]);
    const ys = rings[0]!.map((p) => p[1]);
    const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    const k = Math.min((width - 60) / (x1 - x0), (height - 56) / (y1 - y0));
    return { k, x: width / 2 - ((x0 + x1) / 2) * k, y: (height - 26) / 2 + ((y0 + y1) / 2) * k };
  }, [rings, width, height]);
  const v = view ?? fit;
  const year =
    plan.years.find((y) => y.season === season) ?? (season < (plan.years[0]?.season ?? 0) ? undefined : plan.years.at(-1));

  const zoom = useCallback(
    (f: number, cx = width / 2, cy = height / 2) =>
      setView((old) => {
        const o = old ?? fit;
        const k = Math.min(400, Math.max(fit.k / 2, o.k * f));
        return { k, x: cx - ((cx - o.x) * k) / o.k, y: cy - ((cy - o.y) * k) / o.k };
      }),
    [fit, width, height],
  );
  const pan = (dx: number, dy: number) => setView((old) => ({ ...(old ?? fit), x: (old ?? fit).x + dx, y: (old ?? fit).y + dy }));

  useEffect(() => {
    const el = canvas.current;
    if (!el) return;
    const wheel = (e: WheelEvent) => {
      if (!e.ctrlKey && document.activeElement !== el) return;
      e.preventDefault();
      zoom(e.deltaY < 0 ? 1.2 : 1 / 1.2, e.offsetX, e.offsetY);
    };
    el.addEventListener("wheel", wheel, { passive: false });
    return () => el.removeEventListener("wheel", wheel);
  }, [zoom]);

  useEffect(() => {
    const el = canvas.current;
    const c = el?.getContext("2d");
    if (!el || !c) return;
    const ratio = window.devicePixelRatio || 1;
    el.width = width * ratio;
    el.height = height * ratio;
    c.setTransform(ratio, 0, 0, ratio, 0, 0);
    c.clearRect(0, 0, width, height);
    const X = (x: number) => v.x + x * v.k;
    const Y = (y: number) => v.y - y * v.k;
    c.beginPath();
    for (const r of rings) {
      r.forEach(([x, y], i) => (i ? c.lineTo(X(x), Y(y)) : c.moveTo(X(x), Y(y))));
      c.closePath();
    }
    c.fillStyle = palette.soil;
    c.fill("evenodd");
    if (land) drawLand(c, land, v, (m) => text(m, "height"));
    drawRows(c, plan, v, width, height, year);
    c.beginPath();
    for (const r of rings) {
      r.forEach(([x, y], i) => (i ? c.lineTo(X(x), Y(y)) : c.moveTo(X(x), Y(y))));
      c.closePath();
    }
    c.strokeStyle = palette.ink;
    c.lineWidth = 1.8;
    c.stroke();
  }, [plan, rings, v, width, height, year, land, text]);

  const perUnit = system === "us" ? 0.3048 : 1;
  const bar = round(width / 6 / v.k / perUnit);
  const barPx = bar * perUnit * v.k;
  return (
    <div ref={box} className="relative mb-2 min-w-0">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label={`Plan of ${plan.name} to scale: ${plan.rows.length} pieces of row. Arrow keys pan, plus and minus zoom, 0 fits.`}
        style={{ width, height, touchAction: "pan-y pinch-zoom" }}
        className="block cursor-grab active:cursor-grabbing"
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={(e) => {
          if (e.buttons & 1 && e.pointerType !== "touch") pan(e.movementX, e.movementY);
        }}
        onKeyDown={(e) => {
          const d = 40;
          const moves: Record<string, () => void> = {
            "+": () => zoom(1.3),
            "=": () => zoom(1.3),
            "-": () => zoom(1 / 1.3),
            "0": () => setView(undefined),
            ArrowLeft: () => pan(d, 0),
            ArrowRight: () => pan(-d, 0),
            ArrowUp: () => pan(0, d),
            ArrowDown: () => pan(0, -d),
          };
          const f = moves[e.key];
          if (f) {
            e.preventDefault();
            f();
          }
        }}
      />
      <svg aria-hidden width="24" height="42" viewBox="0 0 26 44" className="pointer-events-none absolute top-0 left-0">
        <text x="13" y="11" textAnchor="middle" fontSize="12" fontWeight="700" fill="var(--color-ink)">
          N
        </text>
        <path d="M13 14 L21 40 L13 34 L5 40 Z" fill="var(--color-ink)" />
      </svg>
      <svg aria-hidden width={barPx + 70} height="26" className="pointer-events-none absolute bottom-0 left-0">
        <path d={`M2 4v8M2 8H${2 + barPx}M${2 + barPx / 2} 5v6M${2 + barPx} 4v8`} stroke="var(--color-ink)" strokeWidth="1.4" />
        <text x={2} y={24} fontSize="12" fill="var(--color-ink)">
          0
        </text>
        <text x={2 + barPx} y={24} textAnchor="middle" fontSize="12" fill="var(--color-ink)">
          {bar} {system === "us" ? "ft" : "m"}
        </text>
      </svg>
      <div className="no-print absolute right-0 bottom-0 flex gap-1">
        <button className="act px-2.5" aria-label="Zoom out" onClick={() => zoom(1 / 1.5)}>
          −
        </button>
        <button className="act px-2.5" aria-label="Zoom in" onClick={() => zoom(1.5)}>
          +
        </button>
        <button className="act" onClick={() => setView(undefined)}>
          Fit
        </button>
      </div>
    </div>
  );
}

/** Contours with their heights, where water gathers and stands, where cold air lies, and what dams it. */
function drawLand(c: CanvasRenderingContext2D, land: Schema["Drawing"], v: View, height: (m: number) => string) {
  const X = (x: number) => v.x + x * v.k;
  const Y = (y: number) => v.y - y * v.k;
  c.font = "12px 'Atkinson Hyperlegible Next Variable', sans-serif";
  land.contours.forEach((line, n) => {
    c.beginPath();
    line.points.forEach((p, i) => (i ? c.lineTo(X(p[0]!), Y(p[1]!)) : c.moveTo(X(p[0]!), Y(p[1]!))));
    if (line.closed) c.closePath();
    const round = Math.abs(line.z / land.intervalM) % 5 < 0.01;
    c.strokeStyle = palette.contour;
    c.lineWidth = round ? 1.5 : 0.8;
    c.stroke();
    const at = line.points[Math.floor(line.points.length * (0.35 + 0.1 * (n % 4)))];
    if (at && line.points.length > 8 && (round || land.contours.length < 14)) {
      const words = height(line.z).replace(/\.0/, "");
      const w = c.measureText(words).width;
      c.fillStyle = "#f6f1e7";
      c.fillRect(X(at[0]!) - w / 2 - 2, Y(at[1]!) - 7, w + 4, 13);
      c.fillStyle = "#6e5232";
      c.fillText(words, X(at[0]!) - w / 2, Y(at[1]!) + 4);
    }
  });
  c.strokeStyle = palette.water;
  land.flow.forEach((f, i) => {
    const to = land.flowTo[i]!;
    c.lineWidth = Math.min(4, 0.6 + Math.log10(f[2]! / 15000) * 1.6);
    c.globalAlpha = 0.75;
    c.beginPath();
    c.moveTo(X(f[0]!), Y(f[1]!));
    c.lineTo(X(to[0]!), Y(to[1]!));
    c.stroke();
  });
  c.globalAlpha = 1;
  for (const h of land.hollows) {
    const r = Math.max(7, Math.sqrt(h.areaM2 / Math.PI) * v.k);
    c.setLineDash([5, 4]);
    c.lineWidth = 1.6;
    c.beginPath();
    c.arc(X(h.x), Y(h.y), r, 0, 7);
    c.fillStyle = "#2f618722";
    c.fill();
    c.stroke();
    c.setLineDash([]);
    for (let k = -1; k < 2; k++) {
      c.beginPath();
      c.moveTo(X(h.x) - 9, Y(h.y) + k * 5);
      c.quadraticCurveTo(X(h.x) - 4, Y(h.y) + k * 5 - 3, X(h.x), Y(h.y) + k * 5);
      c.quadraticCurveTo(X(h.x) + 4, Y(h.y) + k * 5 + 3, X(h.x) + 9, Y(h.y) + k * 5);
      c.stroke();
    }
  }
  // cold air: a six-armed mark, larger and redder where it stays
  for (const s of land.cold) {
    if (s.word !== "pocket" && s.word !== "high") continue;
    c.strokeStyle = s.word === "pocket" ? palette.decide : palette.water;
    c.lineWidth = 1.6;
    const r = s.word === "pocket" ? 6 : 4;
    for (let k = 0; k < 3; k++) {
      const a = (k * Math.PI) / 3;
      c.beginPath();
      c.moveTo(X(s.x) - r * Math.cos(a), Y(s.y) - r * Math.sin(a));
      c.lineTo(X(s.x) + r * Math.cos(a), Y(s.y) + r * Math.sin(a));
      c.stroke();
    }
  }
  for (const b of land.barriers) {
    c.strokeStyle = b.kind === "water" ? palette.water : b.kind === "hedge" ? palette.growth : palette.ink;
    c.lineWidth = b.kind === "hedge" ? 4 : 2.5;
    c.setLineDash(b.kind === "hedge" ? [2, 3] : []);
    c.beginPath();
    b.line.forEach((p, i) => (i ? c.lineTo(X(p[0]!), Y(p[1]!)) : c.moveTo(X(p[0]!), Y(p[1]!))));
    c.stroke();
    c.setLineDash([]);
    const m = b.line[Math.floor(b.line.length / 2)];
    if (m) {
      c.fillStyle = palette.ink;
      c.fillText(b.name, X(m[0]!) + 6, Y(m[1]!) + 14);
    }
  }
}

/** What the marks of the land mean; those on this sheet only. */
export function LandKey({ land }: { land: Schema["Drawing"] }) {
  const { text } = useReading();
  const pockets = land.cold.some((s) => s.word === "pocket");
  const high = land.cold.some((s) => s.word === "high");
  const star = (tone: string) => (
    <svg aria-hidden width="14" height="14" viewBox="0 0 14 14" className="mr-1 inline-block">
      <path d="M1 7H13M4 2L10 12M10 2L4 12" stroke={tone} strokeWidth="1.6" />
    </svg>
  );
  return (
    <ul className="mt-2 space-y-0.5 text-sm">
      <li>
        <span aria-hidden className="mr-1 inline-block w-5 border-t-2 align-middle" style={{ borderColor: palette.contour }} />
        contours every {text(land.intervalM, "height")}
      </li>
      {land.flow.length > 0 && (
        <li>
          <span aria-hidden className="mr-1 inline-block w-5 border-t-2 border-water align-middle" />
          where water gathers
        </li>
      )}
      {land.hollows.length > 0 && (
        <li>
          <span aria-hidden className="mr-1 inline-block h-3 w-3 rounded-full border border-dashed border-water align-middle" />
          closed hollow, {text(land.hollows[0]!.depthM, "spacing")} deep
        </li>
      )}
      {pockets && <li>{star(palette.decide)}frost pocket</li>}
      {high && <li>{star(palette.water)}high risk of frost</li>}
      <li className="text-faint">
        {land.source.name}, heights to ± {text(land.source.accuracyM, "spacing")}
      </li>
    </ul>
  );
}

function drawRows(
  c: CanvasRenderingContext2D,
  plan: Plan,
  v: View,
  width: number,
  height: number,
  year: Plan["years"][number] | undefined,
) {
  const spacing = plan.spec.plantSpacingM * v.k;
  const after = (age: number) => age > 0 && year !== undefined && year.age > age;
  const gone: Record<string, boolean> = { t: after(plan.outAge), s: after(plan.laterAge) };
  const spread = Math.max(year?.spreadM ?? 0, 0.25);
  const r = Math.max(1.1, (spread / 2) * v.k);
  if (spacing < 2.2) {
    // too small for single plants: each row as a line as wide as its canopy
    c.lineWidth = Math.max(0.6, Math.min(spread, plan.spec.rowSpacingM * 0.8) * v.k);
    c.strokeStyle = palette.growth;
    c.globalAlpha = 0.55;
    c.beginPath();
    for (const p of plan.rows) {
      c.moveTo(v.x + p.x * v.k, v.y - p.y * v.k);
      c.lineTo(v.x + (p.x + p.dx * (p.n - 1)) * v.k, v.y - (p.y + p.dy * (p.n - 1)) * v.k);
    }
    c.stroke();
    c.globalAlpha = 1;
    return;
  }
  c.lineWidth = 0.8;
  for (const p of plan.rows) {
    for (let i = 0; i < p.n; i++) {
      const x = v.x + (p.x + i * p.dx) * v.k;
      const y = v.y - (p.y + i * p.dy) * v.k;
      if (x < -r || y < -r || x > width + r || y > height + r) continue;
      const role = p.roles?.[i] ?? "m";
      c.beginPath();
      c.arc(x, y, r, 0, 7);
      if (role === "t" || role === "s") {
        c.setLineDash([2, 2]);
        c.strokeStyle = palette.faint;
        if (!gone[role]) {
          c.fillStyle = palette.leaf;
          c.globalAlpha = 0.45;
          c.fill();
          c.globalAlpha = 1;
        }
        c.stroke();
        c.setLineDash([]);
        continue;
      }
      c.fillStyle = role === "p" ? palette.sand : palette.leaf;
      c.strokeStyle = role === "p" ? palette.straw : palette.growth;
      c.globalAlpha = 0.9;
      c.fill();
      c.globalAlpha = 1;
      c.stroke();
      if (role === "p" && r > 3) {
        c.beginPath();
        c.moveTo(x - r * 0.5, y);
        c.lineTo(x + r * 0.5, y);
        c.stroke();
      }
    }
  }
}

/** What the marks mean; those on this sheet only. */
export function PlanKey({ plan, season }: { plan: Plan; season: number }) {
  const roles = new Set(plan.rows.flatMap((r) => [...(r.roles ?? "m")]));
  const label = (age: number) => (age ? plan.years[age - 1]?.label : "");
  const y = plan.years.find((x) => x.season === season);
  return (
    <ul className="text-sm">
      <li className="flex items-center gap-2">
        <span className="inline-block h-3 w-3 rounded-full border border-growth bg-leaf" /> stays
      </li>
      {roles.has("p") && (
        <li className="flex items-center gap-2">
          <span className="inline-block h-3 w-3 rounded-full border border-straw bg-sand" /> pollinizer
        </li>
      )}
      {roles.has("t") && (
        <li className="flex items-center gap-2">
          <span className="inline-block h-3 w-3 rounded-full border border-dashed border-faint" /> comes out{" "}
          {[...new Set([label(plan.outAge), label(plan.laterAge)])].filter(Boolean).join(", then ")}
        </li>
      )}
      {y && <li className="text-faint">canopies as in {y.label}</li>}
    </ul>
  );
}
