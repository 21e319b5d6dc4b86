import { useEffect, useState } from "react";
import { read, type Schema } from "../api/client";
import { NumberField, Tabs } from "../shell/Fields";
import { PlaceField } from "../shell/PlaceField";
import { ErrorText } from "../shell/States";
import { useReading } from "../shell/reading";

type Told = Schema["Outline"];

const ways: [Told["way"], string][] = [
  ["size", "Length and width"],
  ["area", "Area alone"],
  ["points", "Corners"],
  ["tape", "By tape"],
  ["walk", "Sides walked"],
];
const lines: Partial<Record<Told["way"], [label: string, sample: string]>> = {
  points: ["One corner a line, latitude first", "−38.2100, 175.4000\n−38.2100, 175.4030\n−38.2118, 175.4030"],
  tape: ["Metres east and north of the first corner, one corner a line", "0 0\n120.5 0\n118 64\n−2 60"],
  walk: ["Bearing ° and length m of each side, one a line, back to where it began", "92 120.5\n3 61\n271 119\n182 60"],
};

/** A field told in words and numbers instead of drawn; the program makes the boundary of it. */
export function ToldOutline({ place, draw }: { place?: Schema["Point"]; draw: (d: Schema["OutlineDrawn"] | undefined) => void }) {
  const { text } = useReading();
  const [way, setWay] = useState<Told["way"]>("size");
  const [at, setAt] = useState<Schema["Point"]>();
  const [n, setN] = useState<{ lengthM?: number; widthM?: number; bearingDeg?: number; areaM2?: number }>({});
  const [list, setList] = useState("");
  const [drawn, setDrawn] = useState<Schema["OutlineDrawn"]>();
  const [error, setError] = useState<unknown>();
  const said =
    way === "size"
      ? n.lengthM !== undefined && n.widthM !== undefined
      : way === "area"
        ? n.areaM2 !== undefined
        : list.trim().split("\n").length > 2;

  useEffect(() => {
    if (!said) return;
    let live = true;
    const wait = setTimeout(() => {
      read
        .outline({
          way,
          at: at ?? place ?? { lon: 0, lat: 0 },
          lengthM: n.lengthM ?? 0,
          widthM: n.widthM ?? 0,
          bearingDeg: n.bearingDeg ?? 0,
          areaM2: n.areaM2 ?? 0,
          text: list,
        })
        .then(
          (d) => {
            if (!live) return;
            setDrawn(d);
            setError(undefined);
            draw(d);
          },
          (e: unknown) => live && setError(e),
        );
    }, 150);
    return () => {
      live = false;
      clearTimeout(wait);
    };
    // draw belongs to the page and is made anew on every render
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [way, at, place, n, list, said]);

  const turn = (w: Told["way"]) => {
    setWay(w);
    setDrawn(undefined);
    setError(undefined);
    draw(undefined);
  };
  return (
    <section className="mt-3" aria-label="The field in numbers">
      <Tabs tabs={ways} on={way} turn={turn} label="How the field is known" />
      <div className="flex flex-wrap items-end gap-3">
        {way === "size" && (
          <>
            <NumberField label="Length" value={n.lengthM} quantity="distance" keep={(v) => setN({ ...n, lengthM: v })} />
            <NumberField label="Width" value={n.widthM} quantity="distance" keep={(v) => setN({ ...n, widthM: v })} />
            <NumberField
              label="Bearing of the long side"
              value={n.bearingDeg}
              quantity="angle"
              keep={(v) => setN({ ...n, bearingDeg: v })}
            />
          </>
        )}
        {way === "area" && <NumberField label="Area" value={n.areaM2} quantity="area" keep={(v) => setN({ ...n, areaM2: v })} />}
        {way !== "points" && (
          <PlaceField label={way === "area" ? "Its middle" : "Its first corner"} value={at ?? place} keep={setAt} />
        )}
        {lines[way] && (
          <label className="flex w-full flex-col text-sm">
            {lines[way][0]}
            <textarea
              className="field h-28 w-full font-mono"
              value={list}
              placeholder={lines[way][1]}
              onChange={(e) => setList(e.target.value)}
            />
          </label>
        )}
      </div>
      {error !== undefined && said && <ErrorText error={error} />}
      {drawn && error === undefined && (
        <p className="mt-1 text-sm text-faint">
          {drawn.words}
          {drawn.closingM > 0 && ` Corners are known to about ± ${text(drawn.accuracyM, "spacing")}.`}
        </p>
      )}
    </section>
  );
}
