import { useEffect } from "react";

let asked = false;

/** useAway has the page work where there is no connection, even when it is opened there: a worker keeps its files and the last answers on this device. */
export function useAway() {
  useEffect(() => {
    if (asked || !("serviceWorker" in navigator)) return;
    asked = true;
    void navigator.serviceWorker
      .register("/sw.js")
      .then(() => navigator.serviceWorker.ready)
      .then((worker) => {
        const here = location.origin + "/";
        const files = performance
          .getEntriesByType("resource")
          .map((e) => e.name)
          .filter((name) => name.startsWith(here) && (name.includes("/assets/") || name.includes("/api/v1/")));
        worker.active?.postMessage({ keep: [...new Set(files)] });
      })
      .catch(() => undefined); // a browser that keeps nothing works as before, with a connection
  }, []);
}
