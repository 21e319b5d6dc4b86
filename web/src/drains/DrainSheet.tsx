import { useId, useMemo, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Plan, Schema } from "../api/client";
import { Surface, X as onX, Y as onY, type Frame, type Layer } from "../draw/Surface";
import { path, type XY } from "./types";

/** A point of a line that can be dragged. */
export interface Handle {
  of: string;
  i: number;
  at: XY;
  label: string;
  mark: "outlet" | "corner" | "pit" | "well";
}

/** Boundary, contours, drains with their sizes, pits and what no drain reaches. */
export function DrainLines({
  plan,
  land,
  X,
  Y,
  id,
  chosen,
  shown = () => true,
}: {
  plan: Plan;
  land?: Schema["Drawing"] | null;
  X: (x: number) => number;
  Y: (y: number) => number;
  id: string;
  chosen?: string;
  shown?: (layer: string) => boolean;
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
        {(shown("land") ? land?.contours : undefined)?.map((c, i) => (
          <path
            key={i}
            d={at(c.points as XY[]) + (c.closed ? "Z" : "")}
            fill="none"
            stroke="#a9835a"
            strokeWidth="0.8"
            opacity="0.8"
          />
        ))}
        {(shown("missed") ? n?.missed : undefined)?.map((m, i) => (
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
  const [held, setHeld] = useState<{ key: string; to: XY }>();
  const id = useId();
  const n = plan.drains.network;
  const cut = plan.drains.cut;
  const points = useMemo(
    () => [...(plan.ground.rings[0] as XY[]), ...((n?.line ?? []) as XY[]), ...((cut?.line ?? []) as XY[])],
    // the frame holds still while something is dragged
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [plan.ground.rings],
  );
  const layers: Layer[] = [
    ...(land ? [{ id: "land", name: "contours" }] : []),
    ...(n?.missed.length ? [{ id: "missed", name: "what no drain reaches" }] : []),
    { id: "points", name: "points to drag" },
  ];
  const draw = (v: Frame, shown: (layer: string) => boolean) => {
    const [X, Y] = [onX(v), onY(v)];
    const where = (e: PointerEvent<SVGGElement>): XY => {
      const r = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
      return [(e.clientX - r.left - v.x) / v.k, (v.y - (e.clientY - r.top)) / v.k];
    };
    return (
      <>
        <DrainLines plan={plan} land={land} X={X} Y={Y} id={id} chosen={chosen} shown={shown} />
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
        {(shown("points") ? handles : []).map((h) => {
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
      </>
    );
  };
  return (
    <Surface
      label={`Drains of ${plan.name} on the plan: ${n ? `${n.laterals.length} laterals` : "no laterals"}`}
      points={points}
      height={430}
      least={560}
      layers={layers}
    >
      {draw}
    </Surface>
  );
}
