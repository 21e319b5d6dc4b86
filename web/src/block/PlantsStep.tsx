import { dated } from "./draft";
import { useEffect, useState } from "react";
import { api, changed, take, useSheets, write, type BlockDoc, type Plan, type Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { say, sayError } from "../shell/Notices";
import { Busy, ErrorText } from "../shell/States";
import { Panel } from "../shell/Sheet";
import { Wide } from "../shell/Wide";
import { day } from "../units";
import type { Draft } from "./draft";
import { Figures } from "./Figures";
import { PlanSheet } from "../draw/PlanSheet";
import { considering, isPlanned, planning, stands } from "./paths";
import type { StepProps } from "./stepProps";
import { Supplies } from "./Supplies";
import { Takes } from "./Takes";

export function PlantsStep({ plan, doc, draft, press, season, setSeason }: StepProps) {
  const sheets = useSheets();
  const planting = doc.block.planting;
  const [off, setOff] = useState(false);
  if (!isPlanned(plan) || !planting) return <CropChoice doc={doc} draft={draft} plan={plan} />;
  const sheet = sheets.data?.find((s) => s.id === plan.sheet);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-5 py-2 sm:grid-cols-[12rem_minmax(0,1fr)]">
      <div>
        <Figures plan={plan} step="plants" also={["rows.stations", "rows.plants", "life.first", "life.full"]} press={press} />
      </div>
      <div className="min-w-0">
        <PlanSheet plan={plan} season={season} height={260} />
        <div className="mt-3 flex flex-wrap items-end gap-3">
          {!stands(plan) && <DateField draft={draft} date={planting.date} />}
          {!stands(plan) && <Survival draft={draft} doc={doc} sheet={sheet?.material.survival ?? 0} />}
          {plan.stage === "planned" && (
            <button
              className="act act-first"
              onClick={() =>
                void write
                  .adopt(doc)
                  .then(() => say("Adopted: its dates are the baseline now"), sayError)
                  .finally(() => void changed())
              }
            >
              Adopt this plan
            </button>
          )}
          {plan.stage === "planned" && (
            <button className="act" onClick={() => setOff(true)}>
              Take the crop off
            </button>
          )}
          {off && (
            <Panel title={`Take ${plan.sheetName.toLowerCase()} off this block?`} close={() => setOff(false)}>
              <p>The plan goes, with what was chosen for it. What was recorded of it stays, and undo brings the plan back.</p>
              <p className="mt-3 flex gap-2">
                <button
                  className="act act-first"
                  onClick={() => {
                    setOff(false);
                    void draft.commit({ planting: null }, "The plan is taken off; undo brings it back");
                  }}
                >
                  Take it off
                </button>
                <button className="act" onClick={() => setOff(false)}>
                  Leave it
                </button>
              </p>
            </Panel>
          )}
          {plan.stage === "adopted" && (
            <p className="text-faint">
              Adopted {planting.adoptedBy && `by ${planting.adoptedBy} `}on {day(planting.adoptedOn)}, for planting on{" "}
              {day(planting.baseDate)}.
            </p>
          )}
        </div>
        <Supplies plan={plan} />
        <Takes plan={plan} doc={doc} draft={draft} press={press} season={season} setSeason={setSeason} />
        {sheet && (
          <dl className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-x-6 text-sm sm:grid-cols-2">
            {[
              ["Kind", sheet.material.kind],
              ["Pollinizers", plan.figures.some((f) => f.path === "plants.pollinizers") ? sheet.material.pollinizerKind : ""],
              ["Accept", sheet.material.spec],
              ["Reject", sheet.material.reject],
              ["Handling", sheet.material.handling],
            ]
              .filter(([, v]) => v)
              .map(([k, v]) => (
                <div key={k} className="border-b border-line py-1">
                  <dt className="font-semibold">{k}</dt>
                  <dd>{v}</dd>
                </div>
              ))}
          </dl>
        )}
      </div>
    </div>
  );
}

function DateField({ draft, date }: { draft: Draft; date: string }) {
  const [typed, setTyped] = useState<string>();
  return (
    <label className="flex flex-col text-sm">
      Planting date
      <input
        type="date"
        className="field"
        min="1900-01-01"
        max="2200-12-31"
        value={typed ?? date}
        onChange={(e) => {
          setTyped(e.target.value);
          if (e.target.value) void draft.ask({ planting: { date: e.target.value } }, dated);
        }}
        onBlur={() => {
          if (typed && typed !== date)
            void draft
              .commit({ planting: { date: typed } }, `Planting moved to ${day(typed)}`)
              .finally(() => setTyped(undefined));
          else {
            setTyped(undefined);
            draft.drop();
          }
        }}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      />
    </label>
  );
}

function Survival({ draft, doc, sheet }: { draft: Draft; doc: BlockDoc; sheet: number }) {
  const p = doc.block.planting!;
  const [typed, setTyped] = useState<string>();
  const now = Math.round((p.survival || sheet) * 1000) / 10;
  return (
    <label className="flex flex-col text-sm">
      Plants that establish, % {p.survival ? "" : "(sheet)"}
      <input
        className="field w-28 text-right"
        inputMode="decimal"
        value={typed ?? String(now)}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => {
          const v = Number(typed) / 100;
          setTyped(undefined);
          if (typed !== undefined && Number(typed) !== now) void draft.commit({ planting: { survival: v } });
        }}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      />
    </label>
  );
}

/** The sheets a planting can be planned with; the others judge ground only. */
const whole = (sheets?: Schema["Sheet"][]) => (sheets ?? []).filter((s) => s.layouts.length > 0);

type Compared = Pick<Plan, "figures" | "cropDate" | "years">;

/** Nothing stands here yet: every crop of the library, computed for this ground, side by side. */
function CropChoice({ doc, draft, plan }: { doc: BlockDoc; draft: Draft; plan: Plan }) {
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
