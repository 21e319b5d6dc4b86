import { useState } from "react";
import { scaleLinear } from "d3-scale";
import { area, curveMonotoneX, line } from "d3-shape";
import type { Schema } from "../api/client";
import { Pick } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { shownAs } from "./shown";

type Life = Schema["LifeLine"];

const W = 900;
const H = 190;
const GROUND = 118;

/** The life of a crop on a ground line: what comes out above it, what is begun or comes back every few years below. */
export function LifeDrawing({ lives }: { lives: Life[] }) {
  const usual = lives.find((l) => l.usual) ?? lives[0]!;
  const [id, choose] = useState(usual.layout);
  const [age, read] = useState<number>();
  const { text } = useReading();
  const life = lives.find((l) => l.layout === id) ?? usual;
  const q = shownAs(life.shownAs);
  const n = life.years.length;
  const x = scaleLinear([0.5, n + 0.5], [8, W - 8]);
  const top = Math.max(...life.years.map((y) => y.perHa.high), 1e-9);
  const y = scaleLinear([0, top], [GROUND, 14]);
  const band = area<Life["years"][number]>()
    .x((d) => x(d.age))
    .y0((d) => y(d.perHa.low))
    .y1((d) => y(d.perHa.high))
    .curve(curveMonotoneX)(life.years);
  const base = line<Life["years"][number]>()
    .x((d) => x(d.age))
    .y((d) => y(d.perHa.base))
    .curve(curveMonotoneX)(life.years);
  const at = life.years.find((v) => v.age === age) ?? life.years[(life.full || 1) - 1] ?? life.years[0]!;
  const move = (by: number) => read(Math.min(n, Math.max(1, at.age + by)));
  const every = Math.max(1, Math.ceil(n / 18));
  return (
    <section aria-label="The life of the crop" className="mt-3">
      <div className="flex flex-wrap items-end gap-x-5 gap-y-1">
        {lives.length > 1 && (
          <Pick
            label="Planted as"
            value={id}
            options={lives.map((l) => ({ id: l.layout, words: l.system ? `${l.system}: ${l.name}` : l.name }))}
            keep={(v) => {
              choose(v);
              read(undefined);
            }}
          />
        )}
        <p className="text-sm">
          <b>Age year {at.age}</b>:{" "}
          {at.perHa.base > 0
            ? `${text(at.perHa.base, q)} (${text(at.perHa.low, q)} to ${text(at.perHa.high, q)}) of ${life.product}`
            : `no ${life.product}`}
          {at.work.length > 0 && (
            <span className="text-faint">
              ; {at.work.slice(0, 3).join("; ")}
              {at.work.length > 3 && " …"}
            </span>
          )}
        </p>
      </div>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full"
        role="slider"
        tabIndex={0}
        aria-label="Age year read off"
        aria-valuemin={1}
        aria-valuemax={n}
        aria-valuenow={at.age}
        aria-valuetext={`age year ${at.age}, ${text(at.perHa.base, q)}`}
        onKeyDown={(e) => {
          const by = { ArrowLeft: -1, ArrowRight: 1, Home: -n, End: n }[e.key];
          if (by === undefined) return;
          e.preventDefault();
          move(by);
        }}
        onPointerMove={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          read(Math.min(n, Math.max(1, Math.round(x.invert(((e.clientX - box.left) / box.width) * W)))));
        }}
      >
        {n > 1 ? (
          <>
            <path d={band ?? ""} className="fill-leaf" />
            <path d={base ?? ""} className="fill-none stroke-growth" strokeWidth={2} />
          </>
        ) : (
          <rect
            x={x(1) - 30}
            width={60}
            y={y(at.perHa.base)}
            height={GROUND - y(at.perHa.base)}
            className="fill-leaf stroke-growth"
          />
        )}
        <line x1={0} x2={W} y1={GROUND} y2={GROUND} className="stroke-ink" strokeWidth={1.5} />
        {life.years.map((v) => (
          <g key={v.age}>
            {(v.age === 1 || v.age % every === 0 || v.age === n) && (
              <text x={x(v.age)} y={GROUND + 14} textAnchor="middle" className="fill-faint text-[11px]">
                {v.age}
              </text>
            )}
            {v.work.map((w, i) => (
              <line
                key={w}
                x1={x(v.age) + i * 1.5}
                x2={x(v.age) + i * 1.5}
                y1={GROUND + 20}
                y2={GROUND + 26 + Math.min(40, 6 * v.work.length)}
                className="stroke-input"
              />
            ))}
          </g>
        ))}
        <line x1={x(at.age)} x2={x(at.age)} y1={6} y2={H - 8} className="stroke-decide" strokeDasharray="2 3" />
        {life.first > 0 && n > 1 && (
          <>
            <line x1={x(life.first)} x2={x(life.first)} y1={16} y2={GROUND} className="stroke-line" />
            <text x={x(life.first) + 4} y={20} className="fill-ink text-[12px]">
              first crop, year {life.first}
            </text>
          </>
        )}
        <text x={4} y={H - 4} className="fill-faint text-[11px]">
          age years; below the line what begins or comes back every few years
        </text>
      </svg>
    </section>
  );
}
