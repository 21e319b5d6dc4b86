import { useId, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Plan, Schema } from "../api/client";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { path, type XY } from "./types";

/** A point of a line that can be dragged. */
export interface Handle {
  of: string;
  i: number;
  at: XY;
  label: string;
  mark: "outlet" | "corner" | "pit" | "well";
}

/** How a sheet lies: where the block's metres go in the drawing. */
export function useFrame(plan: Plan, width: number, height: number, pad: number) {
  return useMemo(() => {
    const ring = plan.ground.rings[0] as XY[];
    const lines = [plan.drains.network?.line, plan.drains.cut?.line].flatMap((l) => l ?? []);
    const xs = [...ring, ...lines].map((p) => p[0]!);
    const ys = [...ring, ...lines].map((p) => p[1]!);
    const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    const k = Math.min((width - 2 * pad) / (x1 - x0), (height - 2 * pad) / (y1 - y0));
    return { k, X: (x: number) => width / 2 + (x - (x0 + x1) / 2) * k, Y: (y: number) => height / 2 - (y - (y0 + y1) / 2) * k };
    // the frame holds still while something is dragged
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [plan.ground.rings, width, height, pad]);
}

/** Boundary, contours, drains with their sizes, pits and what no drain reaches. */
export function DrainLines({
  plan,
  land,
  X,
  Y,
  id,
  chosen,
}: {
  plan: Plan;
  land?: Schema["Drawing"] | null;
  X: (x: number) => number;
  Y: (y: number) => number;
  id: string;
  chosen?: string;
}) {
  const n = plan.drains.network;
  const cut = plan.drains.cut;
  const at = (pts: readonly XY[]) => path(pts.map(([x, y]) => [X(x!), Y(y!)]));
  const rings = (plan.ground.rings as XY[][]).map((r) => at(r) + "Z").join("");
  const k = Math.abs(X(1) - X(0));
  const wide = (m: number) => 1.6 + 12 * Math.max(0, m - 0.07);
  return (
    <g>
      <defs>
        <pattern id={`${id}missed`} width="9" height="9" patternUnits="userSpaceOnUse">
          <path d="M0 9L9 0" stroke="var(--color-decide)" strokeWidth="1" opacity="0.55" />
        </pattern>
        <clipPath id={`${id}block`}>
          <path d={rings} clipRule="evenodd" />
        </clipPath>
      </defs>
      <path d={rings} fill="var(--color-soil)" fillRule="evenodd" />
      <g clipPath={`url(#${id}block)`}>
        {land?.contours.map((c, i) => (
          <path
            key={i}
            d={at(c.points as XY[]) + (c.closed ? "Z" : "")}
            fill="none"
            stroke="#a9835a"
            strokeWidth="0.8"
            opacity="0.8"
          />
        ))}
        {n?.missed.map((m, i) => (
          <path
            key={i}
            d={(m.strips as XY[])
              .map(([a, b, y]) => `M${X(a!)} ${Y(y! + m.stripM / 2)}H${X(b!)}v${m.stripM * k + 0.3}H${X(a!)}Z`)
              .join("")}
            fill={`url(#${id}missed)`}
          >
            <title>No drain reaches this</title>
          </path>
        ))}
      </g>
      {[n, cut].map(
        (v, i) =>
          v &&
          v.part.length > 0 && (
            <path
              key={i}
              d={at(v.part) + "Z"}
              fill="var(--color-water)"
              fillOpacity="0.08"
              stroke="var(--color-water)"
              strokeDasharray="1 4"
            >
              <title>The wet part, as it was said</title>
            </path>
          ),
      )}
      {n?.laterals.map((l) => (
        <path
          key={l.id}
          d={at(l.points)}
          fill="none"
          stroke="var(--color-water)"
          strokeWidth={l.id === chosen ? 3.4 : wide(l.pipe.insideM)}
        />
      ))}
      {[n, cut].map(
        (v, i) =>
          v && (
            <g key={i}>
              {v.mains.map((m) => (
                <g key={m.id} fill="none">
                  <path d={at(m.points)} stroke="var(--color-paper)" strokeWidth="5" />
                  <path d={at(m.points)} stroke="var(--color-ink)" strokeWidth="1" strokeDasharray="2 3" />
                </g>
              ))}
              {v.reaches.map((r) => (
                <path
                  key={r.id}
                  d={at(r.points)}
                  fill="none"
                  stroke={i ? "var(--color-input)" : "var(--color-ink)"}
                  strokeWidth={wide(r.pipe.insideM) + 1}
                  strokeDasharray={i ? "10 3" : undefined}
                />
              ))}
              {v.chambers.map((c, q) => (
                <rect
                  key={q}
                  x={X(c.x) - 4.5}
                  y={Y(c.y) - 4.5}
                  width="9"
                  height="9"
                  fill="var(--color-paper)"
                  stroke="var(--color-ink)"
                  strokeWidth="1.6"
                  transform={`rotate(45 ${X(c.x)} ${Y(c.y)})`}
                >
                  <title>{`Pit: ${c.why}`}</title>
                </rect>
              ))}
            </g>
          ),
      )}
      <path d={rings} fill="none" stroke="var(--color-ink)" strokeWidth="1.8" />
      {[...(n?.troubles ?? []), ...(cut?.troubles ?? [])]
        .filter((t) => t.rule !== "missed")
        .map((t, i) => (
          <g key={i}>
            <path d={`M${X(t.x) - 5} ${Y(t.y) - 5}l10 10m0 -10l-10 10`} stroke="var(--color-decide)" strokeWidth="2" />
            <title>{t.sentence}</title>
          </g>
        ))}
    </g>
  );
}

/** What stands for a point: an outlet, a pit that was dug, a dip well, or a corner of a line. */
function Mark({ mark, x, y }: { mark: Handle["mark"]; x: number; y: number }) {
  if (mark === "pit")
    return <path d={`M${x - 6} ${y - 6}h12l-3 11h-6z`} fill="var(--color-sand)" stroke="var(--color-ink)" strokeWidth="1.4" />;
  if (mark === "well")
    return (
      <g stroke="var(--color-water)" strokeWidth="2">
        <circle cx={x} cy={y} r="6" fill="var(--color-paper)" />
        <path d={`M${x - 4} ${y + 1}h8`} />
      </g>
    );
  if (mark === "outlet")
    return <path d={`M${x} ${y - 9}l8 14h-16z`} fill="var(--color-water)" stroke="var(--color-paper)" strokeWidth="1.5" />;
  return <circle cx={x} cy={y} r="6" fill="var(--color-paper)" stroke="var(--color-input)" strokeWidth="2.4" />;
}

/** The plan sheet of the drains, with handles on the lines. */
export function DrainSheet({
  plan,
  land,
  chosen,
  choose,
  handles,
  tried,
  keep,
}: {
  plan: Plan;
  land?: Schema["Drawing"] | null;
  chosen: string;
  choose: (id: string) => void;
  handles: Handle[];
  tried: (h: Handle, to: XY) => void;
  keep: (h: Handle, to: XY) => void;
}) {
  const width = 760;
  const height = 430;
  const { system } = useReading();
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ key: string; to: XY }>();
  const id = useId();
  const { k, X, Y } = useFrame(plan, width, height, 34);
  const n = plan.drains.network;
  const cut = plan.drains.cut;
  const where = (e: PointerEvent): XY => {
    const m = svg.current!.getScreenCTM()!.inverse();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(m);
    return [(p.x - X(0)) / k, (Y(0) - p.y) / k];
  };
  const per = system === "us" ? 0.3048 : 1;
  const bar = [100, 50, 20, 10].find((m) => m * per * k < width / 5) ?? 10;
  return (
    <Wide label="Plan of the drains">
      <svg
        ref={svg}
        viewBox={`0 0 ${width} ${height}`}
        className="block w-full min-w-[36rem] select-none"
        role="group"
        aria-label={`Drains of ${plan.name} on the plan: ${n ? `${n.laterals.length} laterals` : "no laterals"}`}
      >
        <DrainLines plan={plan} land={land} X={X} Y={Y} id={id} chosen={chosen} />
        {/* wide transparent lines to press */}
        {n?.laterals.map((l) => (
          <path
            key={l.id}
            d={path(l.points.map(([x, y]) => [X(x!), Y(y!)]))}
            stroke="transparent"
            strokeWidth="9"
            fill="none"
            className="cursor-pointer"
            onClick={() => choose(l.id)}
          >
            <title>{`Lateral ${l.id}, ${l.pipe.name}`}</title>
          </path>
        ))}
        {[...(n?.mains ?? []), ...(cut?.mains ?? [])].map((m) => (
          <path
            key={m.id}
            d={path(m.points.map(([x, y]) => [X(x!), Y(y!)]))}
            stroke="transparent"
            strokeWidth="11"
            fill="none"
            className="cursor-pointer"
            onClick={() => choose(m.id)}
          />
        ))}
        {handles.map((h) => {
          const key = `${h.of}/${h.i}`;
          const [x, y] = held?.key === key ? held.to : h.at;
          const go = (to: XY) => {
            setHeld({ key, to });
            tried(h, to);
          };
          const stop = () => {
            if (held?.key === key) keep(h, held.to);
            setHeld(undefined);
          };
          const arrows = (e: KeyboardEvent) => {
            const s = e.shiftKey ? 10 : 1;
            const by = { ArrowUp: [0, s], ArrowDown: [0, -s], ArrowLeft: [-s, 0], ArrowRight: [s, 0] }[e.key];
            if (!by) return;
            e.preventDefault();
            e.stopPropagation();
            go([x! + by[0]!, y! + by[1]!]);
          };
          return (
            <g
              key={key}
              role="button"
              tabIndex={0}
              aria-label={`${h.label}; arrow keys move it, with Shift ten metres`}
              style={{ touchAction: "none" }}
              className="cursor-move"
              onKeyDown={arrows}
              onKeyUp={stop}
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                e.preventDefault();
                e.currentTarget.focus();
                choose(h.of);
              }}
              onPointerMove={(e) => e.buttons & 1 && go(where(e))}
              onPointerUp={stop}
            >
              <circle cx={X(x!)} cy={Y(y!)} r="14" fill="transparent" />
              <Mark mark={h.mark} x={X(x!)} y={Y(y!)} />
              <title>{h.label}</title>
            </g>
          );
        })}
        <g aria-hidden>
          <text x="14" y="14" textAnchor="middle" fontSize="12" fontWeight="700" fill="var(--color-ink)">
            N
          </text>
          <path d="M14 17 L21 41 L14 35 L7 41 Z" fill="var(--color-ink)" />
          <path
            d={`M8 ${height - 20}v8M8 ${height - 16}h${bar * per * k}m0 -4v8`}
            stroke="var(--color-ink)"
            strokeWidth="1.4"
            fill="none"
          />
          <text x={14 + bar * per * k} y={height - 11} fontSize="12" fill="var(--color-ink)">
            {bar} {system === "us" ? "ft" : "m"}
          </text>
        </g>
      </svg>
    </Wide>
  );
}
