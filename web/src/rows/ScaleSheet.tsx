import type { Plan, Schema } from "../api/client";
import { place } from "../drains/types";
import { useReading } from "../shell/reading";
import { palette } from "../draw/palette";

const scales = [100, 200, 250, 500, 750, 1000, 1250, 1500, 2000, 2500, 4000, 5000, 7500, 10000, 20000];
export const papers = { A4: [180, 240], A3: [267, 380] } as const;

/** The rows drawn to a round scale in millimetres of paper, to be measured on: boundary, base line, every row and its number. */
export function ScaleSheet({ plan, base, paper }: { plan: Plan; base: Schema["RowBase"]; paper: keyof typeof papers }) {
  const { text } = useReading();
  const rings = plan.ground.rings as [number, number][][];
  const xs = rings[0]!.map((p) => p[0]);
  const ys = rings[0]!.map((p) => p[1]);
  const pad = 6;
  const [x0, x1, y0, y1] = [Math.min(...xs) - pad, Math.max(...xs) + pad, Math.min(...ys) - pad, Math.max(...ys) + pad];
  const [w, h] = papers[paper];
  const one = scales.find((s) => ((x1 - x0) * 1000) / s <= w && ((y1 - y0) * 1000) / s <= h) ?? scales.at(-1)!;
  const mm = 1000 / one; // of paper for a metre
  const line = one / 1000; // a millimetre of paper, m
  const from = place(plan, base.from);
  const to = place(plan, base.to);
  const every = Math.max(1, Math.ceil((6 * line) / Math.max(plan.spec.rowSpacingM, 0.1)));
  const ring = (r: [number, number][]) => `M${r.map(([x, y]) => `${x.toFixed(2)} ${(-y).toFixed(2)}`).join("L")}Z`;
  const rowOf = (r: Schema["RowPiece"]) =>
    `M${r.x.toFixed(2)} ${(-r.y).toFixed(2)}l${(r.dx * (r.n - 1)).toFixed(2)} ${(-r.dy * (r.n - 1)).toFixed(2)}`;
  return (
    <figure className="keep my-3">
      <svg
        width={`${((x1 - x0) * mm).toFixed(1)}mm`}
        height={`${((y1 - y0) * mm).toFixed(1)}mm`}
        viewBox={`${x0} ${-y1} ${x1 - x0} ${y1 - y0}`}
        role="img"
        aria-label={`Rows of ${plan.name} at 1 to ${one}`}
        style={{ maxWidth: "100%", height: "auto" }}
        className="print:!max-w-none"
      >
        <path d={rings.map(ring).join("")} fill="none" stroke={palette.ink} strokeWidth={0.4 * line} fillRule="evenodd" />
        <path d={plan.rows.map(rowOf).join("")} stroke={palette.growth} strokeWidth={0.25 * line} />
        {plan.beside.map((b) => (
          <path key={b.id} d={b.rows.map(rowOf).join("")} stroke={palette.straw} strokeWidth={0.2 * line} />
        ))}
        {plan.obstacles.map((o) => (
          <path
            key={o.id}
            d={`M${o.points.map((p) => `${p[0]!.toFixed(2)} ${(-p[1]!).toFixed(2)}`).join("L")}${o.area ? "Z" : ""}`}
            fill={o.area ? "#8a7f6e55" : "none"}
            stroke={palette.ink}
            strokeWidth={0.3 * line}
          />
        ))}
        <path
          d={`M${from[0]} ${-from[1]!}L${to[0]} ${-to[1]!}`}
          stroke={palette.decide}
          strokeWidth={0.7 * line}
          strokeDasharray={`${3 * line} ${1.5 * line}`}
        />
        {plan.rows
          .filter((r) => r.station === 1 && r.row % every === 0)
          .map((r) => (
            <text key={`${r.row}.${r.x}`} x={r.x} y={-r.y} fontSize={2.4 * line} textAnchor="middle" fill={palette.ink}>
              {r.row}
            </text>
          ))}
      </svg>
      <figcaption className="text-sm">
        1 : {one.toLocaleString("en").replaceAll(",", "\u202f")} on {paper} when it is printed at its own size; one centimetre of
        paper is {text(one / 100, "distance")}. The broken line is the base line.
      </figcaption>
    </figure>
  );
}
