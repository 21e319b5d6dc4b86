import type { Plan, Schema } from "../api/client";

export type Drains = Plan["drains"];
export type Network = Schema["DrainNetwork"];
export type Drain = Schema["Drain"];
export type XY = number[];

/** position turns metres of the block's plane into degrees, by the degrees of a metre the server gives. */
export function position(plan: Plan, [x = 0, y = 0]: XY) {
  const o = plan.ground.origin;
  const m = plan.drains.perMetre;
  return { lon: o.lon + x * m.lon, lat: o.lat + y * m.lat };
}

/** place is the inverse: where a position lies on the block's plane, metres. */
export function place(plan: Plan, at: { lon: number; lat: number }): XY {
  const o = plan.ground.origin;
  const m = plan.drains.perMetre;
  return [(at.lon - o.lon) / m.lon, (at.lat - o.lat) / m.lat];
}

/** main is a network's collector or interceptor as one line of stations, chainage from the outlet. */
export function main(n: Network): Schema["DrainStation"][] {
  return n.reaches.flatMap((r) => r.section.map((s) => ({ ...s, s: s.s + r.joins })));
}

/** path draws points in the order they come. */
export const path = (points: readonly XY[]) =>
  points.map(([x, y], i) => `${i ? "L" : "M"}${x!.toFixed(2)} ${y!.toFixed(2)}`).join("");
