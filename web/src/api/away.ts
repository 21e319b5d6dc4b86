import { useSyncExternalStore } from "react";

const listeners = new Set<() => void>();
let away = false;

/** answered says of an answer whether the program gave it, or this device as it was last read. */
export function answered(response: Response) {
  const now = response.headers.get("X-Kept") !== null;
  if (now === away) return;
  away = now;
  listeners.forEach((l) => l());
}

/** useIsAway is whether what is on the page was kept on this device, because nobody answers. */
export const useIsAway = () =>
  useSyncExternalStore(
    (l) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    () => away,
  );
