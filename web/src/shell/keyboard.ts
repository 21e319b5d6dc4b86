import { useEffect, useRef } from "react";

const offKey = "slowroot.keys-off";
export const singleKeys = {
  on: () => localStorage.getItem(offKey) !== "1",
  set: (on: boolean) => localStorage.setItem(offKey, on ? "0" : "1"),
};

/** useKeys binds single keys, unless they are switched off or something is being typed. */
export function useKeys(keys: Record<string, () => void>) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const t = e.target as HTMLElement;
      if (e.ctrlKey || e.metaKey || e.altKey || !singleKeys.on()) return;
      if (/^(INPUT|TEXTAREA|SELECT)$/.test(t.tagName) || t.isContentEditable || document.querySelector("[role=dialog]")) return;
      const f = latest.current[e.key];
      if (f) {
        e.preventDefault();
        f();
      }
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}
