import { drained } from "../block/draft";
import { useId, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { StepProps } from "../block/stepProps";
import { SoilHatches, SoilLayers } from "../block/SoilLayers";
import { Pick } from "../shell/Fields";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { left, width, height, top, ticks } from "./TableSection";

export function Section({ plan, doc, draft }: Pick<StepProps, "plan" | "doc" | "draft">) {
  const { text, system } = useReading();
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<number>(); // depth while dragged, m
  const id = useId();
  const d = plan.drains;
  const pit = doc.block.pits![d.soil!.pitAt]!;
  const bed = d.bed && !d.bed.refused ? d.bed : undefined;
  const above = bed ? bed.aboveM + bed.bed.crownM : 0;
  const span = Math.max(1.2, pit.layers.at(-1)!.bottomCm / 100, d.depthM + 0.2, (d.wantedM || 0) + 0.1);
  const scale = height / (span + above);
  const y = (m: number) => top + (m + above) * scale;
  const x = (f: number) => left + 30 + f * (width - left - 60);
  const laid = d.spacingM > 0 || !bed; // beds alone have no drains between them
  const wanted = held ?? (d.wantedM || d.depthM);
  const move = (m: number) => {
    const next = Math.round(Math.max(0.3, Math.min(span, m)) * 100) / 100;
    setHeld(next);
    void draft.ask({ drains: { depthM: next } }, drained);
  };
  const done = () => {
    if (held === undefined) return;
    void draft.commit({ drains: { depthM: held } }, `Drains at ${text(held, "spacing")}`).then(() => setHeld(undefined));
  };
  const at = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    return (((e.clientY - box.top) * (top + height + 34)) / box.height - top) / scale - above;
  };
  const step = (e: KeyboardEvent) => {
    const by = { ArrowDown: 0.01, ArrowUp: -0.01, PageDown: 0.1, PageUp: -0.1 }[e.key];
    if (!by) return;
    e.preventDefault();
    e.stopPropagation();
    move(wanted + by);
  };
  const months = d.season.filter((m) => m.month !== "design");
  const wettest = months.reduce(
    (a, b) => (b.midM < a.midM ? b : a),
    months[0] ?? { midM: 9, month: "", depths: [], recharge: 0 },
  );
  const line = (depths: number[]) => depths.map((m, i) => `${i ? "L" : "M"}${x(i / (depths.length - 1))} ${y(m)}`).join("");
  const design = d.season.find((m) => m.month === "design");
  const drain = (f: number, m: number, real: boolean) => (
    <circle
      cx={x(f)}
      cy={y(m) - 6}
      r="7"
      fill={real ? "var(--color-paper)" : "none"}
      stroke={real ? "var(--color-ink)" : "var(--color-decide)"}
      strokeWidth="2"
      strokeDasharray={real ? undefined : "3 3"}
    />
  );
  return (
    <Wide label="Water table between two drains">
      <svg
        ref={svg}
        viewBox={`0 0 ${width} ${top + height + 34}`}
        className="block w-full max-w-[52rem] min-w-[34rem] select-none"
        role="group"
        aria-label={`The water table between two drains ${d.spacingM ? text(d.spacingM, "spacing") + " apart" : ""}, on the soil of ${d.soil!.pit}`}
      >
        <SoilHatches id={id} />
        <SoilLayers id={id} layers={pit.layers} left={left} width={width - left} y={(cm) => y(cm / 100)} />
        {bed &&
          (() => {
            // beds side by side, as many as lie between two drains; at least three
            const n = Math.max(3, Math.min(14, Math.round((d.spacingM || 3 * bed.bed.centreM) / bed.bed.centreM)));
            const one = (width - left) / n;
            return (
              <g>
                {Array.from({ length: n }, (_, i) => (
                  <g key={i}>
                    <rect x={left + i * one} y={y(0)} width={one} height={y(bed.furrowM) - y(0)} fill="var(--color-paper)" />
                    <path
                      d={bed.outline
                        .map(([bx, bz], k) => `${k ? "L" : "M"}${left + (i + 0.5 + bx! / bed.bed.centreM) * one} ${y(-bz!)}`)
                        .join("")}
                      fill="#b59a72"
                      stroke="var(--color-ink)"
                      strokeWidth="1.6"
                    />
                  </g>
                ))}
              </g>
            );
          })()}
        {!bed && <path d={`M${left} ${y(0)}H${width}`} stroke="var(--color-ink)" strokeWidth="2.2" />}
        {ticks(span, system === "us" ? 0.3048 : 0.25).map((m) => (
          <g key={m}>
            <path d={`M${left - 6} ${y(m)}H${left}`} stroke="var(--color-ink)" />
            <text x={left - 10} y={y(m) + 4} textAnchor="end" fontSize="13" fill="var(--color-faint)">
              {text(m, "spacing")}
            </text>
          </g>
        ))}
        <path
          d={`M${left} ${y(d.criterion.steadyM)}H${width}`}
          stroke="var(--color-growth)"
          strokeWidth="1.6"
          strokeDasharray="9 5"
        />
        <text
          x={width - 6}
          y={y(d.criterion.steadyM) - 5}
          textAnchor="end"
          fontSize="13"
          fontWeight="600"
          fill="var(--color-growth)"
        >
          roots want air to {text(d.criterion.steadyM, "spacing")}
        </text>
        {months.map((m) => (
          <path
            key={m.month}
            d={line(m.depths)}
            fill="none"
            stroke="var(--color-water)"
            strokeWidth={m === wettest ? 2.6 : 1}
            opacity={m === wettest ? 1 : 0.55}
          >
            <title>{`${m.month}: ${text(m.midM, "spacing")} midway`}</title>
          </path>
        ))}
        {design && (
          <path d={line(design.depths)} fill="none" stroke="var(--color-water)" strokeWidth="1.8" strokeDasharray="3 4" />
        )}
        {wettest.month && (
          <text x={x(0.5)} y={y(wettest.midM) + 17} textAnchor="middle" fontSize="13" fontWeight="600" fill="#1d4a6d">
            {wettest.month}: {text(wettest.midM, "spacing")}
          </text>
        )}
        {design && (
          <text x={x(0.5)} y={y(design.midM) - 6} textAnchor="middle" fontSize="13" fill="#1d4a6d">
            {text(d.dischargeMm, "drained")}
          </text>
        )}
        {laid &&
          [0, 1].map((f) => (
            <g key={f}>
              <path d={`M${x(f) - 10} ${y(0)}V${y(d.depthM)}h20V${y(0)}`} fill="#b8a888" opacity="0.55" />
              {drain(f, d.depthM, true)}
              {Math.abs(wanted - d.depthM) > 0.005 && drain(f, wanted, false)}
            </g>
          ))}
        {laid && (
          <g
            role="slider"
            tabIndex={0}
            aria-label="Depth of the drains"
            aria-orientation="vertical"
            aria-valuemin={30}
            aria-valuemax={Math.round(span * 100)}
            aria-valuenow={Math.round(wanted * 100)}
            aria-valuetext={text(wanted, "spacing")}
            className="cursor-ns-resize"
            style={{ touchAction: "none" }}
            onKeyDown={step}
            onKeyUp={done}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              e.preventDefault();
            }}
            onPointerMove={(e) => e.buttons & 1 && move(at(e))}
            onPointerUp={done}
          >
            <rect x={x(0) - 18} y={y(wanted) - 20} width="120" height="30" fill="transparent" />
            <path d={`M${x(0) + 14} ${y(wanted)}h22`} stroke="var(--color-ink)" strokeWidth="1.4" />
            <text x={x(0) + 40} y={y(wanted) + 4} fontSize="13" fontWeight="600" fill="var(--color-ink)">
              {text(wanted, "spacing")}
            </text>
          </g>
        )}
        {d.spacingM > 0 && (
          <g>
            <path
              d={`M${x(0)} ${top + height + 12}H${x(1)}M${x(0)} ${top + height + 7}v10M${x(1)} ${top + height + 7}v10`}
              stroke="var(--color-ink)"
              strokeWidth="1.2"
            />
            <text x={x(0.5)} y={top + height + 29} textAnchor="middle" fontSize="13" fill="var(--color-ink)">
              {text(d.spacingM, "spacing")} between drains
            </text>
          </g>
        )}
      </svg>
    </Wide>
  );
}
