import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { useWidth } from "../shell/useWidth";
import { day } from "../units";

const tones = ["var(--color-growth)", "var(--color-input)", "var(--color-water)", "var(--color-straw)"];

/** The hours of each week against what the crews can do; weeks that ask for more stand out. */
export function WeeksChart({ weeks: w }: { weeks: Schema["JobWeeks"] }) {
  const [box, width] = useWidth(300);
  const { text } = useReading();
  const limits = w.limits;
  const limit = limits.reduce((n, l) => n + l, 0);
  const total = (x: Schema["JobWeek"]) => x.hours.reduce((n, h) => n + h, 0);
  const most = Math.max(limit, ...w.weeks.map(total), 1) * 1.1;
  const h = 170;
  const base = h - 34;
  const step = (width - 50) / Math.max(1, w.weeks.length);
  const y = (v: number) => base - (v / most) * (base - 10);
  const unknown = w.weeks.reduce((n, x) => Math.max(n, x.unknown), 0);
  return (
    <div ref={box} className="min-w-0">
      <svg
        width={width}
        height={h}
        role="img"
        aria-label={`Hours by week: ${w.weeks.map((x) => `${day(x.start)} ${Math.round(total(x))}`).join(", ")}`}
      >
        {w.weeks.map((x, i) => {
          let low = 0;
          return (
            <g key={x.start}>
              <title>{`week of ${day(x.start)}: ${w.crews.map((c, k) => `${c.name} ${text(x.hours[k] ?? 0, "hours")}`).join(", ")}${x.unknown ? `; ${x.unknown} jobs without hours` : ""}`}</title>
              <rect x={46 + i * step} y={0} width={step} height={base} fill="transparent" />
              {x.hours.map((v, k) => {
                const from = low;
                low += v;
                const over = (limits[k] ?? 0) > 0 && v > limits[k]! + 0.5;
                return (
                  <rect
                    key={k}
                    x={46 + i * step + 1}
                    width={Math.max(1, step - 2)}
                    y={y(low)}
                    height={Math.max(0, y(from) - y(low))}
                    fill={over ? "var(--color-decide)" : tones[k % tones.length]}
                    fillOpacity={0.8}
                  />
                );
              })}
              {x.unknown > 0 && (
                <circle
                  cx={46 + (i + 0.5) * step}
                  cy={base + 7}
                  r={Math.min(5, 1.5 + (3.5 * x.unknown) / unknown)}
                  fill="var(--color-faint)"
                />
              )}
              {(i % Math.ceil(90 / step) === 0 || step > 90) && (
                <text x={46 + i * step} y={h - 6} fontSize="12" fill="var(--color-faint)">
                  {day(x.start).replace(/ \d{4}$/, "")}
                </text>
              )}
            </g>
          );
        })}
        <path d={`M46 ${base} H${width}`} stroke="var(--color-ink)" />
        {limit > 0 && <path d={`M46 ${y(limit)} H${width}`} stroke="var(--color-ink)" strokeDasharray="5 4" />}
        {[0.5, 1].map((k) => (
          <text key={k} x={42} y={y(most * k * 0.9) + 4} textAnchor="end" fontSize="12" fill="var(--color-faint)">
            {Math.round(most * k * 0.9)}
          </text>
        ))}
      </svg>
      <p className="text-sm text-faint">
        Hours a week, spread over the days work may be done on.
        {limit > 0
          ? ` The broken line is what all crews can do, ${text(limit, "hours")}.`
          : " Name your crews and what they can do is drawn beside it."}{" "}
        A dot is work of which no hours are known.
      </p>
      {w.crews.length > 1 && (
        <ul className="flex flex-wrap gap-4 text-sm">
          {w.crews.map((c, k) => (
            <li key={c.id}>
              <span aria-hidden className="mr-1 inline-block h-3 w-3" style={{ background: tones[k % tones.length] }} />
              {c.name}
            </li>
          ))}
        </ul>
      )}
      {w.over.length > 0 && (
        <ul className="mt-1 text-decide">
          {w.over.slice(0, 8).map((o) => (
            <li key={o}>{o}</li>
          ))}
          {w.over.length > 8 && <li>and {w.over.length - 8} weeks more</li>}
        </ul>
      )}
    </div>
  );
}
