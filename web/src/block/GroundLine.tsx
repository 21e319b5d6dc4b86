import { dated } from "./draft";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useMemo, useRef, useState } from "react";
import type { BlockDoc, Plan } from "../api/client";
import { Tabs } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { useKeys } from "../shell/keyboard";
import { dayNumber, day, fromDayNumber, showOf } from "../units";
import type { Draft } from "./draft";
import { nutrientNames } from "./nutrients";
import { YearTable } from "./YearTable";
import { stands } from "./paths";
import { useWidth } from "../shell/useWidth";

type Y = Plan["years"][number];
const height = 300;
const groundY = 168;
const topY = 26;
const deep = 92;

interface Props {
  plan: Plan;
  doc: BlockDoc;
  draft: Draft;
  press: (figure: string) => void;
  season: number;
  setSeason: (s: number) => void;
}

/** The ground line: what comes out above, what goes in below, time along the surface of the soil. */
export function GroundLine(props: Props) {
  const { plan, season, setSeason } = props;
  const [zoom, setZoom] = useState<"life" | "year">("life");
  const [table, setTable] = useState(false);
  const [box, width] = useWidth(300);
  useKeys({ t: () => setTable(!table) });
  const first = plan.years[0]!.season;
  const last = plan.years.at(-1)!.season;
  const move = (to: number) => setSeason(Math.min(last, Math.max(first, to)));
  const key = (e: React.KeyboardEvent) => {
    const by = e.shiftKey ? 5 : 1;
    const moves: Record<string, () => void> = {
      ArrowLeft: () => move(season - by),
      ArrowRight: () => move(season + by),
      Home: () => move(first),
      End: () => move(last),
      Enter: () => setZoom(zoom === "life" ? "year" : "life"),
    };
    const f = moves[e.key];
    if (f) {
      e.preventDefault();
      f();
    }
  };
  const year = plan.years.find((y) => y.season === season)!;
  return (
    <section aria-label="Ground line" className="border-t border-line px-5 pt-2 pb-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2>Ground line</h2>
        <span className="text-sm text-faint max-sm:hidden">
          what comes out above, what goes in below; filled is recorded, outlined is planned
        </span>
        <div className="ml-auto flex items-baseline gap-3">
          <Tabs
            bare
            tabs={
              [
                ["life", "Life"],
                ["year", `Year ${year.label}`],
              ] as const
            }
            on={zoom}
            turn={setZoom}
            label="How much of the life is shown"
          />
          <button
            aria-pressed={table}
            onClick={() => setTable(!table)}
            className={table ? "border-b-2 border-ink font-semibold" : "text-faint"}
          >
            Table
          </button>
        </div>
      </div>
      <div
        ref={box}
        tabIndex={0}
        role="slider"
        aria-label="Plumb line: season"
        aria-valuemin={first}
        aria-valuemax={last}
        aria-valuenow={season}
        aria-valuetext={`${year.label}, age year ${year.age}`}
        onKeyDown={key}
        className="relative min-w-0"
      >
        {zoom === "life" ? (
          <Life {...props} width={width} year={year} move={move} open={() => setZoom("year")} />
        ) : (
          <YearView plan={plan} year={year} width={width} />
        )}
      </div>
      <Plumb {...props} year={year} />
      {table && <YearTable plan={plan} press={props.press} season={season} />}
    </section>
  );
}

/** Every value under the plumb line, in words and figures. */
function Plumb({ plan, year, press }: Props & { year: Y }) {
  const { text, number } = useReading();
  return (
    <p className="mt-1 flex flex-wrap gap-x-5 gap-y-1" aria-live="polite">
      <b>
        {year.label}, age year {year.age}
      </b>
      <span>
        <button className="press" data-figure={`yield.${year.season}`} onClick={() => press(`yield.${year.season}`)}>
          {text(year.perHa.base, plan.yieldAs)}
        </button>{" "}
        <span className="text-faint">
          ({number(year.perHa.low, plan.yieldAs)} to {number(year.perHa.high, plan.yieldAs)})
        </span>
        , {text(year.blockKg.base, plan.massAs)} from the block
      </span>
      {year.recorded && <span>picked {text(year.pickedKg, plan.massAs)}</span>}
      {plan.nutrients.map((n) => (
        <span key={n}>
          {nutrientNames[n]}{" "}
          <button className="press" data-figure={`feed.${n}.${year.season}`} onClick={() => press(`feed.${n}.${year.season}`)}>
            {text(year.feedPerHa[n] ?? 0, "rate")}
          </button>
        </span>
      ))}
      <span>{year.jobs} jobs</span>
      <span>
        {number(year.plants, "count")} plants alive <span className="text-faint">({text(year.alive, "fraction")})</span>
      </span>
    </p>
  );
}

