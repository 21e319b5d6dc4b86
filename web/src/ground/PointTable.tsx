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
      <div className="mt-1 max-h-72 overflow-auto" tabIndex={0} role="region" aria-label="Points of the boundary">
        <table className="tbl">
          <thead>
            <tr>
              <th className="num">point</th>
              <th className="num">longitude °</th>
              <th className="num">latitude °</th>
              <th>
                <span className="sr-only">take away</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {points.map((p, i) => (
              <tr key={`${i}:${p.lon}:${p.lat}`}>
                <td className="num">{i + 1}</td>
                {(["lon", "lat"] as const).map((k) => (
                  <td key={k} className="num">
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
                  </td>
                ))}
                <td>
                  <button
                    className="text-faint underline"
                    aria-label={`Take away point ${i + 1}`}
                    onClick={() => change(points.filter((_, j) => j !== i))}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
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
