import { useRef, useState, type FormEvent } from "react";
import { api, changed, patchEstate, queryClient, read, take, type Schema } from "../api/client";
import { PlaceField } from "../shell/PlaceField";
import { ErrorText } from "../shell/States";

/** The first page of an empty data folder: begin an estate, or load the demonstration. */
export function BeginPage() {
  const [error, setError] = useState<unknown>();
  const [busy, setBusy] = useState(false);
  const [at, setAt] = useState<Schema["Point"]>();
  const place = useRef<{ at?: Schema["Point"]; read: Promise<void> }>({ read: Promise.resolve() });
  const [half, setHalf] = useState<"south" | "north">("south");
  const done = async (call: Promise<unknown>) => {
    setBusy(true);
    setError(undefined);
    try {
      await call;
      await queryClient.invalidateQueries({ queryKey: ["status"] });
      await changed();
    } catch (e) {
      setError(e);
    } finally {
      setBusy(false);
    }
  };
  const begin = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    const f = new FormData(e.currentTarget);
    const begun = async () => {
      await place.current.read; // a place that was typed a moment ago
      const at = place.current.at;
      const pasted = String(f.get("climate") ?? "").trim();
      const climate = pasted ? await read.normals({ name: "typed", text: pasted }) : undefined; // refused before anything begins
      await take(
        api.POST("/estate", {
          body: {
            name: String(f.get("name")),
            place: String(f.get("place")),
            person: String(f.get("person")),
            units: f.get("units") === "us" ? "us" : "metric",
            south: at ? at.lat < 0 : half === "south",
            at,
          },
        }),
      );
      if (climate) await patchEstate(() => ({ climate, climateSource: "typed on the first page" }));
    };
    void done(begun());
  };
  return (
    <main className="mx-auto max-w-3xl px-5 py-10">
      <h1>Slow Root</h1>
      <p className="mt-1 max-w-prose text-faint">
        Plans the establishment and the many years of management of perennial crops, and shows its working.
      </p>
      {error !== undefined && (
        <div className="mt-4">
          <ErrorText error={error} />
        </div>
      )}
      <div className="mt-8 grid grid-cols-[minmax(0,1fr)] gap-10 md:grid-cols-2">
        <form onSubmit={begin} className="flex flex-col gap-3">
          <h2>Begin an estate</h2>
          <label className="flex flex-col">
            Name
            <input name="name" required maxLength={120} className="field" />
          </label>
          <label className="flex flex-col">
            Place
            <input name="place" className="field" />
          </label>
          <PlaceField
            label="Where it lies, if you know it; the map opens there"
            value={at}
            reading={(until) => (place.current.read = until)}
            keep={(p) => {
              setAt(p);
              place.current.at = p;
              if (p) setHalf(p.lat < 0 ? "south" : "north");
            }}
          />
          <label className="flex flex-col">
            Your name
            <input name="person" required className="field" />
          </label>
          <fieldset className="flex gap-4">
            <legend>Which half of the earth?</legend>
            <label>
              <input type="radio" name="half" value="south" checked={half === "south"} onChange={() => setHalf("south")} /> south
            </label>
            <label>
              <input type="radio" name="half" value="north" checked={half === "north"} onChange={() => setHalf("north")} /> north
            </label>
          </fieldset>
          <fieldset className="flex gap-4">
            <legend>Units</legend>
            <label>
              <input type="radio" name="units" value="metric" defaultChecked /> ha, kg
            </label>
            <label>
              <input type="radio" name="units" value="us" /> acres, pounds
            </label>
          </fieldset>
          <label className="flex flex-col text-sm">
            <span>
              Climate, if you know it: twelve lines <span className="unit">month, mean °C, mean minimum °C, rain mm</span>
            </span>
            <textarea
              name="climate"
              className="field h-20 font-mono"
              placeholder={"month, meanC, minC, rainMm\n1, 19.2, 13.8, 62\n2, 19.4, 14.0, 71 …"}
            />
          </label>
          <button className="act act-first self-start" disabled={busy}>
            Begin
          </button>
        </form>
        <section>
          <h2>Or look round first</h2>
          <p className="mt-2">
            The demonstration is a made-up farm at 38° S: tea, hazelnut, persimmon and willow coppice on nine blocks.
          </p>
          <button className="act mt-3" disabled={busy} onClick={() => void done(take(api.POST("/estate/demonstration")))}>
            Load the demonstration estate
          </button>
        </section>
      </div>
    </main>
  );
}
