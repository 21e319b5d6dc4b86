import { dated } from "./draft";
import { useRef } from "react";
import type { Plan } from "../api/client";
import { dayNumber, day, fromDayNumber } from "../units";
import type { Draft } from "./draft";
import { stands } from "./paths";
import { groundY, topY } from "./groundAxes";

export function PlumbLabel({ x, width, text }: { x: number; width: number; text: string }) {
  const w = text.length * 7.2 + 14;
  const at = Math.min(width - w - 2, Math.max(190, x - w / 2));
  return (
    <g>
      <rect x={at} y={2} width={w} height={20} fill="var(--color-paper)" stroke="var(--color-ink)" />
      <text x={at + w / 2} y={16} textAnchor="middle" fontSize="13" fontWeight="600" fill="var(--color-ink)">
        {text}
      </text>
    </g>
  );
}

export const jobOn = (plan: Plan, key: string) => plan.jobs.find((j) => j.key === key)?.from;

/** The planting date stands on the line; before planting it can be dragged, and everything answers. */
export function PlantingFlag({
  x,
  plan,
  date,
  draft,
  perDay,
}: {
  x: number;
  plan: Plan;
  date: string;
  draft: Draft;
  perDay: number;
}) {
  const drag = useRef<{ at: number; from: number; to: string }>(null);
  const free = !stands(plan);
  const shown = jobOn(plan, "plant") ?? date;
  return (
    <g
      className={free ? "cursor-ew-resize" : ""}
      onPointerDown={(e) => {
        if (!free) return;
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { at: e.clientX, from: dayNumber(date), to: date };
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (!d) return;
        e.stopPropagation();
        d.to = fromDayNumber(d.from + (e.clientX - d.at) / perDay);
        void draft.ask({ planting: { date: d.to } }, dated);
      }}
      onPointerUp={() => {
        const d = drag.current;
        drag.current = null;
        if (d && d.to !== date) void draft.commit({ planting: { date: d.to } }, `Planting moved to ${day(d.to)}`);
      }}
    >
      <path d={`M${x} ${groundY}V${topY + 18}`} stroke="var(--color-growth)" strokeWidth="1.6" />
      <path d={`M${x} ${topY + 4}h62v16h-62Z`} fill="var(--color-paper)" stroke="var(--color-growth)" />
      <text x={x + 5} y={topY + 16} fontSize="12.5" fontWeight="600" fill="var(--color-growth)">
        {free ? "plant ↔" : "planted"}
      </text>
      <title>{free ? `Planting planned for ${day(shown)}: drag to move it` : `Planted ${day(date)}`}</title>
    </g>
  );
}
