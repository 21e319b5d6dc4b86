import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { Link } from "react-router";
import type { Schema } from "../api/client";
import { cropTone } from "../block/weights";
import { useReading } from "../shell/reading";
import { dayNumber } from "../units";
import { useWidth } from "../shell/useWidth";

type Short = Schema["BlockInShort"];
type Y = Schema["YearInShort"];
const lineHeight = 78;
const ground = 50;

/** decimalYear of a date, for a calendar shared by all blocks. */
const decimalYear = (date: string) => {
  const y = Number(date.slice(0, 4));
  return y + (dayNumber(date) - dayNumber(`${y}-01-01`)) / 365.25;
};

/** Every block's ground line on one calendar: what comes out above, what goes in below. */
export function StackedLines({
  blocks,
  today,
  lit,
  light,
}: {
  blocks: Short[];
  today: string;
  lit: string;
  light: (id: string) => void;
}) {
  const [box, width] = useWidth(280);
  const now = decimalYear(today);
  const seasons = blocks.flatMap((b) => b.years.map((y) => y.season));
  const first = Math.max(Math.min(...seasons, Math.floor(now) - 3), Math.floor(now) - 18);
  const last = Math.min(Math.max(...seasons, Math.floor(now) + 10), Math.floor(now) + 30);
  const narrow = width < 560;
  const left = narrow ? 8 : 270;
  const x = scaleLinear([first, last + 1], [left, width - 8]);
  const rowHeight = narrow ? lineHeight + 34 : lineHeight;
  const height = 26 + blocks.length * rowHeight + 14;
  const step = width - left < 420 ? 10 : 5;
  const ticks = [];
  for (let y = Math.ceil(first / step) * step; y <= last; y += step) ticks.push(y);
  return (
    <div ref={box} className="relative min-w-0">
      <svg
        width={width}
        height={height}
        role="img"
        aria-label="Yield above and work below the ground line of every block, by year. The list under it says the same."
      >
        {ticks.map((t) => (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1={22} y2={height - 14} stroke="var(--color-line)" strokeWidth={t % 10 === 0 ? 1 : 0.5} />
            <text
              x={x(t)}
              y={14}
              textAnchor="middle"
              fontSize={13}
              fontWeight={t % 10 === 0 ? 700 : 400}
              fill="var(--color-faint)"
            >
              {t}
            </text>
          </g>
        ))}
        {blocks.map((b, i) => (
          <GroundStrip
            key={b.id}
            b={b}
            x={x}
            top={26 + i * rowHeight + (narrow ? 34 : 0)}
            from={left}
            to={width - 8}
            lit={lit === b.id}
            first={first}
            last={last}
            now={now}
          />
        ))}
        <line x1={x(now)} x2={x(now)} y1={20} y2={height - 14} stroke="var(--color-decide)" strokeWidth={1.5} />
        <text x={x(now) + 4} y={height - 2} fontSize={13} fill="var(--color-decide)">
          today
        </text>
      </svg>
      {blocks.map((b, i) => (
        <Link
          key={b.id}
          to={`/blocks/${b.id}`}
          onMouseEnter={() => light(b.id)}
          onMouseLeave={() => light("")}
          onFocus={() => light(b.id)}
          onBlur={() => light("")}
          className={`absolute left-0 flex gap-2 ${narrow ? "right-0" : "w-68"} leading-tight hover:underline`}
          style={{ top: 26 + i * rowHeight + (narrow ? 2 : 16) }}
        >
          <span
            aria-hidden
            className={`mt-0.5 inline-flex h-6 w-6 shrink-0 items-center justify-center rounded-full border border-ink text-sm font-semibold ${lit === b.id ? "bg-ink text-paper" : ""}`}
          >
            {b.number}
          </span>
          <span className={narrow ? "flex flex-wrap gap-x-2" : ""}>
            <b className="block">{b.name}</b>
            <span className="text-sm text-faint">
              <span className="block">{b.headline}</span> <Headline b={b} />
            </span>
          </span>
        </Link>
      ))}
    </div>
  );
}

/** The last harvest recorded, or the area where there is none. */
function Headline({ b }: { b: Short }) {
  const { text } = useReading();
  const done = b.years.filter((y) => y.recorded).at(-1);
  return <span className="block">{done ? `${text(done.pickedKg, b.massAs)} in ${done.label}` : text(b.areaM2, "area")}</span>;
}

