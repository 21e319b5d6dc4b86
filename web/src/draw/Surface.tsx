import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import { Checkbox, Field, Label, Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import { useReading } from "../shell/reading";
import { useWidth } from "../shell/useWidth";
import { fitted, roundLength, sized, type View } from "./frame";

/** Frame is a view with the size of its sheet. */
export interface Frame extends View {
  width: number;
  height: number;
}
/** X and Y are where metres of the block's plane lie on a sheet. */
export const X = (v: View) => (x: number) => v.x + x * v.k;
export const Y = (v: View) => (y: number) => v.y - y * v.k;

export interface Layer {
  id: string;
  name: string;
}

/**
 * Surface is the sheet every plan of a block is drawn on, to scale: it is panned and zoomed by hand, wheel, keys and
 * buttons, shows north and a scale bar, and turns layers on and off. What is on it is painted, or stands on it as
 * elements that can be pressed and dragged.
 */
export function Surface({
  label,
  points,
  height = 400,
  least = 200,
  pad = 28,
  layers = [],
  paint,
  pick,
  children,
}: {
  label: string;
  points: readonly (readonly number[])[]; // what fills the sheet when it is opened; it holds still while these do
  height?: number;
  least?: number; // width of the sheet in pixels; narrower windows scroll it
  pad?: number;
  layers?: Layer[];
  paint?: (c: CanvasRenderingContext2D, frame: Frame, shown: (layer: string) => boolean) => void;
  pick?: (at: [number, number]) => void; // while something is drawn: each press hands over its place
  children?: (frame: Frame, shown: (layer: string) => boolean) => ReactNode;
}) {
  const [box, width] = useWidth(least);
  const sheet = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [moved, setMoved] = useState<View>();
  const [hidden, setHidden] = useState<string[]>([]);
  const { system } = useReading();
  const fit = useMemo(() => fitted(points, width, height, pad, 26), [points, width, height, pad]);
  const v = moved ?? fit;
  const shown = useCallback((id: string) => !hidden.includes(id), [hidden]);

  const zoom = useCallback(
    (f: number, cx = width / 2, cy = height / 2) =>
      setMoved((old) => {
        const o = old ?? fit;
        const k = Math.min(Math.max(400, fit.k), Math.max(fit.k / 2, o.k * f));
        return { k, x: cx - ((cx - o.x) * k) / o.k, y: cy - ((cy - o.y) * k) / o.k };
      }),
    [fit, width, height],
  );
  const pan = (dx: number, dy: number) =>
    setMoved((old) => ({ ...(old ?? fit), x: (old ?? fit).x + dx, y: (old ?? fit).y + dy }));

  useEffect(() => {
    const el = sheet.current;
    if (!el) return;
    const wheel = (e: WheelEvent) => {
      if (!e.ctrlKey && !el.contains(document.activeElement)) return;
      e.preventDefault();
      const r = el.getBoundingClientRect();
      zoom(e.deltaY < 0 ? 1.2 : 1 / 1.2, e.clientX - r.left, e.clientY - r.top);
    };
    el.addEventListener("wheel", wheel, { passive: false });
    return () => el.removeEventListener("wheel", wheel);
  }, [zoom]);

  useEffect(() => {
    const c = paint && sized(canvas.current, width, height);
    if (c) paint(c, { ...v, width, height }, shown);
  }, [paint, v, width, height, shown]);

  const per = system === "us" ? 0.3048 : 1;
  const bar = roundLength(width / 6 / v.k / per);
  const barPx = bar * per * v.k;
  const keys: Record<string, () => void> = {
    "+": () => zoom(1.3),
    "=": () => zoom(1.3),
    "-": () => zoom(1 / 1.3),
    "0": () => setMoved(undefined),
    ArrowLeft: () => pan(40, 0),
    ArrowRight: () => pan(-40, 0),
    ArrowUp: () => pan(0, 40),
    ArrowDown: () => pan(0, -40),
  };
  return (
    <div ref={box} className="mb-2 min-w-0 overflow-x-auto print:overflow-visible">
      <div className="relative" style={{ width }}>
        <div
          ref={sheet}
          tabIndex={0}
          role={children ? "group" : "img"}
          aria-label={`${label}. Arrow keys pan, plus and minus zoom, 0 fits.`}
          style={{ width, height, touchAction: "pan-y pinch-zoom" }}
          className={`relative block overflow-hidden ${pick ? "cursor-crosshair" : "cursor-grab active:cursor-grabbing"}`}
          onPointerDown={(e) => {
            if (e.target === canvas.current || (e.target as Element).hasAttribute("data-ground"))
              e.currentTarget.setPointerCapture(e.pointerId);
          }}
          onClick={(e) => {
            const r = e.currentTarget.getBoundingClientRect();
            pick?.([(e.clientX - r.left - v.x) / v.k, (v.y - (e.clientY - r.top)) / v.k]);
          }}
          onPointerMove={(e) => {
            const held = e.currentTarget.hasPointerCapture(e.pointerId);
            if (held && !pick && e.buttons & 1 && e.pointerType !== "touch") pan(e.movementX, e.movementY);
          }}
          onKeyDown={(e) => {
            const f = keys[e.key];
            if (!f) return;
            e.preventDefault();
            f();
          }}
        >
          {paint && <canvas ref={canvas} style={{ width, height }} className="block" />}
          {children && (
            <svg width={width} height={height} className={`block select-none ${paint ? "absolute inset-0" : ""}`}>
              <rect data-ground width={width} height={height} fill="transparent" />
              {children({ ...v, width, height }, shown)}
            </svg>
          )}
        </div>
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
          {layers.length > 1 && <Layers layers={layers} hidden={hidden} setHidden={setHidden} />}
          <button className="act px-2.5" aria-label="Zoom out" onClick={() => zoom(1 / 1.5)}>
            −
          </button>
          <button className="act px-2.5" aria-label="Zoom in" onClick={() => zoom(1.5)}>
            +
          </button>
          <button className="act" onClick={() => setMoved(undefined)}>
            Fit
          </button>
        </div>
      </div>
    </div>
  );
}

function Layers({ layers, hidden, setHidden }: { layers: Layer[]; hidden: string[]; setHidden: (ids: string[]) => void }) {
  return (
    <Popover className="relative">
      <PopoverButton className="act">Shown</PopoverButton>
      <PopoverPanel anchor="top end" className="z-30 border border-line bg-paper p-2 text-sm shadow-md [--anchor-gap:4px]">
        {layers.map((l) => {
          const on = !hidden.includes(l.id);
          return (
            <Field key={l.id} className="flex items-center gap-2 py-0.5">
              <Checkbox
                checked={on}
                onChange={(next) => setHidden(next ? hidden.filter((h) => h !== l.id) : [...hidden, l.id])}
                className="flex h-4 w-4 items-center justify-center border border-ink bg-paper text-xs data-checked:bg-growth data-checked:text-paper"
              >
                {on && <span aria-hidden>✓</span>}
              </Checkbox>
              <Label>{l.name}</Label>
            </Field>
          );
        })}
      </PopoverPanel>
    </Popover>
  );
}
