/** View is where the block's plane lies on a sheet: pixels of its origin, and pixels a metre. */
export interface View {
  x: number;
  y: number;
  k: number;
}

type At = readonly number[];

/** fitted is the view in which points fill a sheet, with pad kept free around them and foot below for the scale. */
export function fitted(points: readonly At[], width: number, height: number, pad: number, foot = 0): View {
  const xs = points.map((p) => p[0]!);
  const ys = points.map((p) => p[1]!);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const k = Math.min((width - 2 * pad) / Math.max(x1 - x0, 1e-6), (height - 2 * pad - foot) / Math.max(y1 - y0, 1e-6));
  return { k, x: width / 2 - ((x0 + x1) / 2) * k, y: (height - foot) / 2 + ((y0 + y1) / 2) * k };
}

/** outline begins the path of a block's rings. */
export function outline(c: CanvasRenderingContext2D, rings: readonly (readonly At[])[], v: View) {
  c.beginPath();
  for (const r of rings) {
    r.forEach((p, i) => {
      const [x, y] = [v.x + p[0]! * v.k, v.y - p[1]! * v.k];
      if (i) c.lineTo(x, y);
      else c.moveTo(x, y);
    });
    c.closePath();
  }
}

/** sized readies a canvas for drawing in pixels of the page, sharp on any screen. */
export function sized(el: HTMLCanvasElement | null, width: number, height: number) {
  const c = el?.getContext("2d");
  if (!el || !c) return;
  const ratio = window.devicePixelRatio || 1;
  el.width = width * ratio;
  el.height = height * ratio;
  c.setTransform(ratio, 0, 0, ratio, 0, 0);
  c.clearRect(0, 0, width, height);
  return c;
}

/** roundLength is a round number of units that is at most m. */
export function roundLength(m: number) {
  const p = 10 ** Math.floor(Math.log10(m));
  return [5, 2, 1].map((f) => f * p).find((v) => v <= m) ?? p;
}
