import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";
import type { View } from "./frame";
import { palette } from "./palette";

/** Contours with their heights, where water gathers and stands, where cold air lies, and what dams it. */
export function drawLand(c: CanvasRenderingContext2D, land: Schema["Drawing"], v: View, height: (m: number) => string) {
  const X = (x: number) => v.x + x * v.k;
  const Y = (y: number) => v.y - y * v.k;
  c.font = "12px 'Atkinson Hyperlegible Next Variable', sans-serif";
  land.contours.forEach((line, n) => {
    c.beginPath();
    line.points.forEach((p, i) => (i ? c.lineTo(X(p[0]!), Y(p[1]!)) : c.moveTo(X(p[0]!), Y(p[1]!))));
    if (line.closed) c.closePath();
    const round = Math.abs(line.z / land.intervalM) % 5 < 0.01;
    c.strokeStyle = palette.contour;
    c.lineWidth = round ? 1.5 : 0.8;
    c.stroke();
    const at = line.points[Math.floor(line.points.length * (0.35 + 0.1 * (n % 4)))];
    if (at && line.points.length > 8 && (round || land.contours.length < 14)) {
      const words = height(line.z).replace(/\.0/, "");
      const w = c.measureText(words).width;
      c.fillStyle = "#f6f1e7";
      c.fillRect(X(at[0]!) - w / 2 - 2, Y(at[1]!) - 7, w + 4, 13);
      c.fillStyle = "#6e5232";
      c.fillText(words, X(at[0]!) - w / 2, Y(at[1]!) + 4);
    }
  });
  c.strokeStyle = palette.water;
  land.flow.forEach((f, i) => {
    const to = land.flowTo[i]!;
    c.lineWidth = Math.min(4, 0.6 + Math.log10(f[2]! / 15000) * 1.6);
    c.globalAlpha = 0.75;
    c.beginPath();
    c.moveTo(X(f[0]!), Y(f[1]!));
    c.lineTo(X(to[0]!), Y(to[1]!));
    c.stroke();
  });
  c.globalAlpha = 1;
  for (const h of land.hollows) {
    const r = Math.max(7, Math.sqrt(h.areaM2 / Math.PI) * v.k);
    c.setLineDash([5, 4]);
    c.lineWidth = 1.6;
    c.beginPath();
    c.arc(X(h.x), Y(h.y), r, 0, 7);
    c.fillStyle = "#2f618722";
    c.fill();
    c.stroke();
    c.setLineDash([]);
    for (let k = -1; k < 2; k++) {
      c.beginPath();
      c.moveTo(X(h.x) - 9, Y(h.y) + k * 5);
      c.quadraticCurveTo(X(h.x) - 4, Y(h.y) + k * 5 - 3, X(h.x), Y(h.y) + k * 5);
      c.quadraticCurveTo(X(h.x) + 4, Y(h.y) + k * 5 + 3, X(h.x) + 9, Y(h.y) + k * 5);
      c.stroke();
    }
  }
  // cold air: a six-armed mark, larger and redder where it stays
  for (const s of land.cold) {
    if (s.word !== "pocket" && s.word !== "high") continue;
    c.strokeStyle = s.word === "pocket" ? palette.decide : palette.water;
    c.lineWidth = 1.6;
    const r = s.word === "pocket" ? 6 : 4;
    for (let k = 0; k < 3; k++) {
      const a = (k * Math.PI) / 3;
      c.beginPath();
      c.moveTo(X(s.x) - r * Math.cos(a), Y(s.y) - r * Math.sin(a));
      c.lineTo(X(s.x) + r * Math.cos(a), Y(s.y) + r * Math.sin(a));
      c.stroke();
    }
  }
  for (const b of land.barriers) {
    c.strokeStyle = b.kind === "water" ? palette.water : b.kind === "hedge" ? palette.growth : palette.ink;
    c.lineWidth = b.kind === "hedge" ? 4 : 2.5;
    c.setLineDash(b.kind === "hedge" ? [2, 3] : []);
    c.beginPath();
    b.line.forEach((p, i) => (i ? c.lineTo(X(p[0]!), Y(p[1]!)) : c.moveTo(X(p[0]!), Y(p[1]!))));
    c.stroke();
    c.setLineDash([]);
    const m = b.line[Math.floor(b.line.length / 2)];
    if (m) {
      c.fillStyle = palette.ink;
      c.fillText(b.name, X(m[0]!) + 6, Y(m[1]!) + 14);
    }
  }
}

/** What the marks of the land mean; those on this sheet only. */
export function LandKey({ land }: { land: Schema["Drawing"] }) {
  const { text } = useReading();
  const pockets = land.cold.some((s) => s.word === "pocket");
  const high = land.cold.some((s) => s.word === "high");
  const star = (tone: string) => (
    <svg aria-hidden width="14" height="14" viewBox="0 0 14 14" className="mr-1 inline-block">
      <path d="M1 7H13M4 2L10 12M10 2L4 12" stroke={tone} strokeWidth="1.6" />
    </svg>
  );
  return (
    <ul className="mt-2 space-y-0.5 text-sm">
      <li>
        <span aria-hidden className="mr-1 inline-block w-5 border-t-2 align-middle" style={{ borderColor: palette.contour }} />
        contours every {text(land.intervalM, "height")}
      </li>
      {land.flow.length > 0 && (
        <li>
          <span aria-hidden className="mr-1 inline-block w-5 border-t-2 border-water align-middle" />
          where water gathers
        </li>
      )}
      {land.hollows.length > 0 && (
        <li>
          <span aria-hidden className="mr-1 inline-block h-3 w-3 rounded-full border border-dashed border-water align-middle" />
          closed hollow, {text(land.hollows[0]!.depthM, "spacing")} deep
        </li>
      )}
      {pockets && <li>{star(palette.decide)}frost pocket</li>}
      {high && <li>{star(palette.water)}high risk of frost</li>}
      <li className="text-faint">
        {land.source.name}, heights to ± {text(land.source.accuracyM, "spacing")}
      </li>
    </ul>
  );
}
