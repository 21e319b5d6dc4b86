import { useSyncExternalStore } from "react";
import type { components } from "./schema";

type Kept = components["schemas"]["Record"];

/** Parcel is what was recorded of a block and waits to be sent. */
export interface Parcel {
  block: string;
  who: string;
  records: Kept[];
}

const key = "slowroot.outbox";
const listeners = new Set<() => void>();
let list: Parcel[] = read();

function read(): Parcel[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key) ?? "[]");
    return Array.isArray(kept) ? (kept as Parcel[]) : [];
  } catch {
    return [];
  }
}

function write(next: Parcel[]) {
  list = next;
  localStorage.setItem(key, JSON.stringify(next));
  listeners.forEach((l) => l());
}

/** waiting is what waits to be sent, oldest first. It outlives the page. */
export const waiting = () => list;

/** put keeps what was recorded on this device until it is sent. */
export const put = (p: Parcel) => write([...read(), p]);

/** sent takes what was sent, or refused for good, out again. */
export const sent = (p: Parcel) => write(read().filter((x) => x.records[0]?.id !== p.records[0]?.id));

/** useOutbox is what waits to be sent, and draws again when that changes. */
export const useOutbox = () =>
  useSyncExternalStore((l) => {
    listeners.add(l);
    return () => listeners.delete(l);
  }, waiting);

// another page of this device may have sent it, or kept more
window.addEventListener("storage", (e) => {
  if (e.key !== key) return;
  list = read();
  listeners.forEach((l) => l());
});