function Life({
  plan,
  doc,
  draft,
  width,
  year,
  move,
  open,
}: Props & { width: number; year: Y; move: (s: number) => void; open: () => void }) {
  const { unit, number, system } = useReading();
  const planting = doc.block.planting;
  const standing = (stands(plan) ? planting?.planted : planting?.date) ?? plan.cropDate;
  const years = plan.years;
  const jobsBefore = plan.jobs.filter((j) => j.age < 1);
  const from = Math.min(years[0]!.season - 1, ...jobsBefore.map((j) => Number(j.from.slice(0, 4))));
  const left = 74;
  const x = useMemo(() => scaleLinear([from, years.at(-1)!.season + 1.2], [left, width - 10]), [from, years, width]);
  const top = Math.max(
    1,
    ...years.map((y) =>
      Math.max(y.perHa.high, y.recorded && y.blockKg.base > 0 ? (y.pickedKg / y.blockKg.base) * y.perHa.base : 0),
    ),
  );
  const up = scaleLinear([0, top * 1.04], [groundY, topY + 12]);
  const sparse = years.filter((y) => y.perHa.base > 0).length < years.length * 0.6;
  const recordedPerHa = (y: Y) => (y.blockKg.base > 0 ? (y.pickedKg / y.blockKg.base) * y.perHa.base : 0);
  const mid = (y: Y) => x(y.season + 0.5);
  const now = plan.yearToday + seasonShare(plan.today, year.start);
  const maxJobs = Math.max(1, ...years.map((y) => y.jobs));
  const roots = plan.nutrients.slice(0, 2);
  const most = (n: string) => Math.max(1e-9, ...years.map((y) => y.feedPerHa[n] ?? 0));
  const tone = ["var(--color-straw)", "var(--color-water)"];
  const decimal = (date: string) =>
    Number(date.slice(0, 4)) + (dayNumber(date) - dayNumber(date.slice(0, 4) + "-01-01")) / 365.25 - offset(year.start);
  const factor = showOf(plan.yieldAs, system).factor;
  const ticksY = scaleLinear([0, top * factor], [0, 1])
    .ticks(3)
    .filter((t) => t > 0);
  const every = width < 620 ? 10 : years.length > 40 ? 5 : 2;
  const flags = new Map<string, string>();
  if (!stands(plan))
    for (const j of jobsBefore) if (["order", "lime", "drains", "clear"].includes(j.key)) flags.set(j.key, j.done || j.from);
  const pick = (e: React.PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    move(Math.floor(x.invert(e.clientX - box.left)));
  };
  const step = Math.max(1, Math.round(years.length / 16));
  const maxSpread = Math.max(0.1, ...years.map((y) => y.spreadM));
  return (
    <svg
      width={width}
      height={height}
      className="block touch-pan-y select-none"
      onPointerDown={pick}
      onPointerMove={(e) => e.buttons & 1 && e.pointerType !== "touch" && pick(e)}
      onDoubleClick={open}
    >
      <rect x={left} y={groundY} width={Math.max(0, width - left - 10)} height={deep + 6} fill="var(--color-soil)" />
      {ticksY.map((t) => (
        <g key={t}>
          <path d={`M${left - 5} ${up(t / factor)}h5`} stroke="var(--color-ink)" />
          <text x={left - 8} y={up(t / factor) + 4} textAnchor="end" fontSize="13" fill="var(--color-faint)">
            {Number.isInteger(t) ? number(t, "count") : t}
          </text>
        </g>
      ))}
      <text x={0} y={topY - 10} fontSize="13" fontWeight="600" fill="var(--color-growth)">
        {plan.product}, {unit(plan.yieldAs)}
      </text>
      {sparse ? (
        years
          .filter((y) => y.perHa.base > 0)
          .map((y) => (
            <g key={y.season}>
              <rect
                x={x(y.season + 0.55)}
                width={x(1.5) - x(0.55)}
                y={up(y.recorded ? recordedPerHa(y) : y.perHa.base)}
                height={groundY - up(y.recorded ? recordedPerHa(y) : y.perHa.base)}
                fill={y.recorded ? "var(--color-growth)" : "none"}
                stroke="var(--color-growth)"
                strokeDasharray={y.recorded ? undefined : "4 3"}
                strokeWidth="1.5"
              />
              <path d={`M${x(y.season + 1.02)} ${up(y.perHa.low)}V${up(y.perHa.high)}`} stroke="var(--color-growth)" />
            </g>
          ))
      ) : (
        <>
          <path
            d={
              area<Y>()
                .x(mid)
                .y0((y) => up(y.perHa.low))
                .y1((y) => up(y.perHa.high))(years) ?? undefined
            }
            fill="var(--color-leaf)"
            fillOpacity="0.6"
          />
          <path
            d={
              line<Y>()
                .x(mid)
                .y((y) => up(y.perHa.base))(years) ?? undefined
            }
            fill="none"
            stroke="var(--color-growth)"
            strokeWidth="1.8"
            strokeDasharray="6 3"
          />
          {years
            .filter((y) => y.recorded)
            .map((y) => (
              <rect
                key={y.season}
                x={x(y.season + 0.14)}
                width={Math.max(2, x(0.86) - x(0.14))}
                y={up(recordedPerHa(y))}
                height={groundY - up(recordedPerHa(y))}
                fill="var(--color-growth)"
                fillOpacity="0.85"
              />
            ))}
        </>
      )}
      {!sparse &&
        years
          .filter((y, i) => i % step === 0 && y.spreadM > 0.1)
          .map((y) => {
            const r = 3 + (y.spreadM / maxSpread) * 7;
            const done = stands(plan) && y.season <= plan.yearToday;
            return (
              <g key={y.season} opacity="0.95">
                <path d={`M${mid(y)} ${groundY}v${-r * 0.9}`} stroke="var(--color-ink)" strokeWidth="1.2" />
                <circle
                  cx={mid(y)}
                  cy={groundY - r * 1.7}
                  r={r}
                  fill={done ? "var(--color-ink)" : "var(--color-paper)"}
                  fillOpacity={done ? 0.75 : 0.35}
                  stroke="var(--color-ink)"
                  strokeWidth="0.9"
                  strokeDasharray={done ? undefined : "2 2"}
                />
              </g>
            );
          })}
      {years.map((y) => {
        const done = y.season < plan.yearToday && stands(plan);
        const w = (x(1) - x(0)) / (roots.length + 2);
        const root = (i: number, share: number, tint: string) =>
          share > 0 && (
            <path
              key={i}
              d={`M${x(y.season + 0.5) + (i - roots.length / 2) * w - w * 0.42} ${groundY}l${w * 0.42} ${6 + share * (deep - 10)}l${w * 0.42} ${-(6 + share * (deep - 10))}Z`}
              fill={done ? tint : "var(--color-paper)"}
              fillOpacity={done ? 0.8 : 0.7}
              stroke={tint}
              strokeWidth="1"
            />
          );
        return (
          <g key={y.season}>
            {root(0, y.jobs / maxJobs, "var(--color-input)")}
            {roots.map((n, i) => root(i + 1, (y.feedPerHa[n] ?? 0) / most(n), tone[i]!))}
          </g>
        );
      })}
      <g fontSize="13" fontWeight="600">
        <text x={0} y={groundY + 22} fill="var(--color-input)">
          ▼ jobs
        </text>
        {roots.map((n, i) => (
          <text key={n} x={0} y={groundY + 44 + i * 22} fill={tone[i]}>
            ▼ {nutrientNames[n]}
          </text>
        ))}
      </g>
      <path d={`M${left - 8} ${groundY}H${width - 4}`} stroke="var(--color-ink)" strokeWidth="2" />
      {[...flags].map(([k, d], i) => (
        <g key={k}>
          <path d={`M${x(decimal(d))} ${groundY}v${-40 - i * 15}`} stroke="var(--color-ink)" strokeWidth="0.8" />
          <text x={x(decimal(d)) + 3} y={groundY - 32 - i * 15} fontSize="13" fill="var(--color-ink)">
            {k}
          </text>
        </g>
      ))}
      <PlantingFlag
        x={x(decimal(draft.preview && !stands(plan) ? (jobOn(plan, "plant") ?? standing) : standing))}
        plan={plan}
        date={standing}
        draft={draft}
        perDay={(x(1) - x(0)) / 365.25}
      />
      {Array.from({ length: years.at(-1)!.season - from + 1 }, (_, i) => from + i)
        .filter((s) => s % every === 0)
        .map((s) => (
          <text
            key={s}
            x={x(s + 0.5)}
            y={height - 8}
            textAnchor="middle"
            fontSize="13"
            fontWeight={s % 10 === 0 ? 700 : 400}
            fill="var(--color-faint)"
          >
            {s}
          </text>
        ))}
      <path d={`M${x(now)} ${groundY - 10}v22`} stroke="var(--color-decide)" strokeWidth="4" />
      <path d={`M${x(now)} ${groundY}V${height - 22}`} stroke="var(--color-decide)" strokeDasharray="2 3" />
      <text x={x(now) + 4} y={height - 24} fontSize="13" fill="var(--color-decide)">
        today
      </text>
      <path d={`M${mid(year)} ${topY - 8}V${height - 30}`} stroke="var(--color-ink)" strokeWidth="1.4" />
      <path d={`M${mid(year)} ${height - 20}l-5 -11h10Z`} fill="var(--color-ink)" />
      <PlumbLabel x={mid(year)} width={width} text={`${year.label}, age year ${year.age}`} />
    </svg>
  );
}

