import type { Plan, Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { useWidth } from "../shell/useWidth";
import { palette } from "../draw/palette";
import { roleColours } from "../draw/rowsDraw";
import { type Strip } from "./Strips";

export const nameOf = (plan: Plan, c: Schema["Companion"]) =>
  c.name || plan.beside.find((b) => b.id === c.id)?.name || c.sheet || c.role;

/** The strips as one stands before them: twice, to scale across, plants at their places. */
export function Profile({ plan, strips }: { plan: Plan; strips: Strip[] }) {
  const [box, width] = useWidth(200);
  const { text } = useReading();
  const total = strips.reduce((n, s) => n + s.widthM, 0);
  const k = (width - 8) / (total * 1.5);
  const h = 150;
  const ground = h - 34;
  const roles = new Map(plan.beside.map((b) => [b.id, b]));
  const year = plan.years[Math.min(9, plan.years.length - 1)];
  const main = Math.max(0.4, year?.spreadM ?? 1);
  const tall = Math.max(0.4, year?.heightM ?? main);
  const up = Math.min(k, (ground - 10) / Math.max(tall, 1.5));
  const parts = [-1, 0, 1].flatMap((n) => {
    let left = n * total;
    return strips.map((s) => {
      const at = left;
      left += s.widthM;
      return { ...s, at, again: n !== 0 };
    });
  });
  return (
    <div ref={box} className="mb-2 min-w-0 overflow-hidden">
      <svg
        width={width}
        height={h}
        role="img"
        aria-label={`Strips across the rows: ${strips.map((s) => `${s.name || s.kind} ${text(s.widthM, "spacing")}`).join(", ")}`}
      >
        {parts.map((s, i) => {
          const x = 4 + (s.at + total / 4) * k;
          const w = s.widthM * k;
          const raised = s.kind === "bed" ? 7 : 0;
          const fill = s.kind === "path" ? palette.soil : s.kind === "cover" ? "#dfe3c0" : palette.sand;
          return (
            <g key={i} opacity={s.again ? 0.55 : 1}>
              <path
                d={`M${x} ${ground} L${x + Math.min(4, w / 6)} ${ground - raised} H${x + w - Math.min(4, w / 6)} L${x + w} ${ground} V${ground + 8} H${x} Z`}
                fill={fill}
                stroke={palette.soil}
              />
              {s.kind === "cover" &&
                Array.from({ length: Math.max(1, Math.floor(w / 7)) }, (_, j) => (
                  <path key={j} d={`M${x + 4 + j * 7} ${ground} l-1.5 -5 M${x + 4 + j * 7} ${ground} l1.5 -5`} stroke="#7d8a4e" />
                ))}
              {(s.rows ?? []).map((r, j) => {
                const across = r.acrossM ?? (s.widthM * (j + 0.5)) / s.rows!.length;
                const cx = x + across * k;
                const isMain = r.of.includes("main");
                const b = isMain ? undefined : roles.get(r.of[0]!);
                const d = (isMain ? main : b?.spreadM.length ? Math.max(...b.spreadM) : 0.45) * k;
                const top = isMain ? tall * up : Math.min(ground - 12, Math.max(10, d * 0.9));
                const [cf, cl] = isMain ? [palette.leaf, palette.growth] : (roleColours[b?.role ?? "companion"] ?? []);
                return (
                  <g key={j}>
                    <path
                      d={`M${cx} ${ground - raised} V${ground - raised - top * 0.5}`}
                      stroke={cl}
                      strokeWidth={isMain ? 2 : 1.2}
                    />
                    <ellipse
                      cx={cx}
                      cy={ground - raised - top * 0.62}
                      rx={Math.max(2.5, d / 2)}
                      ry={Math.max(3, top * 0.38)}
                      fill={cf}
                      stroke={cl}
                      fillOpacity={0.9}
                    />
                  </g>
                );
              })}
              {!s.again && (
                <>
                  <path
                    d={`M${x} ${ground + 12} v4 M${x} ${ground + 14} H${x + w} M${x + w} ${ground + 12} v4`}
                    stroke={palette.ink}
                  />
                  {w > 34 && (
                    <text x={x + w / 2} y={ground + 28} textAnchor="middle" fontSize="12" fill={palette.ink}>
                      {text(s.widthM, "spacing")}
                    </text>
                  )}
                </>
              )}
            </g>
          );
        })}
      </svg>
    </div>
  );
}
