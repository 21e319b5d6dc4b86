import type { Plan } from "../api/client";
import { useReading } from "../shell/reading";
import { day, dayNumber, fromDayNumber } from "../units";

const [w, h, foot, left] = [320, 96, 22, 46];

/** What a day of planting leaves of a full crop, with the day meant on it; nothing where practice knows nothing of it. */
export function LateCurve({ late, date }: { late: NonNullable<Plan["late"]>; date: string }) {
  const { text } = useReading();
  const first = dayNumber(late.curve[0]!.day);
  const last = dayNumber(late.curve.at(-1)!.day);
  const x = (d: number) => left + ((d - first) / Math.max(1, last - first)) * (w - left - 8);
  const y = (f: number) => 6 + (1 - f) * (h - foot - 6);
  const at = dayNumber(date);
  const line = late.curve.map((p, i) => `${i ? "L" : "M"}${x(dayNumber(p.day)).toFixed(1)} ${y(p.factor).toFixed(1)}`).join("");
  const months: { x: number; words: string }[] = [];
  for (let d = first; d <= last; d++) {
    const s = fromDayNumber(d);
    if (s.endsWith("-01") && x(d) < w - 34) months.push({ x: x(d), words: day(s).split(" ")[1]!.slice(0, 3) });
  }
  return (
    <figure className="mt-3 max-w-full">
      <figcaption className="text-sm">
        Planted on {day(date)}: <b>{text(late.factor, "fraction")}</b> of a full crop
      </figcaption>
      <svg
        viewBox={`0 0 ${w} ${h}`}
        width={w}
        className="max-w-full"
        role="img"
        aria-label={`What is left of a full crop by the day of planting; most from ${day(late.best)}`}
      >
        {[0, 0.5, 1].map((f) => (
          <g key={f}>
            <path d={`M${left} ${y(f)}H${w - 8}`} stroke="var(--color-line)" />
            <text x={left - 5} y={y(f) + 4} textAnchor="end" fontSize="12" fill="var(--color-faint)">
              {f * 100} %
            </text>
          </g>
        ))}
        {months.map((m) => (
          <g key={m.x}>
            <path d={`M${m.x} ${h - foot}v5`} stroke="var(--color-faint)" />
            <text x={m.x + 2} y={h - 6} fontSize="12" fill="var(--color-faint)">
              {m.words}
            </text>
          </g>
        ))}
        <path d={line} fill="none" stroke="var(--color-growth)" strokeWidth="2.5" />
        {at >= first && at <= last && (
          <circle cx={x(at)} cy={y(late.factor)} r="5.5" fill="var(--color-input)" stroke="var(--color-paper)" strokeWidth="2" />
        )}
      </svg>
      <p className="text-sm text-faint">{late.source}</p>
    </figure>
  );
}
