import { Select } from "@headlessui/react";
import { useState } from "react";
import { changed, record, write } from "../api/client";
import { useReading } from "../shell/reading";
import { say, sayError } from "../shell/Notices";
import { day, toSI } from "../units";
import { Counted } from "./Counted";
import { Ending, WhatFollows } from "./Ending";
import { NoCrop } from "./NoCrop";
import { isPlanned, stands } from "./paths";
import { RecordList } from "./RecordList";
import type { StepProps } from "./stepProps";

/** What was really done: planted, and what was picked season by season. */
export function RecordStep({ plan, doc }: StepProps) {
  const { text, number, unit, system } = useReading();
  const [on, setOn] = useState(plan.today);
  const [season, setSeason] = useState(String(plan.yearToday));
  const [amount, setAmount] = useState("");
  if (!isPlanned(plan) || !doc.block.planting) return <NoCrop plan={plan} id={doc.id} />;
  const p = doc.block.planting;
  const recorded = plan.years.filter((y) => y.recorded);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-8 py-3 sm:grid-cols-2">
      <section>
        <h2>Planting</h2>
        {p.asPlanted ? (
          <>
            <p className="mt-1">
              Planted {day(p.planted, true)}: {number(p.asPlanted.stations, "count")} stations in {p.asPlanted.rows.length} pieces
              of row, each with a permanent number such as R1-001.
            </p>
            <a className="act mt-2 inline-block" href={`/api/v1/blocks/${doc.id}/stations.csv`} download>
              Stations as CSV
            </a>
          </>
        ) : (
          <form
            className="mt-1 flex flex-wrap items-end gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              write
                .planted(doc, on)
                .then(() => say("Recorded: the layout is fixed with its station numbers"), sayError)
                .finally(() => void changed());
            }}
          >
            <p className="w-full text-faint">
              Recording fixes the {number(plan.figures.find((f) => f.path === "rows.stations")?.value ?? 0, "count")} stations as
              they are planned now. No later change moves a plant.
            </p>
            <label className="flex flex-col text-sm">
              Planted on
              <input type="date" className="field" value={on} max={plan.today} onChange={(e) => setOn(e.target.value)} />
            </label>
            <button className="act act-first">Record as planted</button>
            <a className="act" href={`/api/v1/blocks/${doc.id}/stations.csv`} download>
              Planned stations as CSV
            </a>
          </form>
        )}
      </section>
      <section>
        <h2>Picked</h2>
        <form
          className="mt-1 flex flex-wrap items-end gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            setAmount(""); // at once: the next one may be typed before this one is kept
            void record(doc.id, {
              kind: "picked",
              planting: plan.planting,
              day: plan.today,
              season: Number(season),
              kg: toSI(Number(amount.replace(",", ".")), plan.massAs, system),
            }).then(
              () => say("Recorded"),
              (error: unknown) => {
                setAmount(amount);
                sayError(error);
              },
            );
          }}
        >
          <label className="flex flex-col text-sm">
            Season
            <Select className="field" value={season} onChange={(e) => setSeason(e.target.value)}>
              {plan.years
                .filter((y) => y.season <= plan.yearToday)
                .reverse()
                .map((y) => (
                  <option key={y.season} value={y.season}>
                    {y.label}
                  </option>
                ))}
            </Select>
          </label>
          <label className="flex flex-col text-sm">
            {plan.product}, {unit(plan.massAs)} from the block
            <input
              className="field w-36 text-right"
              inputMode="decimal"
              required
              pattern="[0-9]+([.,][0-9]+)?"
              value={amount}
              onChange={(e) => setAmount(e.target.value)}
            />
          </label>
          <button className="act act-first" disabled={plan.years[0]!.season > plan.yearToday}>
            Record
          </button>
        </form>
        {recorded.length === 0 ? (
          <p className="mt-2 text-faint">Nothing is recorded yet.</p>
        ) : (
          <div className="mt-3 max-h-72 overflow-auto" tabIndex={0} role="region" aria-label="Picked by season">
            <table className="tbl">
              <thead>
                <tr>
                  <th>season</th>
                  <th className="num">picked</th>
                  <th className="num">planned</th>
                  <th className="num">of plan</th>
                </tr>
              </thead>
              <tbody>
                {recorded.map((y) => (
                  <tr key={y.season}>
                    <td>{y.label}</td>
                    <td className="num">{text(y.pickedKg, plan.massAs)}</td>
                    <td className="num">{text(y.blockKg.base, plan.massAs)}</td>
                    <td className="num">{y.blockKg.base > 0 ? text(y.pickedKg / y.blockKg.base, "fraction") : "–"}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </section>
      <Counted doc={doc} plan={plan} />
      {p.asPlanted && <Ending doc={doc} plan={plan} />}
      {stands(plan) && <WhatFollows doc={doc} />}
      <RecordList doc={doc} plan={plan} />
    </div>
  );
}
