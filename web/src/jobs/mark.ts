import type { Told } from "../api/client";

/** What is said of a job: done on a day, a part of it done, not needed and why, or that what was said last is taken back. */
export type Mark =
  { done: string } | { notYet: string } | { share: number; on: string } | { notNeeded: string } | { back: string };

/** marked is the record that keeps a mark of a job of a planting. */
export function marked(planting: string, operation: string, mark: Mark): Told {
  const of = { planting, operation };
  if ("back" in mark) return { kind: "withdrawn", planting, corrects: mark.back };
  if ("notYet" in mark) return { ...of, kind: "not-yet", day: mark.notYet };
  if ("notNeeded" in mark) return { ...of, kind: "not-needed", note: mark.notNeeded };
  if ("share" in mark) return { ...of, kind: "partly", share: mark.share, day: mark.on };
  return { ...of, kind: "done", day: mark.done };
}

/** markWords says what was kept. */
export function markWords(name: string, mark: Mark) {
  if ("back" in mark) return `${name}: taken back`;
  if ("notYet" in mark) return `${name}: not yet; it is looked at again`;
  if ("notNeeded" in mark) return `${name}: not needed here`;
  if ("share" in mark) return `${name}: ${Math.round(mark.share * 100)} % more of it is done`;
  return `${name}: done`;
}
