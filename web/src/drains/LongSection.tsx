import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import type { Whole } from "./types";

type Station = Whole["stations"][number];

/** A pipe in section: ground, pipe, the layer that stops water, falls, levels and pits. Heights are drawn larger. */
export function LongSection({
  network,
  id,
  name,
  stations,
  pipes,
  paper, // in true millimetres, at round scales
}: Whole & { paper?: boolean }) {
  const { text, number } = useReading();
  if (stations.length < 2) return null;
  const long = stations.at(-1)!.s;
  const layer = stations.every((p) => p.layer !== 0);
  const zs = stations.flatMap((p) => [p.ground, p.invert, layer ? p.layer : p.ground]);
  const hi = Math.max(...zs) + 0.2;
  const lo = Math.min(...zs) - 0.2;
  const left = 62;
  const top = 14;
  // on paper four drawing units are a millimetre
  const across = [250, 500, 1000, 1500, 2000, 2500, 5000].find((a) => (long * 1000) / a < 155) ?? 10000;
  const up = [10, 20, 25, 50, 100, 200, 500].find((a) => ((hi - lo) * 1000) / a < 45) ?? 1000;
  const right = paper ? left + (long * 4000) / across : 748;
  const bottom = paper ? top + ((hi - lo) * 4000) / up : 146;
  const width = right + 12;
  const height = bottom + 44;
  const x = (s: number) => left + (s / long) * (right - left);
  const y = (z: number) => top + ((hi - z) / (hi - lo)) * (bottom - top);
  const line = (f: (p: Station) => number) =>
    stations.map((p, i) => `${i ? "L" : "M"}${x(p.s).toFixed(1)} ${y(f(p)).toFixed(1)}`).join("");
  const every = Math.max(1, Math.ceil(stations.length / 7));
  const marks = stations.filter((p, i) => i === stations.length - 1 || (i % every === 0 && x(long) - x(p.s) > 44));
  const exaggerated = (bottom - top) / (hi - lo) / ((right - left) / long);
  const stepZ = [0.5, 1, 2, 5, 10].find((s) => (hi - lo) / s < 6) ?? 20;
  const levels: number[] = [];
  for (let z = Math.ceil(lo / stepZ) * stepZ; z <= hi; z += stepZ) levels.push(z);
  const chambers = network.chambers.filter((c) => c.main === id);
  return (
    <figure className="keep mt-2">
      <figcaption className="font-semibold">
        {name}, {text(long, "distance")}{" "}
        <span className="text-sm font-normal text-faint">
          {[...new Set(pipes.map((p) => p.pipe.name || "open ditch"))].join(", then ")}; falls{" "}
          {number(Math.min(...pipes.map((p) => p.grade)), "grade")} % at the least;{" "}
          {paper ? `lengths 1 : ${across}, heights 1 : ${up}` : `heights ${exaggerated.toFixed(0)} times larger`}
        </span>
      </figcaption>
      <Wide label={`Long section of ${name}`}>
        <svg
          viewBox={`0 0 ${width} ${height}`}
          className={paper ? "block" : "block w-full min-w-[40rem]"}
          style={paper ? { width: `${width / 4}mm`, height: `${height / 4}mm` } : undefined}
          role="img"
          aria-label={`Long section of ${name}`}
        >
          <path d={`${line((p) => p.ground)}L${x(long)} ${bottom}L${x(0)} ${bottom}Z`} fill="var(--color-soil)" />
          {layer && (
            <>
              <path d={`${line((p) => p.layer)}L${x(long)} ${bottom}L${x(0)} ${bottom}Z`} fill="#b3ac9a" opacity="0.55" />
              <path d={line((p) => p.layer)} fill="none" stroke="#6b5537" strokeWidth="1.2" strokeDasharray="6 4" />
            </>
          )}
          {levels.map((z) => (
            <g key={z}>
              <path d={`M${left - 5} ${y(z)}H${left}`} stroke="var(--color-ink)" />
              <path d={`M${left} ${y(z)}H${right}`} stroke="var(--color-line)" strokeWidth="0.7" />
              <text x={left - 8} y={y(z) + 4} textAnchor="end" fontSize="12" fill="var(--color-faint)">
                {text(z, "height")}
              </text>
            </g>
          ))}
          <path d={line((p) => p.ground)} fill="none" stroke="var(--color-ink)" strokeWidth="1.8" />
          <path d={line((p) => p.invert)} fill="none" stroke="var(--color-water)" strokeWidth="3.4" />
          {chambers.map((c, i) => (
            <path
              key={i}
              d={`M${x(c.s) - 4} ${y(c.ground)}V${y(c.sump)}h8V${y(c.ground)}`}
              fill="var(--color-paper)"
              stroke="var(--color-ink)"
              strokeWidth="1.3"
            >
              <title>{`Pit at ${text(c.s, "distance")}: ${c.why}`}</title>
            </path>
          ))}
          {marks.map((p, i) => (
            <g
              key={i}
              fontSize="12"
              fill="var(--color-ink)"
              textAnchor={i === 0 ? "start" : i === marks.length - 1 ? "end" : "middle"}
            >
              <path d={`M${x(p.s)} ${bottom}v5`} stroke="var(--color-ink)" />
              <text x={x(p.s)} y={bottom + 17}>
                {number(p.s, "distance")}
              </text>
              <text x={x(p.s)} y={bottom + 31} fill="var(--color-water)" fontWeight="600">
                {number(p.invert, "spacing")}
              </text>
              <text x={x(p.s)} y={bottom + 43} fill="var(--color-faint)">
                {number(p.ground - p.invert, "spacing")}
              </text>
            </g>
          ))}
          <g fontSize="11" fill="var(--color-faint)" textAnchor="end">
            <text x={left - 8} y={bottom + 17}>
              chainage
            </text>
            <text x={left - 8} y={bottom + 31}>
              invert
            </text>
            <text x={left - 8} y={bottom + 43}>
              cut
            </text>
          </g>
        </svg>
      </Wide>
    </figure>
  );
}
