import { useState } from "react";
import { changed, patchEstate, read, useEstate, useOverview, useStatus, write, type Patch, type Schema } from "../api/client";
import { DayField, FileButton, NumberField, Pick, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Busy, ErrorText, Trouble } from "../shell/States";
import { useReading } from "../shell/reading";
import { day } from "../units";
import { late } from "../shell/late";
import { Barriers } from "./Barriers";

const LieMap = late(() => import("./LieMap"), "Drawing the map");
type Source = Omit<Schema["HeightsFile"], "accuracyM"> & { accuracyM?: number };

const accuracies = [
  { id: "0.01", words: "levelled" },
  { id: "0.03", words: "survey-grade receiver" },
  { id: "0.15", words: "airborne survey" },
  { id: "2", words: "national or satellite grid" },
  { id: "6", words: "phone or GPX track" },
];

/** The heights of the estate, and what dams cold air. */
export default function HeightsPage() {
  const estate = useEstate();
  const overview = useOverview();
  const status = useStatus();
  const { text } = useReading();
  const [file, setFile] = useState<Source>();
  const [seen, setSeen] = useState<Schema["HeightsRead"]>();
  const [error, setError] = useState<unknown>();
  const [drawing, setDrawing] = useState(false);
  if (estate.isPending || overview.isPending || status.isPending) return <Busy what="Opening the map" />;
  if (estate.error || overview.error) return <Trouble error={estate.error ?? overview.error} />;
  const { estate: e, revision } = estate.data;
  const heights = e.heights ?? [];
  const barriers = e.barriers ?? [];
  const put = (make: (now: Schema["Estate"]) => Patch, done: string) => void patchEstate(make).then(() => say(done), sayError);
  const look = (f: Source) => {
    setFile(f);
    setError(undefined);
    read.heights({ ...f, accuracyM: f.accuracyM ?? 0 }).then(
      (r) => {
        setSeen(r);
        setFile((now) => (now && now.text === f.text ? { ...now, crs: r.crs } : now));
      },
      (x: unknown) => {
        setSeen(undefined);
        setError(x);
      },
    );
  };
  const drop = () => {
    setFile(undefined);
    setSeen(undefined);
    setError(undefined);
  };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 px-5 py-4 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <section className="min-w-0">
        <h1>Lie of the land</h1>
        <div className="mt-2">
          <LieMap
            blocks={overview.data.blocks}
            barriers={barriers}
            preview={seen}
            drawing={drawing}
            drawn={(line) => {
              setDrawing(false);
              put(
                (now) => ({
                  barriers: [
                    ...(now.barriers ?? []),
                    { name: `Hedge ${barriers.length + 1}`, kind: "hedge", line, heightM: 3, porosity: 0.2, gap: false },
                  ],
                }),
                "A barrier is drawn; say what it is",
              );
            }}
          />
        </div>
        {drawing && <p className="mt-1 text-faint">Click along the line; a double click ends it.</p>}
      </section>
      <section className="min-w-0">
        <h2>Heights</h2>
        <ul>
          {heights.map((h, i) => (
            <li key={h.digest + i} className="flex items-start justify-between gap-2 border-b border-line py-1.5">
              <span>
                <b>{h.name}</b> ± {text(h.accuracyM, "spacing")}
                <span className="block text-sm text-faint">
                  {text(h.count, "count")} {h.kind === "grid" ? "cells" : "spot heights"}, {h.crs}
                  {h.how && `; ${h.how}`}
                  {h.on && `, ${day(h.on)}`}
                </span>
              </span>
              <button
                className="act"
                onClick={() =>
                  put(
                    (now) => ({ heights: (now.heights ?? []).filter((_, j) => j !== i) }),
                    "The heights are taken off; undo brings them back",
                  )
                }
              >
                Take off<span className="sr-only"> {h.name}</span>
              </button>
            </li>
          ))}
        </ul>
        {heights.length === 0 && (
          <p className="text-faint">
            None yet. Of several that reach a block the one that covers it best is used, then the most exact.
          </p>
        )}
        {!file && (
          <div className="mt-2 flex flex-wrap gap-2">
            <FileButton
              label="Read a file of heights"
              accept=".csv,.txt,.gpx,.asc,.grd"
              most={32}
              take={(name, t) => look({ name: name.replace(/\.\w+$/, ""), text: t, crs: "", how: "", on: status.data!.today })}
              refuse={setError}
            />
            <button
              className="act"
              onClick={() => {
                setError(undefined);
                setFile({
                  name: "Spot heights",
                  text: "lon,lat,z\n",
                  crs: "EPSG:4326",
                  accuracyM: 0.01,
                  how: "levelled by hand",
                  on: status.data!.today,
                });
              }}
            >
              Enter spot heights
            </button>
          </div>
        )}
        {error !== undefined && (
          <div className="mt-2">
            <ErrorText error={error} />
          </div>
        )}
        {file && (
          <form
            className="mt-3 space-y-2 border-y border-line py-3"
            onSubmit={(ev) => {
              ev.preventDefault();
              setError(undefined);
              write
                .heights(revision, { ...file, accuracyM: file.accuracyM ?? 0 })
                .then(() => {
                  say(`${file.name} is added`);
                  drop();
                }, setError)
                .finally(() => void changed());
            }}
          >
            <TextField label="Name" width="w-full" value={file.name} keep={(v) => v && setFile({ ...file, name: v })} />
            {(file.text.length < 4000 || !seen) && (
              <label className="flex flex-col text-sm">
                Heights: longitude, latitude (or east, north) and metres above the sea, one a line
                <textarea
                  className="field font-mono text-sm"
                  rows={7}
                  value={file.text}
                  onChange={(ev) => setFile({ ...file, text: ev.target.value })}
                  onBlur={() => look(file)}
                />
              </label>
            )}
            {seen?.kind !== undefined && (
              <TextField
                label={`Coordinate system${seen.proposed ? " (proposed; is it right?)" : ""}`}
                width="w-full"
                value={file.crs}
                keep={(v) => look({ ...file, crs: v })}
              />
            )}
            {seen && (
              <p className="text-sm">
                {seen.crsName}: {text(seen.count, "count")}{" "}
                {seen.kind === "grid" ? `cells of ${text(seen.cellM, "spacing")}` : "spot heights"}, from{" "}
                {text(seen.lowest, "height")} to {text(seen.highest, "height")}.{" "}
                {seen.farKm > 0
                  ? `They lie ${text(seen.farKm * 1000, "distance")} from the estate.`
                  : "They are drawn on the map."}
                {seen.doubt && <b className="block text-decide">{seen.doubt}</b>}
              </p>
            )}
            <Pick
              label="How well a height is known"
              value={file.accuracyM === undefined ? "" : String(file.accuracyM)}
              options={[
                { id: "", words: "say how well" },
                ...accuracies.map((a) => ({ id: a.id, words: `${a.words}, ± ${text(Number(a.id), "spacing")}` })),
                ...(file.accuracyM !== undefined && !accuracies.some((a) => a.id === String(file.accuracyM))
                  ? [{ id: String(file.accuracyM), words: `± ${text(file.accuracyM, "spacing")}` }]
                  : []),
              ]}
              keep={(v) =>
                setFile({
                  ...file,
                  accuracyM: v ? Number(v) : undefined,
                  how: file.how || (accuracies.find((a) => a.id === v)?.words ?? ""),
                })
              }
            />
            <NumberField
              label="or plus or minus"
              quantity="spacing"
              value={file.accuracyM}
              keep={(v) => setFile({ ...file, accuracyM: v })}
            />
            <TextField label="How they were found" width="w-full" value={file.how} keep={(v) => setFile({ ...file, how: v })} />
            <DayField label="On" value={file.on} keep={(v) => setFile({ ...file, on: v })} />
            <div className="flex gap-2 pt-1">
              <button className="act act-first" disabled={!seen || file.accuracyM === undefined}>
                Add these heights
              </button>
              <button type="button" className="act" onClick={drop}>
                Leave it
              </button>
            </div>
          </form>
        )}
        <Barriers barriers={barriers} put={put} />
        <button className="act mt-2" aria-pressed={drawing} onClick={() => setDrawing(!drawing)}>
          {drawing ? "Stop drawing" : "Draw a hedge, bank, wall or water"}
        </button>
      </section>
    </div>
  );
}
