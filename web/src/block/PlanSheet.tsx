import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Plan, Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { useWidth } from "../shell/useWidth";
import { drawLand } from "../rows/landDraw";
import { palette, type View } from "../rows/palette";
import { drawBeside, drawObstacles, drawRows, drawShelter, roleColours } from "../rows/rowsDraw";

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
  sketch,
  pick,
}: {
  plan: Plan;
  season: number;
  height?: number;
  land?: Schema["Drawing"] | null;
  sketch?: number[][]; // what is being drawn, on the block's plane
  pick?: (at: number[]) => void; // while something is drawn: each press hands over its place
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
    const outline = () => {
      c.beginPath();
      for (const r of rings) {
        r.forEach(([x, y], i) => (i ? c.lineTo(X(x), Y(y)) : c.moveTo(X(x), Y(y))));
        c.closePath();
      }
    };
    outline();
    c.fillStyle = palette.soil;
    c.fill("evenodd");
    if (land) drawLand(c, land, v, (m) => text(m, "height"));
    c.save();
    outline();
    c.clip("evenodd");
    drawShelter(c, plan.beside, v);
    c.restore();
    drawRows(c, plan, v, width, height, year);
    drawBeside(c, plan.beside, v, width, height, year?.age ?? 1);
    drawObstacles(c, plan.obstacles, v);
    outline();
    c.strokeStyle = palette.ink;
    c.lineWidth = 1.8;
    c.stroke();
    if (sketch?.length) {
      c.strokeStyle = c.fillStyle = palette.decide;
      c.lineWidth = 1.6;
      c.beginPath();
      sketch.forEach((p, i) => (i ? c.lineTo(X(p[0]!), Y(p[1]!)) : c.moveTo(X(p[0]!), Y(p[1]!))));
      c.stroke();
      for (const p of sketch) c.fillRect(X(p[0]!) - 3, Y(p[1]!) - 3, 6, 6);
    }
  }, [plan, rings, v, width, height, year, land, text, sketch]);

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
        className={`block ${pick ? "cursor-crosshair" : "cursor-grab active:cursor-grabbing"}`}
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onClick={(e) => pick?.([(e.nativeEvent.offsetX - v.x) / v.k, (v.y - e.nativeEvent.offsetY) / v.k])}
        onPointerMove={(e) => {
          if (!pick && e.buttons & 1 && e.pointerType !== "touch") pan(e.movementX, e.movementY);
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
      {plan.beside
        .filter((b) => b.stations > 0)
        .map((b) => (
          <li key={b.id} className="flex items-center gap-2">
            <span
              className="inline-block h-3 w-3 shrink-0 rounded-full border"
              style={{ background: roleColours[b.role]?.[0], borderColor: roleColours[b.role]?.[1] }}
            />
            {b.name}
            {b.fromYear > 1 || b.toYear > 0 ? (
              <span className="text-faint">
                year {Math.max(1, b.fromYear)}
                {b.toYear > 0 ? ` to ${b.toYear}` : " on"}
              </span>
            ) : null}
          </li>
        ))}
      {plan.beside.some((b) => b.shelter.length > 0) && (
        <li className="flex items-center gap-2">
          <span className="inline-block h-3 w-3 bg-water/20" /> sheltered
        </li>
      )}
      {y && <li className="text-faint">canopies as in {y.label}</li>}
    </ul>
  );
}
