import { dated } from "./draft";
import { useState } from "react";
import { changed, useSheets, write, type BlockDoc } from "../api/client";
import { say, sayError } from "../shell/Notices";
import { TextField } from "../shell/Fields";
import { Panel } from "../shell/Sheet";
import { day } from "../units";
import type { Draft } from "./draft";
import { Figures } from "./Figures";
import { PlanSheet } from "../draw/PlanSheet";
import { isPlanned, stands } from "./paths";
import type { StepProps } from "./stepProps";
import { ColdStore } from "./ColdStore";
import { Raising } from "./Raising";
import { Supplies } from "./Supplies";
import { Takes } from "./Takes";
import { CropChoice } from "./CropChoice";
import { LateCurve } from "./LateCurve";

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
          <TextField
            label="Kind and stock, as you call them"
            width="w-56"
            value={planting.called ?? ""}
            keep={(v) => void draft.commit({ planting: { called: v } })}
          />
          {plan.figures.some((f) => f.path === "plants.pollinizers") && (
            <TextField
              label="Pollen partners"
              value={planting.calledPoll ?? ""}
              keep={(v) => void draft.commit({ planting: { calledPoll: v } })}
            />
          )}
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
        {plan.late && <LateCurve late={plan.late} date={planting.planted || plan.cropDate} />}
        {!stands(plan) && <Raising plan={plan} doc={doc} draft={draft} press={press} season={season} setSeason={setSeason} />}
        {!stands(plan) && <ColdStore plan={plan} doc={doc} draft={draft} press={press} season={season} setSeason={setSeason} />}
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
