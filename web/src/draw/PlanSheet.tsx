import { useCallback, useMemo } from "react";
import type { Plan, Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { outline } from "./frame";
import { drawLand } from "./landDraw";
import { palette } from "./palette";
import { drawBeside, drawClones, drawObstacles, drawRows, drawShelter, roleColours } from "./rowsDraw";
import { Surface, type Frame, type Layer } from "./Surface";

/** The block to scale as a surveyor would draw it: boundary, rows and stations. */
export function PlanSheet({
  plan,
  season,
  height = 400,
  land,
  sketch,
  pick,
}: {
  plan: Plan;
  season: number;
  height?: number;
  land?: Schema["Drawing"] | null;
  sketch?: number[][]; // what is being drawn, on the block's plane
  pick?: (at: number[]) => void; // while something is drawn: each press hands over its place
}) {
  const { text } = useReading();
  const rings = plan.ground.rings as [number, number][][];
  const year =
    plan.years.find((y) => y.season === season) ?? (season < (plan.years[0]?.season ?? 0) ? undefined : plan.years.at(-1));
  const layers = useMemo<Layer[]>(
    () => [
      ...(land ? [{ id: "land", name: "lie of the land" }] : []),
      ...(plan.rows.length ? [{ id: "rows", name: "rows" }] : []),
      ...(plan.beside.length ? [{ id: "beside", name: "beside and over the rows" }] : []),
      ...(plan.obstacles.length ? [{ id: "obstacles", name: "what takes no plants" }] : []),
    ],
    [land, plan.rows.length, plan.beside.length, plan.obstacles.length],
  );
  const paint = useCallback(
    (c: CanvasRenderingContext2D, v: Frame, shown: (layer: string) => boolean) => {
      outline(c, rings, v);
      c.fillStyle = palette.soil;
      c.fill("evenodd");
      if (land && shown("land")) drawLand(c, land, v, (m) => text(m, "height"));
      if (shown("beside")) {
        c.save();
        outline(c, rings, v);
        c.clip("evenodd");
        drawShelter(c, plan.beside, v);
        c.restore();
      }
      if (shown("rows")) drawRows(c, plan, v, v.width, v.height, year);
      if (shown("beside")) drawBeside(c, plan.beside, v, v.width, v.height, year?.age ?? 1);
      if (shown("rows")) drawClones(c, plan, v);
      if (shown("obstacles")) drawObstacles(c, plan.obstacles, v);
      outline(c, rings, v);
      c.strokeStyle = palette.ink;
      c.lineWidth = 1.8;
      c.stroke();
      if (!sketch?.length) return;
      const [X, Y] = [(x: number) => v.x + x * v.k, (y: number) => v.y - y * v.k];
      c.strokeStyle = c.fillStyle = palette.decide;
      c.lineWidth = 1.6;
      c.beginPath();
      sketch.forEach((p, i) => (i ? c.lineTo(X(p[0]!), Y(p[1]!)) : c.moveTo(X(p[0]!), Y(p[1]!))));
      c.stroke();
      for (const p of sketch) c.fillRect(X(p[0]!) - 3, Y(p[1]!) - 3, 6, 6);
    },
    [plan, rings, year, land, text, sketch],
  );
  return (
    <Surface
      label={`Plan of ${plan.name} to scale: ${plan.rows.length} pieces of row`}
      points={rings[0]!}
      height={height}
      layers={layers}
      paint={paint}
      pick={pick}
    />
  );
}

/** What the marks mean; those on this sheet only. */
export function PlanKey({ plan, season }: { plan: Plan; season: number }) {
  const roles = new Set(plan.rows.flatMap((r) => [...(r.roles ?? "m")]));
  const label = (age: number) => (age ? plan.years[age - 1]?.label : "");
  const y = plan.years.find((x) => x.season === season);
  return (
    <ul className="text-sm">
      <li className="flex items-center gap-2">
        <span className="inline-block h-3 w-3 rounded-full border border-growth bg-leaf" /> stays
      </li>
      {roles.has("p") && (
        <li className="flex items-center gap-2">
          <span className="inline-block h-3 w-3 rounded-full border border-straw bg-sand" /> pollinizer
        </li>
      )}
      {roles.has("k") && (
        <li className="flex items-center gap-2">
          <span className="inline-block h-3 w-3 rounded-full border border-ink bg-growth" /> sprout of a stump
        </li>
      )}
      {roles.has("t") && (
        <li className="flex items-center gap-2">
          <span className="inline-block h-3 w-3 rounded-full border border-dashed border-faint" /> comes out{" "}
          {[...new Set([label(plan.outAge), label(plan.laterAge)])].filter(Boolean).join(", then ")}
        </li>
      )}
      {plan.beside
        .filter((b) => b.stations > 0)
        .map((b) => (
          <li key={b.id} className="flex items-center gap-2">
            <span
              className="inline-block h-3 w-3 shrink-0 rounded-full border"
              style={{ background: roleColours[b.role]?.[0], borderColor: roleColours[b.role]?.[1] }}
            />
            {b.name}
            {b.fromYear > 1 || b.toYear > 0 ? (
              <span className="text-faint">
                year {Math.max(1, b.fromYear)}
                {b.toYear > 0 ? ` to ${b.toYear}` : " on"}
              </span>
            ) : null}
          </li>
        ))}
      {plan.beside.some((b) => b.shelter.length > 0) && (
        <li className="flex items-center gap-2">
          <span className="inline-block h-3 w-3 bg-water/20" /> sheltered
        </li>
      )}
      {y && <li className="text-faint">canopies as in {y.label}</li>}
    </ul>
  );
}
