import { useEffect, useState } from "react";
import { api, take, useSheets, type BlockDoc, type Plan, type Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { Busy, ErrorText } from "../shell/States";
import { Wide } from "../shell/Wide";
import { day } from "../units";
import type { Draft } from "./draft";
import { considering, planning } from "./paths";

/** The sheets a planting can be planned with; the others judge ground only. */
export const whole = (sheets?: Schema["Sheet"][]) => (sheets ?? []).filter((s) => s.layouts.length > 0);

export type Compared = Pick<Plan, "figures" | "cropDate" | "years">;

/** Nothing stands here yet: every crop of the library, computed for this ground, side by side. */
export function CropChoice({ doc, draft, plan }: { doc: BlockDoc; draft: Draft; plan: Plan }) {
  const sheets = useSheets();
  const { text } = useReading();
  const considered = doc.block.planting;
  const [date, setDate] = useState(""); // without one each crop is planted in its own window
  const [plans, setPlans] = useState<Record<string, Compared>>({});
  const [error, setError] = useState<unknown>();
  useEffect(() => {
    let live = true;
    if (!sheets.data) return;
    setError(undefined);
    void Promise.all(
      whole(sheets.data).map((s) =>
        take(
          api.POST("/blocks/{id}/preview/{parts}", {
            params: { path: { id: doc.id, parts: "figures,cropDate,years" } },
            body: { planting: { ...planning(s.id, date), considered: null } },
          }),
        ).then((p) => [s.id, p as Partial<Plan> as Compared] as const),
      ),
    ).then(
      (list) => live && setPlans(Object.fromEntries(list)),
      (e: unknown) => live && setError(e),
    );
    return () => {
      live = false;
    };
  }, [sheets.data, date, doc.id]);
  if (sheets.isPending) return <Busy what="Reading the sheets" />;
  const groundOnly = (sheets.data ?? []).filter((s) => s.layouts.length === 0);
  return (
    <div className="py-3">
      <h2>What could stand here?</h2>
      <label className="mt-2 inline-flex items-center gap-2">
        If planted on (left empty: in each crop's own season)
        <input
          type="date"
          className="field"
          min="1900-01-01"
          max="2200-12-31"
          value={date}
          onChange={(e) => setDate(e.target.value)}
        />
      </label>
      {plan.cannot && <p className="mt-2 max-w-prose">{plan.cannot}</p>}
      {error !== undefined && <ErrorText error={error} />}
      <Wide label="Crops side by side" className="mt-3">
        <table className="tbl">
          <thead>
            <tr>
              <th>crop</th>
              <th>planted</th>
              <th className="num">stations</th>
              <th className="num">to order</th>
              <th className="num">first crop</th>
              <th className="num">full crop</th>
              <th className="num">from the block then</th>
              <th className="num">life</th>
              <th>
                <span className="sr-only">take it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {whole(sheets.data).map((s) => {
              const p = plans[s.id];
              const f = (path: string) => p?.figures.find((x) => x.path === path);
              const show = (path: string) => {
                const x = f(path);
                return x ? x.text || text(x.value, x.quantity) : "…";
              };
              const order = (f("plants.main")?.value ?? 0) + (f("plants.pollinizers")?.value ?? 0);
              return (
                <tr key={s.id}>
                  <td>
                    <b>{s.name}</b>
                    <br />
                    <span className="text-sm text-faint">{s.habit}</span>
                  </td>
                  <td className="whitespace-nowrap">{p ? day(p.cropDate) : "…"}</td>
                  <td className="num">{show("rows.stations")}</td>
                  <td className="num">{p ? text(order, "count") : "…"}</td>
                  <td className="num">{show("life.first")}</td>
                  <td className="num">{show("life.full")}</td>
                  <td className="num">
                    {show("yield.block")}
                    <br />
                    <span className="text-sm text-faint">{s.product.name}</span>
                  </td>
                  <td className="num whitespace-nowrap">{p?.years.length ?? "…"} years</td>
                  <td>
                    <button
                      className="act"
                      disabled={!p}
                      onClick={() =>
                        void draft.commit(
                          {
                            planting:
                              considered?.sheet === s.id
                                ? { considered: null, date: date || considered.date }
                                : { ...planning(s.id, date), considered: null },
                          },
                          `${s.name} is planned here`,
                        )
                      }
                    >
                      Plan {s.name.toLowerCase()}
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </Wide>
      {groundOnly.length > 0 && (
        <>
          <h3 className="mt-4 font-semibold">Crops whose ground can be judged and prepared, and no more yet</h3>
          <p className="max-w-prose text-faint">
            Their sheets do not say how they are laid out, ordered, kept and picked. Considering one shows what the ground must be
            and what has to be done to it by when.
          </p>
          <p className="mt-2 flex flex-wrap gap-2">
            {groundOnly.map((s) => (
              <button
                key={s.id}
                className="act"
                aria-pressed={considered?.sheet === s.id}
                onClick={() => void draft.commit({ planting: considering(s.id, date) }, `${s.name} is considered here`)}
              >
                Consider {s.name.toLowerCase()}
              </button>
            ))}
          </p>
        </>
      )}
    </div>
  );
}
