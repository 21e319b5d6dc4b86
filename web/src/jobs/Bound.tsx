import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Plan, Schema } from "../api/client";
import { bound } from "../block/draft";
import type { StepProps } from "../block/stepProps";
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
 * What binds the work before planting: every job between the first and the last day it can be, on the day it is planned,
 * with a root to what it holds up. A job is dragged inside its room; what waits for it moves with it before it is let go.
 */
export function Bound({ plan, doc, draft }: StepProps) {
  const n = plan.network;
  const [chosen, choose] = useState("");
  const on = n.jobs.find((j) => j.key === chosen) ?? n.jobs.find((j) => n.binds.includes(j.key)) ?? n.jobs[0];
  if (n.jobs.length < 2 || !on)
    return <p className="py-2 text-faint">Nothing before planting is bound yet: choose the crop the ground is meant for.</p>;
  const days = (key: string, d: string | null) => ({ planting: { days: { [key]: d } } });
  return (
    <section aria-label="What binds the work before planting" className="py-2">
      <p className="max-w-prose">
        Planting is meant for <b>{day(plan.cropDate)}</b>
        {n.free <= plan.cropDate ? (
          <>
            ; with everything begun as soon as it can be it could be on {day(n.free)}, so there are{" "}
            {dayNumber(plan.cropDate) - dayNumber(n.free)} days in hand.
          </>
        ) : (
          <>
            , but with everything begun as soon as it can be it is possible from <b className="text-decide">{day(n.free)}</b> only
            {n.freeInWindow !== n.free && `, in a planting season from ${day(n.freeInWindow)}`}.
          </>
        )}
        {n.binds.length > 0 && <> {n.binds.map((k) => n.jobs.find((j) => j.key === k)?.name).join(", then ")} decides that.</>}
      </p>
      {n.freeInWindow > plan.cropDate && (
        <button
          className="act act-first no-print mt-1"
          onClick={() =>
            void draft.commit({ planting: { date: n.freeInWindow } }, `Planting is meant for ${day(n.freeInWindow)}`)
          }
        >
          Plant on {day(n.freeInWindow)}
        </button>
      )}
      <Roots
        plan={plan}
        chosen={on.key}
        choose={choose}
        tried={(j, d) => void draft.ask(days(j.key, d), bound)}
        keep={(j, d) => void draft.commit(days(j.key, d), `${j.name} is planned for ${day(d)}`)}
      />
      <div className="mt-2 grid gap-x-8 border-t border-line pt-2 sm:grid-cols-2" aria-live="polite">
        <div>
          <p>
            <b>{on.name}</b>
          </p>
          <p className="text-sm">
            {on.done
              ? `Done on ${day(on.done)}.`
              : on.slack < 0
                ? `It should have been begun by ${day(on.latest)}; the first day it can be is ${day(on.earliest)}.`
                : `Between ${day(on.earliest)} and ${day(on.latest)} it moves nothing that is fixed: it ${waiting(on.slack)}.`}
            {on.days > 0 && ` It takes ${on.days === 1 ? "a day" : `${on.days} days`}.`}
          </p>
          {on.said && !on.done && (
            <button
              className="act mt-1"
              onClick={() => void draft.commit(days(on.key, null), `${on.name} is left to its time; undo brings its day back`)}
            >
              Leave it to its time
            </button>
          )}
        </div>
        <div className="text-sm">
          <Ties title="It waits for" ties={on.waits} choose={choose} none="nothing but its own day" />
          <Ties title="It holds up" ties={on.holds} choose={choose} none="nothing" />
        </div>
      </div>
      {n.conflicts.length > 0 && <Conflicts plan={plan} choose={choose} />}
      <p className="no-print mt-2 text-sm text-faint">
        The pale bar is the room a job has; the knot is the day it is planned for. Drag a knot, or focus it and use the arrow
        keys, with Shift a week; what waits for it moves along. Hours and crews said on {doc.block.name}&apos;s jobs give a job
        its length.
      </p>
    </section>
  );
}

function Ties({ title, ties, choose, none }: { title: string; ties: Tie[]; choose: (k: string) => void; none: string }) {
  return (
    <div className="mb-1">
      <p className="font-semibold">{title}</p>
      {ties.length === 0 && <p className="text-faint">{none}</p>}
      <ul>
        {ties.map((t) => (
          <li key={t.key + t.words}>
            <button className={`text-left hover:underline ${t.binds ? "font-semibold" : ""}`} onClick={() => choose(t.key)}>
              {t.words}
            </button>
            {t.binds && <span className="text-faint"> decides it</span>}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What cannot be kept together, each rule with whether anything on the farm can move it. */
function Conflicts({ plan, choose }: { plan: Plan; choose: (k: string) => void }) {
  return (
    <details className="mt-3" open>
      <summary className="cursor-pointer font-semibold">
        What cannot be kept together:{" "}
        {plan.network.conflicts.length === 1 ? "one set of rules" : `${plan.network.conflicts.length} sets of rules`}
      </summary>
      <ol className="mt-2 max-w-prose space-y-2">
        {plan.network.conflicts.map((c, i) => (
          <li key={i} className="border-l-4 border-decide bg-soil px-3 py-1.5 text-sm">
            <b className="text-decide">{c.short === 1 ? "A day is lacking" : `${c.short} days are lacking`}</b>
            <ul>
              {c.steps.map((s, k) => (
                <li key={k}>
                  <button className="text-left hover:underline" onClick={() => choose(s.key)}>
                    {s.words}
                  </button>{" "}
                  <span className="text-faint">{s.hard ? "(cannot be moved)" : "(can be moved)"}</span>
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
    </details>
  );
}

function Roots({
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
