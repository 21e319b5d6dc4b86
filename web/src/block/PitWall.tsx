import { useEffect, useId, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { hatchOf, soilTone } from "./soilColours";

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
  tried,
  keep,
}: {
  pit: Pit;
  view?: Schema["PitView"];
  crop: string;
  rootCm: number;
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
  const top = crop ? 66 : 30;
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
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${width + 6} ${top + wall + 30}`}
      className="block w-full max-w-[34rem] select-none"
      role="group"
      aria-label={`Wall of the pit ${pit.name}, to scale; the table of layers does the same`}
    >
      <defs>
        <pattern id={`${id}dots`} width="14" height="12" patternUnits="userSpaceOnUse">
          <circle cx="3" cy="3" r="0.9" fill="#6b5537" />
          <circle cx="10" cy="8" r="0.7" fill="#6b5537" />
        </pattern>
        <pattern id={`${id}dashes`} width="26" height="13" patternUnits="userSpaceOnUse">
          <path d="M2 4h6M15 10h7" stroke="#6b5537" strokeWidth="0.9" />
        </pattern>
        <pattern id={`${id}strokes`} width="18" height="14" patternUnits="userSpaceOnUse">
          <path d="M2 12l6-7M11 6l4-5" stroke="#6b5537" strokeWidth="0.8" />
        </pattern>
        <pattern id={`${id}stones`} width="30" height="22" patternUnits="userSpaceOnUse">
          <path d="M4 8l8-4 3 5zM18 18l8-3 1 4z" stroke="#5d4c35" strokeWidth="0.8" fill="none" />
        </pattern>
      </defs>
      {shown.layers.map((l, i) => {
        const wet = ((l.signs as string[] | null) ?? []).some((s) => /grey|smell/.test(s));
        return (
          <g key={i}>
            <rect
              x={left}
              y={y(l.topCm)}
              width={width - left}
              height={y(l.bottomCm) - y(l.topCm)}
              fill={soilTone(l.colour, l.topCm, l.hardness === "rock")}
            />
            {wet && (
              <rect
                x={left}
                y={y(l.topCm)}
                width={width - left}
                height={y(l.bottomCm) - y(l.topCm)}
                fill="#7f8c8a"
                opacity="0.3"
              />
            )}
            <rect
              x={left}
              y={y(l.topCm)}
              width={width - left}
              height={y(l.bottomCm) - y(l.topCm)}
              fill={`url(#${id}${hatchOf(l.class, l.hardness)})`}
              opacity="0.75"
            />
            {((l.signs as string[] | null) ?? []).some((s) => /rust/.test(s)) &&
              Array.from({ length: 16 }, (_, k) => (
                <ellipse
                  key={k}
                  cx={left + 16 + ((k * 97 + i * 41) % (width - left - 40))}
                  cy={y(l.topCm) + 6 + ((k * 53) % Math.max(8, y(l.bottomCm) - y(l.topCm) - 12))}
                  rx="3.4"
                  ry="1.5"
                  fill="#a04a1d"
                  opacity="0.75"
                />
              ))}
            {l.structure === "platy" && (
              <path
                d={Array.from({ length: 9 }, (_, k) => `M${left + 8 + k * 46} ${y((l.topCm + l.bottomCm) / 2)}h34`).join("")}
                stroke="#4a3a24"
                strokeWidth="2"
              />
            )}
          </g>
        );
      })}
      {/* the plant and its roots, as deep as they can go */}
      <path d={`M${left} ${y(0)}H${width}`} stroke="var(--color-ink)" strokeWidth="2" />
      {crop && (
        <g aria-hidden>
          <path d={`M225 ${y(0)}c-2 -14 1 -20 0 -30`} stroke="var(--color-ink)" strokeWidth="3" fill="none" />
          <ellipse cx="225" cy="24" rx="44" ry="20" fill="var(--color-leaf)" stroke="var(--color-growth)" strokeWidth="1.4" />
        </g>
      )}
      <g stroke="var(--color-input)" fill="none" aria-hidden>
        {[-4, -3, -2, -1, 0, 1, 2, 3, 4].map((k) => {
          const d = (y(reach) - y(0)) * (1 - 0.09 * Math.abs(k));
          return (
            <path
              key={k}
              d={`M225 ${y(0)}C${225 + k * 9} ${y(0) + d * 0.3} ${225 + k * 22} ${y(0) + d * 0.5} ${225 + k * 25} ${y(0) + d}`}
              strokeWidth={k === 0 ? 1.8 : 1}
            />
          );
        })}
      </g>
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
