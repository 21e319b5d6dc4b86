import { deep, groundY, height, topY, type Y } from "./groundAxes";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useMemo } from "react";
import { useReading } from "../shell/reading";
import { dayNumber, showOf } from "../units";
import { nutrientNames } from "./nutrients";
import { stands } from "./paths";
import { offset, seasonShare } from "./GroundYear";
import { PlumbLabel, jobOn, PlantingFlag } from "./GroundFlags";
import type { Props } from "./GroundLine";

export function Life({
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
