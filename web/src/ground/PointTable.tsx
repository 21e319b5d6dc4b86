import { Table } from "../shell/Table";
import { useState } from "react";
import type { Points } from "./points";

/** The boundary as a table of points: the same, without a pointer. */
export function PointTable({ points, change }: { points: Points; change: (p: Points) => void }) {
  const [lon, setLon] = useState("");
  const [lat, setLat] = useState("");
  const num = (s: string) => Number(s.replace(",", "."));
  return (
    <details className="mt-4" open={points.length > 0 && points.length < 40}>
      <summary className="cursor-pointer font-semibold">Points as a table</summary>
      <div className="mt-1 max-h-72 overflow-auto">
        <Table
          label="Points of the boundary"
          rows={points}
          id={(p, i) => `${i}:${p.lon}:${p.lat}`}
          columns={[
            { head: "point", num: true, cell: (_, i) => i + 1 },
            ...(["lon", "lat"] as const).map((k) => ({
              head: k === "lon" ? "longitude °" : "latitude °",
              num: true,
              cell: (p: Points[number], i: number) => (
                <input
                  className="field w-28 text-right"
                  inputMode="decimal"
                  aria-label={`${k === "lon" ? "Longitude" : "Latitude"} of point ${i + 1}`}
                  defaultValue={p[k].toFixed(7)}
                  onBlur={(e) => {
                    const v = num(e.target.value);
                    if (e.target.value !== p[k].toFixed(7) && Number.isFinite(v))
                      change(points.map((q, j) => (j === i ? { ...q, [k]: v } : q)));
                  }}
                />
              ),
            })),
          ]}
          takeOut={{ what: (_, i) => `point ${i + 1}`, done: (_, i) => change(points.filter((_, j) => j !== i)) }}
        />
      </div>
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (lon.trim() === "" || lat.trim() === "" || !Number.isFinite(num(lon) + num(lat))) return;
          change([...points, { lon: num(lon), lat: num(lat) }]);
          setLon("");
          setLat("");
        }}
      >
        <label className="flex flex-col text-sm">
          Longitude °
          <input className="field w-28 text-right" inputMode="decimal" value={lon} onChange={(e) => setLon(e.target.value)} />
        </label>
        <label className="flex flex-col text-sm">
          Latitude °
          <input className="field w-28 text-right" inputMode="decimal" value={lat} onChange={(e) => setLat(e.target.value)} />
        </label>
        <button className="act">Add point</button>
      </form>
    </details>
  );
}
