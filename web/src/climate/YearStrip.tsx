import { area, curveLinear, line } from "d3-shape";
import { scaleLinear } from "d3-scale";
import { max, min } from "d3-array";
import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";

const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const lengths = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
const starts = lengths.map((_, i) => lengths.slice(0, i).reduce((a, b) => a + b, 0));

/** The year as one strip: temperature above the line, rain and what grass would use below it. */
export function YearStrip({ climate }: { climate: Schema["ClimateView"] }) {
  const { text, number, unit } = useReading();
  const w = 980;
  const ground = 236;
  const deep = 130;
  const x = scaleLinear([0, 365], [52, w - 8]);
  const days = climate.days;
  const hot = max([...climate.months.map((m) => m.maxC), ...days.map((d) => d.high)]) ?? 30;
  const cold = min([...climate.months.map((m) => m.minC), ...days.map((d) => d.low)]) ?? 0;
  const t = scaleLinear([Math.min(0, cold) - 1, hot + 1], [ground - 18, 18]);
  const wet = max(climate.months.map((m) => Math.max(m.rainMm, m.et0Mm))) ?? 100;
  const r = scaleLinear([0, wet], [0, deep - 26]);
  type D = Schema["ClimateDay"];
  const band = (lo: (d: D) => number, hi: (d: D) => number) =>
    area<D>()
      .x((_, i) => x(i + 0.5))
      .y0((d) => t(lo(d)))
      .y1((d) => t(hi(d)))
      .curve(curveLinear)(days) ?? "";
  const mid = (key: "meanC" | "minC" | "maxC") =>
    line<Schema["ClimateMonth"]>()
      .x((_, i) => x(starts[i]! + lengths[i]! / 2))
      .y((m) => t(m[key]))(climate.months) ?? "";
  return (
    <figure>
      <svg
        viewBox={`0 0 ${w} ${ground + deep + 26}`}
        className="block w-full"
        role="img"
        aria-label="The year: temperatures above, rain and evaporation below; the table holds the same"
      >
        {days.length > 0 && (
          <>
            <path
              d={band(
                (d) => d.low,
                (d) => d.high,
              )}
              fill="var(--color-sand)"
              opacity="0.45"
            />
            <path
              d={band(
                (d) => d.tmin,
                (d) => d.tmax,
              )}
              fill="var(--color-input)"
              opacity="0.3"
            />
          </>
        )}
        <path d={mid("meanC")} stroke="var(--color-input)" strokeWidth="2.2" fill="none" />
        <path d={mid("minC")} stroke="var(--color-input)" strokeWidth="1" strokeDasharray="4 3" fill="none" />
        <path d={mid("maxC")} stroke="var(--color-input)" strokeWidth="1" strokeDasharray="4 3" fill="none" />
        {t.ticks(5).map((v) => (
          <g key={v}>
            <path d={`M46 ${t(v)}H52`} stroke="var(--color-ink)" />
            <text x="42" y={t(v) + 4} textAnchor="end" fontSize="12" fill="var(--color-faint)">
              {number(v, "temp").replace(/\.0$/, "")}
            </text>
          </g>
        ))}
        {cold < 0 && <path d={`M52 ${t(0)}H${w - 8}`} stroke="var(--color-water)" strokeWidth="1" strokeDasharray="2 4" />}
        <text x="4" y="14" fontSize="12" fill="var(--color-faint)">
          {unit("temp")}
        </text>
        <path d={`M52 ${ground}H${w - 8}`} stroke="var(--color-ink)" strokeWidth="1.8" />
        {climate.months.map((m, i) => {
          const x0 = x(starts[i]!) + 4;
          const width = x(lengths[i]!) - x(0) - 8;
          return (
            <g key={i}>
              <path
                d={`M${x0} ${ground}L${x0 + width * 0.36} ${ground + r(m.rainMm)}L${x0 + width * 0.72} ${ground}Z`}
                fill="var(--color-water)"
                opacity={m.dry ? 0.45 : 0.85}
              />
              <path
                d={`M${x0 + width * 0.34} ${ground}L${x0 + width * 0.67} ${ground + r(m.et0Mm)}L${x0 + width} ${ground}Z`}
                fill="none"
                stroke="var(--color-straw)"
                strokeWidth="1.6"
              />
              <text
                x={x0 + width / 2}
                y={ground + deep - 6}
                textAnchor="middle"
                fontSize="12"
                fill={m.dry ? "var(--color-decide)" : "var(--color-faint)"}
              >
                {number(m.rainMm, "rain")}
              </text>
              <text x={x0 + width / 2} y={ground + deep + 14} textAnchor="middle" fontSize="12.5" fill="var(--color-ink)">
                {months[i]}
              </text>
              {m.dry && (
                <text x={x0 + width / 2} y={ground + deep - 20} textAnchor="middle" fontSize="11" fill="var(--color-decide)">
                  dry
                </text>
              )}
            </g>
          );
        })}
        <text x="4" y={ground + deep - 6} fontSize="12" fill="var(--color-faint)">
          {unit("rain")}
        </text>
      </svg>
      <figcaption className="text-sm text-faint">
        Above: the monthly mean and its night and day
        {days.length > 0 && "; the usual day of the record in clay, its extremes in straw"}. Below: rain as filled roots, what
        grass would use (
        {text(
          climate.months.reduce((a, m) => a + m.et0Mm, 0),
          "rain",
        )}{" "}
        a year) outlined. A month is dry when rain is under half of that.
      </figcaption>
    </figure>
  );
}
