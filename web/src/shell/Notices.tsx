import { useSyncExternalStore } from "react";
import { Failed } from "../api/client";
import { sayField } from "./words";

interface Notice {
  id: number;
  text: string;
  bad: boolean;
}
let notices: Notice[] = [];
let next = 1;
const listeners = new Set<() => void>();
const emit = () => listeners.forEach((l) => l());

/** say shows a line at the foot of the page; a bad one stays until it is closed. */
export function say(text: string, bad = false) {
  const n = { id: next++, text, bad };
  notices = [...notices.slice(-2), n];
  emit();
  if (!bad) setTimeout(() => drop(n.id), 5000);
}
export function sayError(e: unknown) {
  if (e instanceof Failed && e.problem.field) say(sayField(e.problem), true);
  else say(e instanceof Error ? e.message : String(e), true);
}
function drop(id: number) {
  notices = notices.filter((n) => n.id !== id);
  emit();
}

export function NoticeArea() {
  const list = useSyncExternalStore(
    (l) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    () => notices,
  );
  return (
    <div aria-live="polite" className="no-print fixed right-4 bottom-4 z-40 flex max-w-md flex-col gap-2">
      {list.map((n) => (
        <div key={n.id} className={`flex items-start gap-3 border bg-white px-3 py-2 ${n.bad ? "border-decide" : "border-ink"}`}>
          <span className={n.bad ? "text-decide" : ""}>{n.text}</span>
          <button aria-label="Close this note" onClick={() => drop(n.id)}>
            ×
          </button>
        </div>
      ))}
    </div>
  );
}