/** What stood before, or is to follow, as a stretch of the ground. */
function OtherPlanting({
  p,
  x,
  top,
  from,
  to,
}: {
  p: Schema["PlantingShort"];
  x: (v: number) => number;
  top: number;
  from: number;
  to: number;
}) {
  const year = (d: string) => Number(d.slice(0, 4)) + (Number(d.slice(5, 7)) - 1) / 12;
  const a = Math.max(from, x(year(p.from)));
  const z = Math.min(to, p.to ? x(year(p.to)) : to);
  if (z <= a) return null;
  const ended = p.stage === "ended";
  const words = `${p.name}, ${ended ? `${p.how} ${p.to.slice(0, 4)}` : `${p.stage} for ${p.from.slice(0, 4)}`}`;
  return (
    <g>
      <rect
        x={a}
        width={z - a}
        y={top - 7}
        height={7}
        fill={ended ? "var(--color-line)" : "none"}
        stroke="var(--color-faint)"
        strokeDasharray={ended ? undefined : "3 3"}
      />
      <text x={Math.min(a, to - 190) + 2} y={top + 36} fontSize={12} fill="var(--color-faint)">
        {words}
      </text>
    </g>
  );
}

function GroundStrip({
  b,
  x,
  top,
  from,
  to,
  lit,
  first,
  last,
  now,
}: {
  b: Short;
  x: (v: number) => number;
  top: number;
  from: number;
  to: number;
  lit: boolean;
  first: number;
  last: number;
  now: number;
}) {
  const tone = cropTone[b.sheet] ?? "var(--color-faint)";
  const years = b.years.filter((y) => y.season >= first && y.season <= last);
  const top1 = Math.max(1, ...b.years.map((y) => Math.max(y.blockKg, y.pickedKg)));
  const up = (kg: number) => top + ground - (kg / top1) * (ground - 10);
  const jobs = Math.max(1, ...b.years.map((y) => y.jobs));
  const sparse = b.years.filter((y) => y.blockKg > 0).length < b.years.length * 0.6;
  const past = years.filter((y) => y.recorded);
  const ahead = years.filter((y) => y.season + 1 >= now || !y.recorded);
  const end = b.years.at(-1);
  return (
    <g>
      {lit && <rect x={from - 4} y={top} width={to - from + 8} height={lineHeight} fill="var(--color-soil)" />}
      {sparse ? (
        years
          .filter((y) => y.blockKg > 0)
          .map((y) => {
            const kg = y.recorded ? y.pickedKg : y.blockKg;
            return (
              <rect
                key={y.season}
                x={x(y.season + 0.6)}
                width={Math.max(3, x(1.45) - x(0.6))}
                y={up(kg)}
                height={top + ground - up(kg)}
                fill={y.recorded ? tone : "none"}
                stroke={tone}
                strokeDasharray={y.recorded ? undefined : "3 2"}
              />
            );
          })
      ) : (
        <>
          {past.length > 1 && (
            <path
              d={
                area<Y>()
                  .x((y) => x(y.season + 0.5))
                  .y0(top + ground)
                  .y1((y) => up(y.pickedKg))(past) ?? undefined
              }
              fill={tone}
              fillOpacity={0.8}
            />
          )}
          <path
            d={
              line<Y>()
                .x((y) => x(y.season + 0.5))
                .y((y) => up(y.blockKg))(ahead.filter((y) => past.length === 0 || y.season >= (past.at(-1)?.season ?? 0))) ??
              undefined
            }
            fill="none"
            stroke={tone}
            strokeWidth={1.6}
            strokeDasharray="5 3"
          />
        </>
      )}
      {b.years.length === 0 && (
        <text x={x(now) + 10} y={top + ground - 8} fontSize={13} fontWeight={600} fill="var(--color-decide)">
          {b.problem ? "no plan can be computed" : "a fork stands open here"}
        </text>
      )}
      {years.map((y) => {
        const depth = 4 + (y.jobs / jobs) * 18;
        const cx = x(y.season + 0.5);
        const done = y.season + 1 <= now;
        return (
          <path
            key={y.season}
            d={`M${cx - 2.6} ${top + ground}L${cx} ${top + ground + depth}L${cx + 2.6} ${top + ground}Z`}
            fill={done ? "var(--color-input)" : "none"}
            stroke="var(--color-input)"
            strokeWidth={0.8}
          />
        );
      })}
      {b.plantings
        .filter((p) => !p.seen)
        .map((p) => (
          <OtherPlanting key={p.id} p={p} x={x} top={top + ground} from={from} to={to} />
        ))}
      <line x1={from} x2={to} y1={top + ground} y2={top + ground} stroke="var(--color-ink)" strokeWidth={1.5} />
      {end && end.season <= last && (
        <text x={x(end.season + 1)} y={top + ground + 5} textAnchor="middle" fontSize={15} fill="var(--color-ink)">
          ×<title>{`end of its usual life, ${end.label}`}</title>
        </text>
      )}
    </g>
  );
}
