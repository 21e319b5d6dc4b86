import { useEffect } from "react";
import { inTurn, send } from "../api/client";
import { useIsAway } from "../api/away";
import { useOutbox } from "../api/outbox";
import { say, sayError } from "./Notices";

/** What was recorded without a connection: it is kept here, sent when there is one again, and nothing of it is doubled. */
export function Outbox() {
  const waits = useOutbox();
  const n = waits.reduce((k, p) => k + p.records.length, 0);
  useEffect(() => {
    if (n === 0) return;
    const now = () =>
      void inTurn(send).then(
        (all) => all && say(n === 1 ? "What was recorded without a connection is sent" : `${n} records are sent`),
        sayError,
      );
    if (navigator.onLine) now(); // kept by a page that was closed before it could send
    window.addEventListener("online", now);
    const again = setInterval(now, 15_000);
    return () => {
      window.removeEventListener("online", now);
      clearInterval(again);
    };
  }, [n]);
  const away = useIsAway();
  if (n === 0 && !away) return null;
  return (
    <div role="note" className="no-print flex flex-wrap items-center gap-x-3 border-b border-line bg-sand px-5 py-1.5">
      {away && <span>The program does not answer: this is how it was when it last did.</span>}
      {n > 0 && (
        <>
          <span>
            {n === 1 ? "One record is" : `${n} records are`} kept on this device and sent when there is a connection again.
          </span>
          <button
            className="act bg-paper"
            onClick={() => void inTurn(send).then((all) => say(all ? "Sent" : "Still no connection"), sayError)}
          >
            Send now
          </button>
        </>
      )}
    </div>
  );
}
