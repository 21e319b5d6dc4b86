import type { Schema } from "../api/client";
import { hatchOf, soilTone } from "./soilColours";

/** The hatches of soil drawings, once for each drawing. */
export function SoilHatches({ id }: { id: string }) {
  return (
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
  );
}

/** Layers of a pit as they lie: tone by colour, hatch by texture, grey where they are, rust where it was seen. */
export function SoilLayers({
  id,
  layers,
  left,
  width,
  y,
}: {
  id: string;
  layers: Schema["Layer"][];
  left: number;
  width: number;
  y: (cm: number) => number;
}) {
  return layers.map((l, i) => {
    const signs = (l.signs as string[] | null) ?? [];
    const box = { x: left, y: y(l.topCm), width, height: y(l.bottomCm) - y(l.topCm) };
    return (
      <g key={i}>
        <rect {...box} fill={soilTone(l.colour, l.topCm, l.hardness === "rock")} />
        {signs.some((s) => /grey|smell/.test(s)) && <rect {...box} fill="#7f8c8a" opacity="0.3" />}
        <rect {...box} fill={`url(#${id}${hatchOf(l.class, l.hardness)})`} opacity="0.75" />
        {signs.some((s) => /rust/.test(s)) &&
          Array.from({ length: 16 }, (_, k) => (
            <ellipse
              key={k}
              cx={left + 16 + ((k * 97 + i * 41) % (width - 40))}
              cy={box.y + 6 + ((k * 53) % Math.max(8, box.height - 12))}
              rx="3.4"
              ry="1.5"
              fill="#a04a1d"
              opacity="0.75"
            />
          ))}
        {l.structure === "platy" && (
          <path
            d={Array.from(
              { length: Math.ceil(width / 46) },
              (_, k) => `M${left + 8 + k * 46} ${y((l.topCm + l.bottomCm) / 2)}h34`,
            ).join("")}
            stroke="#4a3a24"
            strokeWidth="2"
          />
        )}
      </g>
    );
  });
}