function PlumbLabel({ x, width, text }: { x: number; width: number; text: string }) {
  const w = text.length * 7.2 + 14;
  const at = Math.min(width - w - 2, Math.max(190, x - w / 2));
  return (
    <g>
      <rect x={at} y={2} width={w} height={20} fill="var(--color-paper)" stroke="var(--color-ink)" />
      <text x={at + w / 2} y={16} textAnchor="middle" fontSize="13" fontWeight="600" fill="var(--color-ink)">
        {text}
      </text>
    </g>
  );
}

const jobOn = (plan: Plan, key: string) => plan.jobs.find((j) => j.key === key)?.from;

/** The planting date stands on the line; before planting it can be dragged, and everything answers. */
function PlantingFlag({ x, plan, date, draft, perDay }: { x: number; plan: Plan; date: string; draft: Draft; perDay: number }) {
  const drag = useRef<{ at: number; from: number; to: string }>(null);
  const free = !stands(plan);
  const shown = jobOn(plan, "plant") ?? date;
  return (
    <g
      className={free ? "cursor-ew-resize" : ""}
      onPointerDown={(e) => {
        if (!free) return;
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { at: e.clientX, from: dayNumber(date), to: date };
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (!d) return;
        e.stopPropagation();
        d.to = fromDayNumber(d.from + (e.clientX - d.at) / perDay);
        void draft.ask({ planting: { date: d.to } }, dated);
      }}
      onPointerUp={() => {
        const d = drag.current;
        drag.current = null;
        if (d && d.to !== date) void draft.commit({ planting: { date: d.to } }, `Planting moved to ${day(d.to)}`);
      }}
    >
      <path d={`M${x} ${groundY}V${topY + 18}`} stroke="var(--color-growth)" strokeWidth="1.6" />
      <path d={`M${x} ${topY + 4}h62v16h-62Z`} fill="var(--color-paper)" stroke="var(--color-growth)" />
      <text x={x + 5} y={topY + 16} fontSize="12.5" fontWeight="600" fill="var(--color-growth)">
        {free ? "plant ↔" : "planted"}
      </text>
      <title>{free ? `Planting planned for ${day(shown)}: drag to move it` : `Planted ${day(date)}`}</title>
    </g>
  );
}

