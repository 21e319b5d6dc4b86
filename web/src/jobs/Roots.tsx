import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Plan, Schema } from "../api/client";
import { useWidth } from "../shell/useWidth";
import { Wide } from "../shell/Wide";
import { day, dayNumber, fromDayNumber } from "../units";

type Job = Schema["NetworkJob"];
type Tie = Schema["NetworkTie"];

const rowH = 27;
const top = 34;

/** How long a job can wait, in words. */
export const waiting = (slack: number) => {
  const days = (n: number) => (n === 1 ? "a day" : `${n} days`);
  if (slack < 0) return `${days(-slack)} too late`;
  return slack === 0 ? "cannot wait" : `can wait ${days(slack)}`;
};

/**
 * The jobs on one line of time: the room of each, the day it is planned, and a root from each to what it holds up. A job is
 * dragged, or moved by the arrow keys, inside its room; tried says every day tried, keep the one it is let go on.
 */
export function Roots({
  plan,
  chosen,
  choose,
  tried,
  keep,
}: {
  plan: Plan;
  chosen: string;
  choose: (k: string) => void;
  tried: (j: Job, d: string) => void;
  keep: (j: Job, d: string) => void;
}) {
  const n = plan.network;
  const [box, width] = useWidth(620);
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ key: string; at: number }>();
  const left = Math.min(250, width * 0.34);
  const right = 118;
  const all = n.jobs.flatMap((j) => [j.done || j.planned, j.done ? j.planned : j.earliest, j.latest]);
  const a = Math.min(dayNumber(plan.today), ...all.map(dayNumber));
  const b = Math.max(dayNumber(plan.cropDate), ...all.map(dayNumber));
  const k = (width - left - right) / Math.max(30, b - a);
  const X = (d: string) => left + (dayNumber(d) - a) * k;
  const row = new Map(n.jobs.map((j, i) => [j.key, top + i * rowH + rowH / 2]));
  const height = top + n.jobs.length * rowH + 8;
  const planned = (j: Job) => (held?.key === j.key ? fromDayNumber(held.at) : j.done || j.planned);
  const at = new Map(n.jobs.map((j) => [j.key, X(planned(j))]));
  const years: { x: number; words: string }[] = [];
  for (let y = Number(fromDayNumber(a).slice(0, 4)); y <= Number(fromDayNumber(b).slice(0, 4)); y++)
    for (const m of ["01", "07"]) {
      const d = `${y}-${m}-01`;
      if (dayNumber(d) >= a && dayNumber(d) <= b) years.push({ x: X(d), words: m === "01" ? String(y) : "July" });
    }
  const move = (j: Job, to: number) => {
    const kept = Math.round(Math.min(dayNumber(j.latest), Math.max(dayNumber(j.earliest), to)));
    setHeld({ key: j.key, at: kept });
    tried(j, fromDayNumber(kept));
  };
  const stop = (j: Job) => {
    if (held?.key === j.key) keep(j, fromDayNumber(held.at));
    setHeld(undefined);
  };
  const keys = (e: KeyboardEvent, j: Job) => {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
    if (!step) return;
    e.preventDefault();
    move(j, dayNumber(planned(j)) + step * (e.shiftKey ? 7 : 1));
  };
  const pointed = (e: PointerEvent) => {
    const r = svg.current!.getBoundingClientRect();
    return a + (e.clientX - r.left - left) / k;
  };
  const binding = (from: Job, t: Tie) => t.binds && (n.binds.includes(from.key) || from.slack < 0);
  return (
    <div ref={box} className="mt-3">
      <Wide label="The jobs before planting on one line of time">
        <svg
          ref={svg}
          width={width}
          height={height}
          className="block select-none"
          role="group"
          aria-label="Jobs and what binds them"
        >
          {years.map((y) => (
            <g key={y.x}>
              <path d={`M${y.x} ${top - 6}V${height - 6}`} stroke="var(--color-line)" />
              <text x={y.x + 3} y={top - 12} fontSize="12.5" fill="var(--color-faint)">
                {y.words}
              </text>
            </g>
          ))}
          <path d={`M${X(plan.today)} ${top - 8}V${height - 6}`} stroke="var(--color-decide)" strokeDasharray="2 3" />
          <text x={X(plan.today) + 3} y={12} fontSize="12.5" fill="var(--color-decide)">
            today
          </text>
          {n.jobs.map((j) =>
            j.holds.map((t) => {
              const [x0, y0, x1, y1] = [at.get(j.key)!, row.get(j.key)!, at.get(t.key), row.get(t.key)];
              if (x1 === undefined || y1 === undefined || j.done) return null;
              const main = binding(j, t);
              const late = main && j.slack < 0;
              const lit = j.key === chosen || t.key === chosen;
              return (
                <path
                  key={j.key + t.key}
                  d={`M${x0} ${y0}C${x0 + 14} ${(y0 + y1) / 2} ${x1 - 18} ${y1} ${x1 - 6} ${y1}`}
                  fill="none"
                  stroke={late ? "var(--color-decide)" : "var(--color-input)"}
                  strokeWidth={main ? 3 : lit ? 2 : 1}
                  opacity={main || lit ? 0.95 : 0.3}
                />
              );
            }),
          )}
          {n.jobs.map((j) => {
            const y = row.get(j.key)!;
            const last = j.key === "planting";
            const free = !j.done && !last && j.slack > 0;
            const words = j.done ? `done ${day(j.done)}` : last ? day(plan.cropDate) : waiting(j.slack);
            return (
              <g key={j.key}>
                <text
                  x={0}
                  y={y + 4}
                  fontSize="13.5"
                  fontWeight={j.key === chosen ? 700 : 400}
                  fill={j.done ? "var(--color-faint)" : "var(--color-ink)"}
                  className="cursor-pointer"
                  onClick={() => choose(j.key)}
                >
                  {short(j.name, left / 7.1)}
                  <title>{j.name}</title>
                </text>
                {!j.done && !last && j.slack >= 0 && (
                  <rect
                    x={X(j.earliest)}
                    y={y - 6}
                    width={Math.max(2, X(j.latest) - X(j.earliest))}
                    height="12"
                    rx="6"
                    fill={j.tight ? "var(--color-sand)" : "var(--color-leaf)"}
                  />
                )}
                {!j.done && !last && j.slack < 0 && (
                  <path
                    d={`M${X(j.latest)} ${y}H${X(j.earliest)}`}
                    stroke="var(--color-decide)"
                    strokeWidth="3"
                    strokeDasharray="2 4"
                  />
                )}
                {free ? (
                  <g
                    role="slider"
                    tabIndex={0}
                    aria-label={`Day of ${j.name}`}
                    aria-valuemin={dayNumber(j.earliest)}
                    aria-valuemax={dayNumber(j.latest)}
                    aria-valuenow={dayNumber(planned(j))}
                    aria-valuetext={day(planned(j))}
                    style={{ touchAction: "none" }}
                    className="cursor-ew-resize"
                    onFocus={() => choose(j.key)}
                    onKeyDown={(e) => keys(e, j)}
                    onKeyUp={() => stop(j)}
                    onPointerDown={(e) => {
                      e.currentTarget.setPointerCapture(e.pointerId);
                      e.currentTarget.focus();
                    }}
                    onPointerMove={(e) => e.buttons & 1 && move(j, pointed(e))}
                    onPointerUp={() => stop(j)}
                  >
                    <circle cx={at.get(j.key)} cy={y} r="13" fill="transparent" />
                    <circle
                      cx={at.get(j.key)}
                      cy={y}
                      r="6"
                      fill={j.said || held?.key === j.key ? "var(--color-input)" : "var(--color-paper)"}
                      stroke="var(--color-input)"
                      strokeWidth="2.4"
                    />
                    <title>{`${j.name}, ${day(planned(j))}`}</title>
                  </g>
                ) : (
                  <circle
                    cx={at.get(j.key)}
                    cy={y}
                    r={last ? 7 : 5}
                    fill={j.done ? "var(--color-ink)" : last ? "var(--color-growth)" : "var(--color-decide)"}
                    onClick={() => choose(j.key)}
                  />
                )}
                <text
                  x={width - right + 10}
                  y={y + 4}
                  fontSize="12.5"
                  fill={!j.done && j.slack < 0 ? "var(--color-decide)" : "var(--color-faint)"}
                >
                  {held?.key === j.key ? day(planned(j)) : words}
                </text>
              </g>
            );
          })}
        </svg>
      </Wide>
    </div>
  );
}

const short = (s: string, n: number) => (s.length > n ? `${s.slice(0, Math.max(4, Math.floor(n) - 1))}…` : s);
