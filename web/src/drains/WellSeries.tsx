import { useState } from "react";
import type { Schema } from "../api/client";
import { DayField, NumberField } from "../shell/Fields";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { day, dayNumber } from "../units";

type Well = Schema["Well"];

/** One more reading of a well. */
export function NewReading({ today, add }: { today: string; add: (r: { on: string; waterCm: number }) => void }) {
  const [on, setOn] = useState(today);
  return (
    <div className="mt-2 flex flex-wrap items-end gap-2">
      <DayField label="Read on" value={on} keep={setOn} />
      <NumberField
        key={on}
        label="Water at"
        quantity="depth"
        width="w-16"
        value={undefined}
        keep={(v) => v !== undefined && add({ on, waterCm: v })}
      />
    </div>
  );
}

/** The readings of a well through time, the surface on top. */
export function WellSeries({ well, criterionM }: { well: Well; criterionM: number }) {
  const { text } = useReading();
  const r = well.readings;
  if (r.length === 0) return <p className="text-sm text-faint">No reading yet.</p>;
  const a = dayNumber(r[0]!.on);
  const b = Math.max(a + 30, dayNumber(r.at(-1)!.on));
  const x = (on: string) => 60 + ((dayNumber(on) - a) / (b - a)) * 500;
  const y = (cm: number) => 22 + (cm / well.depthCm) * 150;
  const ticks = [0, 0.25, 0.5, 0.75, 1].map((f) => f * well.depthCm);
  return (
    <Wide label={`Readings of ${well.name}`}>
      <svg
        viewBox="0 0 600 205"
        className="block w-full min-w-[32rem]"
        role="img"
        aria-label={`Water in ${well.name} through the year, ${r.length} readings`}
      >
        <rect x="60" y={y(0)} width="500" height={150} fill="var(--color-soil)" />
        {ticks.map((cm) => (
          <g key={cm}>
            <path d={`M54 ${y(cm)}H60`} stroke="var(--color-ink)" />
            <text x="50" y={y(cm) + 4} textAnchor="end" fontSize="12.5" fill="var(--color-faint)">
              {text(cm, "depth")}
            </text>
          </g>
        ))}
        <path d="M60 22H560" stroke="var(--color-ink)" strokeWidth="2" />
        {criterionM * 100 < well.depthCm && (
          <g>
            <path d={`M60 ${y(criterionM * 100)}H560`} stroke="var(--color-growth)" strokeWidth="1.4" strokeDasharray="7 5" />
            <text x="556" y={y(criterionM * 100) - 4} textAnchor="end" fontSize="12.5" fill="var(--color-growth)">
              asked for
            </text>
          </g>
        )}
        <path
          d={r.map((p, i) => `${i ? "L" : "M"}${x(p.on)} ${y(p.waterCm)}`).join("")}
          fill="none"
          stroke="var(--color-water)"
          strokeWidth="2"
        />
        {r.map((p) => (
          <g key={p.on}>
            <circle
              cx={x(p.on)}
              cy={y(p.waterCm)}
              r="4"
              fill={p.waterCm >= well.depthCm ? "var(--color-paper)" : "var(--color-water)"}
              stroke="var(--color-water)"
              strokeWidth="1.6"
            />
            <title>{`${day(p.on)}: ${p.waterCm >= well.depthCm ? "dry" : text(p.waterCm, "depth")}`}</title>
          </g>
        ))}
        <text x="60" y="198" fontSize="12.5" fill="var(--color-ink)">
          {day(r[0]!.on)}
        </text>
        {r.length > 1 && (
          <text x="560" y="198" fontSize="12.5" textAnchor="end" fill="var(--color-ink)">
            {day(r.at(-1)!.on)}
          </text>
        )}
      </svg>
    </Wide>
  );
}
