import { useId, useState } from "react";
import { useParams } from "react-router";
import { useEstate, useLand, usePlan, type Plan } from "../api/client";
import { DrainBill, Laying } from "../drains/Bill";
import { DrainLines } from "../drains/DrainSheet";
import { LongSection } from "../drains/LongSection";
import { whole, wholes, type XY } from "../drains/types";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { Busy, Trouble } from "../shell/States";
import { day } from "../units";
import { PrintBar } from "./PrintBar";
import { toBlock } from "../block/paths";

const scales = [250, 500, 1000, 1500, 2000, 2500, 5000];
const paper = { wide: 180, high: 215 }; // mm that a page of A4 leaves

/** The drains on paper: the plan to a stated scale, long sections, the bill and the order of the work. */
export default function DrainsPage() {
  const { id = "" } = useParams();
  const plan = usePlan(id);
  const estate = useEstate();
  const { text } = useReading();
  const [all, setAll] = useState(false);
  if (plan.isPending) return <Busy what="Setting the pages" />;
  if (plan.error) return <Trouble error={plan.error} />;
  const p = plan.data;
  const d = p.drains;
  const n = d.network;
  const laterals = n?.laterals ?? [];
  return (
    <article className="mx-auto max-w-[190mm] px-4 py-4 print:max-w-none print:p-0">
      <PrintBar back={toBlock(id, "drains")}>
        {laterals.length > 4 && (
          <label className="text-sm">
            <input type="checkbox" checked={all} onChange={(e) => setAll(e.target.checked)} /> a section of every lateral (
            {laterals.length})
          </label>
        )}
        <span className="text-sm text-faint">Print at 100 %, not fitted to the page: then the scale holds.</span>
      </PrintBar>
      <header className="flex items-baseline justify-between border-b-2 border-ink pb-1">
        <h1>Drains of {p.name}</h1>
        <span>
          {estate.data?.estate.name}, {day(p.today, true)}
        </span>
      </header>
      {!n && !d.cut ? (
        <p className="mt-3">No drains are designed on this block.</p>
      ) : (
        <>
          <p className="mt-1">
            {d.remedies.find((r) => r.id === d.taken)?.name}
            {n && !d.bed && `; ${text(d.depthM, "spacing")} deep`}
            {n && n.spacingM > 0 && laterals.length > 0 && `, ${text(n.spacingM, "spacing")} apart`}; heights known to ±{" "}
            {text(d.accuracyM, "spacing")}
            {d.accuracyM > 0.05 && <b>: good enough to choose, not to dig. Have the lines levelled first</b>}.
          </p>
          <ScaledPlan plan={p} id={id} />
          {[
            ...wholes(n, "Collector"),
            ...wholes(d.cut, d.taken === "diversion" ? "Ditch above the block" : "Interceptor"),
            ...(all ? laterals : longest(laterals, 4)).map((l) => whole(n!, l)),
          ].map((w) => (
            <LongSection key={w.name} {...w} paper />
          ))}
          <h2 className="mt-5">Bill of quantities</h2>
          <DrainBill drains={d} />
          <Laying drains={d} />
        </>
      )}
    </article>
  );
}

function longest<T extends { lengthM: number; joins: number }>(of: T[], n: number): T[] {
  return [...of]
    .sort((a, b) => b.lengthM - a.lengthM)
    .slice(0, n)
    .sort((a, b) => a.joins - b.joins);
}

/** The plan at the largest round scale that fits the page, in true millimetres. */
function ScaledPlan({ plan, id }: { plan: Plan; id: string }) {
  const land = useLand(id);
  const key = useId();
  const ring = plan.ground.rings[0] as XY[];
  const pts = [...ring, ...((plan.drains.network?.line ?? []) as XY[]), ...((plan.drains.cut?.line ?? []) as XY[])];
  const xs = pts.map((q) => q[0]!);
  const ys = pts.map((q) => q[1]!);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = scales.find((s) => ((x1 - x0) * 1000) / s < paper.wide - 10 && ((y1 - y0) * 1000) / s < paper.high - 12) ?? 10000;
  const mm = 1000 / scale; // of paper for each metre
  const w = (x1 - x0) * mm + 10;
  const h = (y1 - y0) * mm + 14;
  const unit = 4; // drawing units for each mm, so that strokes keep their weight
  const X = (x: number) => (5 + (x - x0) * mm) * unit;
  const Y = (y: number) => (5 + (y1 - y) * mm) * unit;
  const bar = [200, 100, 50, 20, 10].find((m) => m * mm < w / 3) ?? 10;
  return (
    <figure className="keep mt-2">
      <Wide label="Plan to scale">
        <svg
          viewBox={`0 0 ${w * unit} ${h * unit}`}
          style={{ width: `${w}mm`, height: `${h}mm` }}
          role="img"
          aria-label={`Plan of the drains at 1 to ${scale}`}
        >
          <DrainLines plan={plan} land={land.data} X={X} Y={Y} id={key} />
          {plan.drains.network?.mains.slice(1).map((m) => {
            const [x, y] = m.points[Math.floor(m.points.length / 2)]!;
            return (
              <text key={m.id} x={X(x!) + 6} y={Y(y!) - 4} fontSize="11" fontWeight="700" fill="var(--color-ink)">
                {m.id}
              </text>
            );
          })}
          {plan.drains.network?.laterals.map((l) => {
            const [a, b] = [l.points.at(-2)!, l.points.at(-1)!];
            return (
              <text
                key={l.id}
                x={X(a[0]! * 0.15 + b[0]! * 0.85)}
                y={Y(a[1]! * 0.15 + b[1]! * 0.85) - 2}
                fontSize="8"
                textAnchor="middle"
                fill="var(--color-ink)"
              >
                {l.id}
              </text>
            );
          })}
          <path
            d={`M${5 * unit} ${(h - 5) * unit}v8m0 -4h${bar * mm * unit}m0 -4v8`}
            stroke="var(--color-ink)"
            strokeWidth="1.5"
            fill="none"
          />
          <text x={(7 + bar * mm) * unit} y={(h - 3) * unit} fontSize="12">
            {bar} m, 1 : {scale}
          </text>
          <g transform={`translate(${(w - 8) * unit} 4)`}>
            <text x="14" y="12" textAnchor="middle" fontSize="12" fontWeight="700">
              N
            </text>
            <path d="M14 15L21 39L14 33L7 39Z" />
          </g>
        </svg>
      </Wide>
      <figcaption className="text-sm text-faint">
        1 : {scale}. Black: collector and branches, by size; blue: laterals; brown broken: interceptor; squares: inspection pits
        with silt traps; hatched: reached by no drain; crosses: see the findings of the block.
      </figcaption>
    </figure>
  );
}
