import type { Patch, Schema } from "../api/client";
import { NumberField, TextField } from "../shell/Fields";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";

const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const rows = [
  ["meanC", "mean", "temp"],
  ["minC", "night", "temp"],
  ["maxC", "day", "temp"],
  ["rainMm", "rain", "rain"],
  ["rhPct", "humidity", "percent"],
  ["windMS", "wind at 2 m", "speed"],
  ["sunH", "sun a day", "hours"],
] as const;

type Estate = Schema["Estate"];

/** The twelve months as they are known, to be changed where they stand. */
export function Normals({ e, put }: { e: Estate; put: (make: (now: Estate) => Patch, done: string) => void }) {
  const { unit } = useReading();
  const blank = Array.from({ length: 12 }, () => ({ meanC: 10, minC: 5, rainMm: 80 }));
  return (
    <>
      <h2 className="mt-6">Monthly normals</h2>
      {e.climate.length === 0 ? (
        <button
          className="act mt-1"
          onClick={() =>
            put(() => ({ climate: blank, climateSource: "entered by hand" }), "Change the twelve months to what they are")
          }
        >
          Enter them by hand
        </button>
      ) : (
        <Wide label="Monthly normals">
          <table className="tbl">
            <thead>
              <tr>
                <th />
                {months.map((m) => (
                  <th key={m} className="num">
                    {m}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map(([k, label, q]) => (
                <tr key={k}>
                  <td className="whitespace-nowrap">
                    {label} <span className="unit">{unit(q)}</span>
                  </td>
                  {e.climate.map((m, i) => (
                    <td key={i}>
                      <NumberField
                        hidden
                        width="w-16"
                        label={`${months[i]}, ${label}`}
                        quantity={q}
                        value={m[k]}
                        keep={(v) => {
                          if (v === undefined && (k === "meanC" || k === "minC" || k === "rainMm")) return;
                          put(
                            (now) => ({
                              climate: (now.climate ?? []).map((x, j) => (j === i ? { ...x, [k]: v } : x)),
                              climateSource: now.climateSource,
                            }),
                            `${months[i]} is kept`,
                          );
                        }}
                      />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      )}
      <TextField
        label="Where they are from"
        width="w-96"
        value={e.climateSource}
        keep={(v) => put(() => ({ climateSource: v }), "Kept")}
      />
    </>
  );
}
