import { scaleLinear } from "d3-scale";
import type { Plan } from "../api/client";
import { useReading } from "../shell/reading";
import { dayNumber, day } from "../units";
import { groundY, type Y } from "./groundAxes";

/** How far into its season year a day lies, 0 to 1; offset is where the season starts in the calendar year. */
export const offset = (start: string) => (dayNumber(start) - dayNumber(start.slice(0, 4) + "-01-01")) / 365.25;

export function seasonShare(today: string, start: string) {
  const d = Number(today.slice(0, 4)) + (dayNumber(today) - dayNumber(today.slice(0, 4) + "-01-01")) / 365.25 - offset(start);
  return d - Math.floor(d);
}

/** One season, month by month: harvests above, jobs below. */
export function YearView({ plan, year, width }: { plan: Plan; year: Y; width: number }) {
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
