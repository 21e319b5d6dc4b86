import { useState } from "react";
import { changed, patchEstate, read, useClimate, useEstate, write, type Patch, type Schema } from "../api/client";
import { FileButton, NumberField, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Panel } from "../shell/Sheet";
import { Busy, ErrorText, Trouble } from "../shell/States";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { day } from "../units";
import { Normals } from "./Normals";
import { YearStrip } from "./YearStrip";

/** The climate: normals and the daily record, what follows from them, and where they come from. */
export default function ClimatePage() {
  const climate = useClimate();
  const estate = useEstate();
  const { text, number, unit } = useReading();
  const [error, setError] = useState<unknown>();
  const [weather, setWeather] = useState<{ name: string; text: string; read: Schema["WeatherRead"] }>();
  const [polled, setPolled] = useState<Schema["Polled"]>();
  if (climate.isPending || estate.isPending) return <Busy what="Reading the weather" />;
  if (climate.error || estate.error)
    return <Trouble error={climate.error ?? estate.error} retry={() => void climate.refetch()} />;
  const c = climate.data;
  const { estate: e, revision } = estate.data;
  const put = (make: (now: Schema["Estate"]) => Patch, done: string) => void patchEstate(make).then(() => say(done), sayError);
  return (
    <div className="px-5 py-4">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h1>Climate</h1>
        <span className="text-faint">{c.source}</span>
      </div>
      <div className="no-print mt-2 mb-3 flex flex-wrap items-end gap-2">
        <FileButton
          label="Read monthly normals"
          accept=".csv,.txt,text/csv"
          most={1}
          take={(name, t) => {
            setError(undefined);
            read
              .normals({ name, text: t })
              .then((m) => put(() => ({ climate: m, climateSource: name }), "The normals are kept"), setError);
          }}
          refuse={setError}
        />
        <FileButton
          label="Read a daily record"
          accept=".csv,.txt,text/csv"
          most={32}
          take={(name, t) => {
            setError(undefined);
            read.weather({ name, text: t }).then((r) => setWeather({ name, text: t, read: r }), setError);
          }}
          refuse={setError}
        />
        <button
          className="act"
          disabled={!e.station}
          title={e.station ? e.station : "Enter the station's address below"}
          onClick={() => {
            setError(undefined);
            write
              .poll()
              .then((p) => setPolled(p), setError)
              .finally(() => void changed());
          }}
        >
          Ask the station now
        </button>
        <TextField
          label="Weather station's address"
          width="w-56"
          value={e.station ?? ""}
          keep={(v) => put(() => ({ station: v }), "The station's address is kept")}
        />
        <NumberField
          label="Height of the record"
          quantity="height"
          value={e.elevationM}
          keep={(v) => put(() => ({ elevationM: v ?? null }), "The height of the record is kept")}
        />
        <label className="pb-1.5 text-sm">
          <input
            type="checkbox"
            checked={e.coast ?? false}
            onChange={(ev) => put(() => ({ coast: ev.target.checked }), "Kept")}
          />{" "}
          sea air
        </label>
      </div>
      {error !== undefined && <ErrorText error={error} />}
      {!c.known && (
        <p className="max-w-prose">
          No climate is known yet. Read twelve monthly normals (month, meanC, minC, rainMm) or a daily record (date, tmin, tmax,
          rain) from a CSV file, or enter the months below. Frost, chill and winter minima need a daily record of several years.
        </p>
      )}
      {c.known && <YearStrip climate={c} />}
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-2">
        <section>
          <h2>What follows</h2>
          <table className="tbl">
            <tbody>
              {c.facts.map((f) => (
                <tr key={f.label}>
                  <td>
                    {f.label}
                    <span className="block text-sm text-faint">{[f.note, f.source].filter(Boolean).join("; ")}</span>
                  </td>
                  <td className="num font-semibold whitespace-nowrap">{f.text || text(f.value, f.quantity)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <section className="min-w-0">
          <h2>The record</h2>
          {e.weather ? (
            <p>
              <b>{e.weather.name}</b>, {day(e.weather.from)} to {day(e.weather.to)}: {number(e.weather.days, "count")} days with
              temperatures, {e.weather.gaps} gaps, {e.weather.notes} doubts.
            </p>
          ) : (
            <p className="text-faint">No daily record is kept.</p>
          )}
          {c.station.days > 0 && (
            <p>
              From the station: {number(c.station.days, "count")} days to {day(c.station.to)}.
            </p>
          )}
          {(c.gaps.length > 0 || c.notes.length > 0) && (
            <details className="mt-1">
              <summary className="cursor-pointer">
                {c.gaps.length} gaps and {c.notes.length} doubts in what is used
              </summary>
              <ul className="max-h-52 overflow-auto text-sm" tabIndex={0} aria-label="Gaps and doubts">
                {c.gaps.map((g) => (
                  <li key={g.from}>
                    {day(g.from)}: {g.days === 1 ? "a day" : `${g.days} days`} without temperatures
                  </li>
                ))}
                {c.notes.map((n, i) => (
                  <li key={i}>
                    {day(n.on)}: {n.sentence}
                  </li>
                ))}
              </ul>
            </details>
          )}
          {c.years.length > 0 && (
            <Wide label="Year by year" className="mt-3">
              <table className="tbl">
                <thead>
                  <tr>
                    <th>year</th>
                    <th className="num">coldest {unit("temp")}</th>
                    <th className="num">hottest</th>
                    <th className="num">rain {unit("rain")}</th>
                    <th className="num">frost-free days</th>
                    <th className="num">chill hours</th>
                    <th className="num">Utah</th>
                    <th className="num">portions</th>
                    <th className="num">degree-days over 10</th>
                    <th className="num">missing</th>
                  </tr>
                </thead>
                <tbody>
                  {c.years.map((y) => (
                    <tr key={y.year}>
                      <td>{y.year}</td>
                      <td className="num">{number(y.minC, "temp")}</td>
                      <td className="num">{number(y.maxC, "temp")}</td>
                      <td className="num">{number(y.rainMm, "rain")}</td>
                      <td className="num">{y.frostFree}</td>
                      <td className="num">{number(y.chillHours, "count")}</td>
                      <td className="num">{number(y.chillUtah, "count")}</td>
                      <td className="num">{number(y.chillPortions, "count")}</td>
                      <td className="num">{number(y.degree10, "count")}</td>
                      <td className="num">{text(y.missing, "fraction")}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </Wide>
          )}
        </section>
      </div>
      <Normals e={e} put={put} />
      {weather && (
        <Panel title={weather.name} close={() => setWeather(undefined)}>
          <p>
            {number(weather.read.days, "count")} days with temperatures, {day(weather.read.from)} to {day(weather.read.to)}.
          </p>
          <p className="mt-2 font-semibold">{weather.read.gaps.length} gaps</p>
          <ul className="max-h-32 overflow-auto text-sm" tabIndex={0} aria-label="Gaps">
            {weather.read.gaps.map((g) => (
              <li key={g.from}>
                {day(g.from)}: {g.days === 1 ? "a day" : `${g.days} days`}
              </li>
            ))}
          </ul>
          <p className="mt-2 font-semibold">{weather.read.notes.length} doubts</p>
          <ul className="max-h-40 overflow-auto text-sm" tabIndex={0} aria-label="Doubts">
            {weather.read.notes.map((n, i) => (
              <li key={i}>
                {day(n.on)}: {n.sentence}
              </li>
            ))}
          </ul>
          <button
            className="act act-first mt-3"
            onClick={() =>
              void write
                .weather(revision, { name: weather.name.replace(/\.\w+$/, ""), text: weather.text })
                .then(() => {
                  say("The record is the estate's now");
                  setWeather(undefined);
                }, setError)
                .finally(() => void changed())
            }
          >
            Make it the estate&apos;s record
          </button>
        </Panel>
      )}
      {polled && (
        <Panel title="From the weather station" close={() => setPolled(undefined)}>
          <p>{polled.new === 0 ? "No new day." : `${polled.new} new days, to ${day(polled.to)}.`}</p>
          {polled.notes.length > 0 && (
            <ul className="mt-2 max-h-60 overflow-auto text-sm" tabIndex={0} aria-label="What was wrong with them">
              {polled.notes.map((n, i) => (
                <li key={i}>
                  {n.on && `${day(n.on)}: `}
                  {n.sentence}
                </li>
              ))}
            </ul>
          )}
        </Panel>
      )}
    </div>
  );
}
