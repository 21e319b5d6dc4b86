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

/** Whole is a drain in one piece for its long section: chainage from its lower end. */
export interface Whole {
  network: Network;
  id: string;
  name: string;
  stations: Schema["DrainStation"][];
  pipes: Drain[];
}

/** wholes are the collector, its branches or the interceptor of a network, each in one piece. */
export function wholes(n: Network | null | undefined, name: string): Whole[] {
  return (n?.mains ?? []).flatMap((m) => {
    const pipes = n!.reaches.filter((r) => r.main === m.id);
    const stations = pipes.flatMap((r) => r.section.map((s) => ({ ...s, s: s.s + r.joins })));
    return pipes.length > 0 ? [{ network: n!, id: m.id, name: m.on ? `Branch ${m.id}` : name, stations, pipes }] : [];
  });
}

/** whole is a lateral. */
export const whole = (n: Network, l: Drain): Whole => ({
  network: n,
  id: l.id,
  name: `Lateral ${l.id}`,
  stations: l.section,
  pipes: [l],
});

/** path draws points in the order they come. */
export const path = (points: readonly XY[]) =>
  points.map(([x, y], i) => `${i ? "L" : "M"}${x!.toFixed(2)} ${y!.toFixed(2)}`).join("");
