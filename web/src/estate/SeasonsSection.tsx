import { api, take, useRains, type Patch, type Schema } from "../api/client";
import { TextField } from "../shell/Fields";
import { sayError } from "../shell/Notices";
import { Trouble } from "../shell/States";

type Put = (patch: Patch | ((e: Schema["Estate"]) => Patch), done: string) => void;

/** The seasons of the estate: the twelve of a year with winter and summer, and its rains where it lives by them. */
export function SeasonsSection({ estate, put }: { estate: Schema["Estate"]; put: Put }) {
  return (
    <>
      <h2 className="mt-6">Rains</h2>
      <Rains rains={estate.rains ?? []} put={put} />
      <h2 className="mt-6">Seasons</h2>
      <p className="no-print mb-1 flex flex-wrap items-center gap-2">
        Set them for
        {([true, false] as const).map((south) => (
          <button
            key={String(south)}
            className="act"
            onClick={() =>
              void take(api.GET("/estate/seasons", { params: { query: { south } } })).then(
                (seasons) =>
                  put({ seasons }, `The seasons are those of the ${south ? "southern" : "northern"} half of the earth`),
                sayError,
              )
            }
          >
            the {south ? "southern" : "northern"} half of the earth
          </button>
        ))}
      </p>
      <p className="text-sm text-faint">
        What the sheets call a season has these days here. The season year starts with early spring.
      </p>
      <table className="tbl">
        <tbody>
          {estate.seasons.map((s, i) => (
            <tr key={s.key}>
              <td>{s.key.replace("-", " ")}</td>
              {(["from", "to"] as const).map((k) => (
                <td key={k} className="num">
                  <TextField
                    label={`${s.key}, ${k}, month-day`}
                    hidden
                    width="w-24 text-right"
                    value={s[k]}
                    keep={(value) =>
                      put(
                        (now) => ({ seasons: now.seasons.map((w, j) => (j === i ? { ...w, [k]: value } : w)) }),
                        "The season is kept",
                      )
                    }
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** Rains: one or two, typed or as the climate shows them. Crops of the tropics are planted, fed and picked by them. */
function Rains({ rains, put }: { rains: Schema["Rain"][]; put: Put }) {
  const shown = useRains();
  const keep = (next: Schema["Rain"][], done: string) => put({ rains: next.length ? next : null }, done);
  return (
    <>
      <p className="text-sm text-faint">
        {rains.length === 0
          ? "No rains are set: every crop goes by the twelve seasons below. Where the year is made by its rains, set them, and crops of the tropics are planted, fed and picked by them."
          : "Crops of the tropics go by the rains here; all others by the twelve seasons below."}
      </p>
      {rains.map((r, i) => (
        <p key={i} className="mt-2 flex flex-wrap items-end gap-2">
          {(["from", "to"] as const).map((k) => (
            <TextField
              key={k}
              label={`${rains.length === 2 ? (i === 0 ? "Main rains" : "Second rains") : "Rains"} ${k}, month-day`}
              width="w-28"
              value={r[k]}
              keep={(v) =>
                keep(
                  rains.map((x, j) => (j === i ? { ...x, [k]: v } : x)),
                  "The rains are kept",
                )
              }
            />
          ))}
          <button
            className="act"
            onClick={() =>
              keep(
                rains.filter((_, j) => j !== i),
                "The rains are taken out",
              )
            }
          >
            {rains.length === 2 && i === 1 ? "Take the second rains out" : "Take the rains out"}
          </button>
        </p>
      ))}
      {shown.error && <Trouble error={shown.error} />}
      <p className="no-print mt-2 flex flex-wrap gap-2">
        {rains.length < 2 && (
          <button
            className="act"
            onClick={() =>
              keep(
                [...rains, rains.length ? { from: "10-01", to: "11-30" } : { from: "06-01", to: "09-30" }],
                "Rains are added; set their days",
              )
            }
          >
            {rains.length ? "Add second rains" : "Add rains"}
          </button>
        )}
        {shown.data && shown.data.rains.length > 0 && (
          <button className="act" onClick={() => keep(shown.data.rains, "The rains are as the climate shows them")}>
            As the climate shows them
          </button>
        )}
      </p>
      {shown.data && shown.data.rains.length > 0 && (
        <ul className="text-sm text-faint">
          {shown.data.rains.map((r, i) => (
            <li key={i}>
              {r.from} to {r.to}: {shown.data.why[i]}
            </li>
          ))}
          <li>{shown.data.source}</li>
        </ul>
      )}
      {shown.data && shown.data.rains.length === 0 && (
        <p className="text-sm text-faint">The climate as it is known shows no season of rains apart from a dry one.</p>
      )}
      {shown.data && shown.data.windows.length > 0 && (
        <table className="tbl mt-2">
          <tbody>
            {shown.data.windows.map((w, i) => (
              <tr key={w.key}>
                <td>{shown.data.words[i]}</td>
                <td className="num">{w.from}</td>
                <td className="num">{w.to}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
