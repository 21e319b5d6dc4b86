import type { BlockDoc, Patch } from "../api/client";

/** What is kept of a job: the day it was done, or why it is not needed here. Null takes it back. */
export type Mark = { done: string | null } | { notNeeded: string | null };

/** markPatch is the change of a block that keeps a mark of one of its jobs. */
export function markPatch(doc: BlockDoc, key: string, mark: Mark): Patch {
  const part = "done" in mark ? { done: { [key]: mark.done } } : { notNeeded: { [key]: mark.notNeeded } };
  return doc.block.planting ? { planting: part } : { intent: part };
}

/** markWords says what was kept. */
export const markWords = (name: string, mark: Mark) =>
  "done" in mark
    ? `${name}: ${mark.done ? "done" : "not done"}`
    : `${name}: ${mark.notNeeded ? "not needed here" : "needed again"}`;