/** How far into its season year a day lies, 0 to 1; offset is where the season starts in the calendar year. */
const offset = (start: string) => (dayNumber(start) - dayNumber(start.slice(0, 4) + "-01-01")) / 365.25;
function seasonShare(today: string, start: string) {
  const d = Number(today.slice(0, 4)) + (dayNumber(today) - dayNumber(today.slice(0, 4) + "-01-01")) / 365.25 - offset(start);
  return d - Math.floor(d);
}
/** One season, month by month: harvests above, jobs below. */
function YearView({ plan, year, width }: { plan: Plan; year: Y; width: number }) {
  const { text } = useReading();
  const start = dayNumber(year.start);
  const x = scaleLinear([start, start + 365], [74, width - 10]);
  const jobs = plan.jobs.filter((j) => dayNumber(j.from) < start + 365 && dayNumber(j.by) >= start && j.phase !== "harvest");
  const months = Array.from({ length: 12 }, (_, i) => {
    const d = new Date((start + 3 + i * 30.44) * 86400000);
    return `${d.getUTCFullYear()}-${String(d.getUTCMonth() + 1).padStart(2, "0")}-01`;
  });
  const h = groundY - 8 + Math.max(6, jobs.length) * 19 + 40;
  const g = groundY - 38;
  const top = Math.max(1, ...year.harvests.map((v) => v.blockKg.high));
  return (
    <svg width={width} height={h} className="block" role="img" aria-label={`${year.label} by month`}>
      <rect x={74} y={g} width={Math.max(0, width - 84)} height={h - g - 26} fill="var(--color-soil)" />
      {months.map((m) => (
        <g key={m}>
          <path d={`M${x(Math.max(start, dayNumber(m)))} 20V${h - 24}`} stroke="var(--color-line)" />
          <text x={x(Math.max(start, dayNumber(m))) + 4} y={h - 8} fontSize="13" fill="var(--color-faint)">
            {day(m).split(" ")[1]}
          </text>
        </g>
      ))}
      {year.harvests.map((v, i) => {
        const a = x(Math.max(start, dayNumber(v.from)));
        const b = Math.min(width - 10, x(dayNumber(v.to)));
        const tall = (v.blockKg.base / top) * (g - 62);
        const label = 14 + i * 15;
        return (
          <g key={v.name + v.from}>
            <rect
              x={a}
              width={Math.max(4, b - a)}
              y={g - tall}
              height={tall}
              fill="var(--color-leaf)"
              stroke="var(--color-growth)"
              strokeDasharray="5 3"
            />
            <path d={`M${a + 1} ${label + 2}V${g - tall}`} stroke="var(--color-growth)" strokeWidth="0.7" />
            <text x={Math.min(a + 4, width - 170)} y={label} fontSize="12.5" fill="var(--color-growth)">
              {v.name} {text(v.blockKg.base, plan.massAs)}
            </text>
          </g>
        );
      })}
      <path d={`M66 ${g}H${width - 4}`} stroke="var(--color-ink)" strokeWidth="2" />
      {jobs.map((j, i) => {
        const a = x(Math.max(start, dayNumber(j.from)));
        const b = Math.min(width - 10, x(dayNumber(j.by)));
        const tone = j.phase === "feed" ? "var(--color-straw)" : "var(--color-input)";
        const y = g + 12 + i * 19;
        const right = a > width * 0.62;
        return (
          <g key={j.key}>
            <rect x={a} width={Math.max(5, b - a)} y={y} height={8} fill={j.done ? tone : "var(--color-paper)"} stroke={tone} />
            <text
              x={right ? a - 5 : Math.max(a + 5, b) + 5}
              y={y + 9}
              textAnchor={right ? "end" : "start"}
              fontSize="12.5"
              fill="var(--color-ink)"
            >
              {j.name}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
