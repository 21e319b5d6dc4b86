import { useEffect, useId, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { SoilHatches, SoilLayers } from "./SoilLayers";

type Pit = Schema["Pit"];

const left = 58;
const wall = 330; // height of the wall in the drawing
const width = 470;

/** moved is a pit with boundary i (the bottom of layer i) at cm, the layers beside it following. */
function moved(pit: Pit, i: number, cm: number): Pit {
  const layers = pit.layers.map((l) => ({ ...l }));
  const a = layers[i]!;
  const b = layers[i + 1];
  const most = b ? b.bottomCm - 2 : 300;
  a.bottomCm = Math.round(Math.min(most, Math.max(a.topCm + 2, cm)));
  if (b) b.topCm = a.bottomCm;
  return { ...pit, layers };
}

/**
 * The face of an inspection pit to scale. Layer boundaries and the water can be dragged, or moved with the
 * arrow keys; try answers while it moves, keep makes one change.
 */
export function PitWall({
  pit,
  view,
  crop,
  rootCm,
  drains,
  tried,
  keep,
}: {
  pit: Pit;
  view?: Schema["PitView"];
  crop: string;
  rootCm: number;
  drains?: Schema["DrainPlan"]; // drawn where they are designed
  tried: (p: Pit) => void;
  keep: (p: Pit) => void;
}) {
  const { text, system } = useReading();
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<Pit>();
  const id = useId();
  const shown = held ?? pit;
  const bottom = shown.layers.at(-1)!.bottomCm;
  const span = Math.max(120, Math.ceil((pit.layers.at(-1)!.bottomCm + 10) / 20) * 20);
  const bed = drains?.bed && !drains.bed.refused ? drains.bed : undefined;
  const bedCm = bed ? 100 * (bed.aboveM + bed.bed.crownM) : 0;
  const top = (crop ? 66 : 30) + (bedCm / span) * wall;
  const y = (cm: number) => top + (cm / span) * wall;
  const cmAt = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    return (((e.clientY - box.top) * (top + wall + 30)) / box.height - top) * (span / wall);
  };
  useEffect(() => setHeld(undefined), [pit]);

  const handle = (label: string, cm: number, move: (cm: number) => Pit, tone: string, words: string) => {
    const step = (e: KeyboardEvent) => {
      const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[e.key];
      if (!by) return;
      e.preventDefault();
      e.stopPropagation();
      const next = move(cm + by);
      setHeld(next);
      tried(next);
    };
    return (
      <g
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={span}
        aria-valuenow={Math.round(cm)}
        aria-valuetext={text(cm, "depth")}
        aria-orientation="vertical"
        className="cursor-ns-resize"
        style={{ touchAction: "none" }}
        onKeyDown={step}
        onKeyUp={() => held && keep(held)}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          e.preventDefault();
        }}
        onPointerMove={(e) => {
          if (!(e.buttons & 1)) return;
          const next = move(Math.round(Math.max(0, Math.min(span, cmAt(e)))));
          setHeld(next);
          tried(next);
        }}
        onPointerUp={() => held && keep(held)}
      >
        <rect x={left} y={y(cm) - 8} width={width - left} height={16} fill="transparent" />
        <path d={`M${left} ${y(cm)}H${width}`} stroke={tone} strokeWidth="1.4" />
        <rect
          x={width - 34}
          y={y(cm) - 4}
          width="26"
          height="8"
          rx="4"
          fill="var(--color-paper)"
          stroke={tone}
          strokeWidth="1.2"
        />
        <title>{words}</title>
      </g>
    );
  };

  const ticks = [];
  const unit = system === "us" ? 25.4 : 10;
  for (let cm = 0; cm <= span; cm += unit) ticks.push(cm);
  const reach = Math.min(rootCm, view?.effectiveCm ?? bottom, bottom);
  const table = drains?.network && drains.season.length > 0 && !bed ? drains.season.at(-1)! : undefined; // by the design discharge
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${width + 6} ${top + wall + 30}`}
      className="block w-full max-w-[34rem] select-none"
      role="group"
      aria-label={`Wall of the pit ${pit.name}, to scale; the table of layers does the same`}
    >
      <SoilHatches id={id} />
      <SoilLayers id={id} layers={shown.layers} left={left} width={width - left} y={y} />
      {/* the bed, the plant on it and its roots, as deep as they can go */}
      {bed && (
        <g>
          <path d={`M60 ${y(0)}L150 ${y(-bedCm)}H300L390 ${y(0)}Z`} fill="#b59a72" stroke="var(--color-ink)" strokeWidth="2" />
          <text x={width - 4} y={y(-bedCm) - 6} textAnchor="end" fontSize="12.5" fontWeight="600" fill="var(--color-growth)">
            bed: {text(100 * bed.riseM, "depth")} more root room
          </text>
        </g>
      )}
      <path d={`M${left} ${y(0)}H${width}`} stroke="var(--color-ink)" strokeWidth="2" />
      {crop && (
        <g aria-hidden>
          <path d={`M225 ${y(-bedCm)}c-2 -14 1 -20 0 -30`} stroke="var(--color-ink)" strokeWidth="3" fill="none" />
          <ellipse cx="225" cy="24" rx="44" ry="20" fill="var(--color-leaf)" stroke="var(--color-growth)" strokeWidth="1.4" />
        </g>
      )}
      <g stroke="var(--color-input)" fill="none" aria-hidden>
        {[-4, -3, -2, -1, 0, 1, 2, 3, 4].map((k) => {
          const d = (y(reach) - y(-bedCm)) * (1 - 0.09 * Math.abs(k));
          return (
            <path
              key={k}
              d={`M225 ${y(-bedCm)}C${225 + k * 9} ${y(-bedCm) + d * 0.3} ${225 + k * 22} ${y(-bedCm) + d * 0.5} ${225 + k * 25} ${y(-bedCm) + d}`}
              strokeWidth={k === 0 ? 1.8 : 1}
            />
          );
        })}
      </g>
      {drains?.network && !bed && drains.depthM * 100 < span && (
        <g pointerEvents="none">
          {[left + 22, width - 64].map((cx) => (
            <g key={cx}>
              <path d={`M${cx - 9} ${y(0)}V${y(100 * drains.depthM)}h18V${y(0)}`} fill="#b8a888" opacity="0.6" />
              <circle
                cx={cx}
                cy={y(100 * drains.depthM) - 7}
                r="7"
                fill="var(--color-paper)"
                stroke="var(--color-ink)"
                strokeWidth="2"
              />
            </g>
          ))}
          <text x={left + 36} y={y(100 * drains.depthM) - 3} fontSize="12.5" fontWeight="600" fill="var(--color-ink)">
            drain: {text(100 * drains.depthM, "depth")}
          </text>
          {table && (
            <>
              <path
                d={table.depths
                  .map(
                    (m, i) =>
                      `${i ? "L" : "M"}${left + 22 + (i / (table.depths.length - 1)) * (width - 86 - left)} ${y(100 * m)}`,
                  )
                  .join("")}
                fill="none"
                stroke="var(--color-water)"
                strokeWidth="2"
                strokeDasharray="3 4"
              />
              <text
                x={(left + width - 42) / 2}
                y={y(100 * table.midM) - 5}
                textAnchor="middle"
                fontSize="12.5"
                fontWeight="600"
                fill="#1d4a6d"
              >
                water table drained: {text(100 * table.midM, "depth")}
              </text>
            </>
          )}
        </g>
      )}
      {view && view.rootCm > view.effectiveCm && view.limiting && (
        <g>
          <path
            d={`M${left} ${y(view.effectiveCm)}H${width}`}
            stroke="var(--color-decide)"
            strokeWidth="1.6"
            strokeDasharray="2 5"
          />
          <text x={left + 6} y={y(view.effectiveCm) - 5} fontSize="12.5" fill="var(--color-decide)" fontWeight="600">
            roots stop: {view.limiting}, {text(view.effectiveCm, "depth")}
          </text>
        </g>
      )}
      {ticks.map((cm) => (
        <g key={cm}>
          <path d={`M${left - (cm % (unit * 5) === 0 ? 9 : 5)} ${y(cm)}H${left}`} stroke="var(--color-ink)" strokeWidth="1" />
          {cm % (unit * 5) < 0.01 && (
            <text x={left - 12} y={y(cm) + 4} textAnchor="end" fontSize="12.5" fill="var(--color-faint)">
              {text(cm, "depth")}
            </text>
          )}
        </g>
      ))}
      {shown.layers.map((l, i) => (
        <g key={"h" + i}>
          {handle(
            `Bottom of layer ${i + 1}`,
            l.bottomCm,
            (cm) => moved(shown, i, cm),
            "var(--color-ink)",
            "Drag, or focus and use the arrow keys",
          )}
        </g>
      ))}
      {shown.waterCm > 0 && (
        <g>
          {handle(
            "Water standing in the pit",
            shown.waterCm,
            (cm) => ({ ...shown, waterCm: Math.max(1, cm) }),
            "var(--color-water)",
            "Water standing after a day",
          )}
          <path
            d={`M${left} ${y(shown.waterCm)}` + "q10 -4 20 0t20 0".repeat(Math.floor((width - left) / 40))}
            stroke="var(--color-water)"
            strokeWidth="2"
            fill="none"
            pointerEvents="none"
          />
          <text x={left + 8} y={y(shown.waterCm) + 16} fontSize="12.5" fill="var(--color-water)" fontWeight="600">
            water: {text(shown.waterCm, "depth")}
          </text>
        </g>
      )}
      {view?.wetness.seen && Math.abs(view.wetness.depthCm - (view.limiting === "waterlogging" ? view.effectiveCm : -99)) > 1 && (
        <g pointerEvents="none">
          <path
            d={`M${left} ${y(view.wetness.depthCm) + 1}H${width}`}
            stroke="var(--color-water)"
            strokeWidth="1.4"
            strokeDasharray="7 5"
          />
          <text x={width - 44} y={y(view.wetness.depthCm) + 15} textAnchor="end" fontSize="12.5" fill="#1d4a6d" fontWeight="600">
            signs of wetness from {text(view.wetness.depthCm, "depth")}
          </text>
        </g>
      )}
    </svg>
  );
}
