import { useState } from "react";
import { useNavigate } from "react-router";
import { changed, useLists, useSheets, write, type BlockDoc, type Plan } from "../api/client";
import { Pick } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Panel } from "../shell/Sheet";
import { day } from "../units";
import { considering, planning } from "./paths";

/** How a stand ended: its story is kept, and what follows waits for it. */
export function Ending({ doc, plan }: { doc: BlockDoc; plan: Plan }) {
  const lists = useLists();
  const [asking, setAsking] = useState(false);
  const [on, setOn] = useState(plan.today);
  const [how, setHow] = useState("grubbed");
  const [why, setWhy] = useState("");
  const end = doc.block.planting?.end;
  if (end)
    return (
      <section>
        <h2>Its end</h2>
        <p className="mt-1">
          {end.how}, {day(end.on, true)}
          {end.by && ` (${end.by})`}
          {end.why && `: ${end.why}`}.
        </p>
      </section>
    );
  return (
    <section>
      <h2>Its end</h2>
      <p className="mt-1 text-faint">
        When the stand is grubbed or ploughed in, its years, rows and records stay; the next planting waits for it.
      </p>
      <button className="act mt-2" onClick={() => setAsking(true)}>
        Record its end
      </button>
      {asking && (
        <Panel title={`How did ${plan.sheetName.toLowerCase()} end here?`} close={() => setAsking(false)}>
          <form
            className="flex flex-wrap items-end gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              setAsking(false);
              write
                .end(doc, { on, how, why: why.trim() })
                .then(() => say("Its end is recorded; its story stays"), sayError)
                .finally(() => void changed());
            }}
          >
            <Pick label="How" value={how} options={(lists.data?.ends ?? []).map((e) => ({ id: e, words: e }))} keep={setHow} />
            <label className="flex flex-col text-sm">
              On
              <input
                className="field"
                type="date"
                required
                min={doc.block.planting?.planted}
                max={plan.today}
                value={on}
                onChange={(e) => setOn(e.target.value)}
              />
            </label>
            <label className="flex w-full flex-col text-sm">
              Why
              <input className="field" maxLength={300} value={why} onChange={(e) => setWhy(e.target.value)} />
            </label>
            <button className="act act-first">Record its end</button>
          </form>
        </Panel>
      )}
    </section>
  );
}

/** A successor is considered or planned while the stand before it still stands, or after it. */
export function WhatFollows({ doc }: { doc: BlockDoc }) {
  const sheets = useSheets();
  const go = useNavigate();
  const [sheet, setSheet] = useState("");
  const [on, setOn] = useState("");
  const chosen = sheets.data?.find((s) => s.id === sheet);
  const begin = (body: ReturnType<typeof planning>) =>
    void write
      .plan(doc, body)
      .then((d) => {
        say(`${chosen?.name ?? sheet} follows here`);
        void go(`/blocks/${doc.id}/plants?planting=${d.plantings.find((p) => p.seen)?.id ?? ""}`);
      }, sayError)
      .finally(() => void changed());
  return (
    <section>
      <h2>What follows</h2>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        <Pick
          label="Crop"
          value={sheet}
          options={[{ id: "", words: "choose one" }, ...(sheets.data ?? []).map((s) => ({ id: s.id, words: s.name }))]}
          keep={setSheet}
        />
        <label className="flex flex-col text-sm">
          Planted on (left empty: in its season)
          <input
            className="field"
            type="date"
            min="1900-01-01"
            max="2200-12-31"
            value={on}
            onChange={(e) => setOn(e.target.value)}
          />
        </label>
        <button className="act" disabled={!sheet} onClick={() => begin(considering(sheet, on))}>
          Consider it
        </button>
        <button className="act" disabled={!chosen || chosen.layouts.length === 0} onClick={() => begin(planning(sheet, on))}>
          Plan it
        </button>
      </div>
    </section>
  );
}
