import { Fragment, useState } from "react";
import { record, type Patch, type Plan, type Schema, type Told } from "../api/client";
import { say, sayError } from "../shell/Notices";
import { Panel } from "../shell/Sheet";
import { glossary } from "../shell/glossary";
import { Explained, Word } from "../shell/Word";
import type { Draft } from "./draft";
import { weightTone, weightWords } from "./weights";

/** filled puts the reader's answer where the remedy's patch asks for it. */
function filled(patch: Patch, answer: string): Patch {
  return JSON.parse(JSON.stringify(patch), (_, v: unknown) => (v === "?" ? answer : v)) as Patch;
}

/** Findings, beside what they concern, with their remedies as buttons. */
export function MarginNotes({ plan, draft, here }: { plan: Plan; draft: Draft; here: string }) {
  const [asked, setAsked] = useState<Schema["Remedy"]>();
  const [answer, setAnswer] = useState("");
  const [all, setAll] = useState(false);
  const tell = (r: Schema["Remedy"]) =>
    record(plan.block, { planting: plan.planting, ...(r.record as Told) }).then(() => say(r.label), sayError);
  // what concerns this step first, then what must be mended anywhere; the rest on request
  const near = plan.findings.filter((f) => f.step === here);
  const heavy = plan.findings.filter((f) => f.step !== here && (f.weight === "stops" || f.weight === "mend"));
  const light = plan.findings.filter((f) => f.step !== here && f.weight !== "stops" && f.weight !== "mend");
  const rest = light.length;
  const list = [...near, ...heavy, ...(all ? light : [])];
  return (
    <aside
      aria-label="In the margin"
      tabIndex={0}
      className="border-line px-4 py-3 max-lg:border-t lg:max-h-[40rem] lg:overflow-y-auto lg:border-l print:max-h-none"
    >
      <h2>
        <Word is="margin">In the margin</Word>
      </h2>
      {list.length === 0 && <p className="mt-2 text-faint">Nothing to say at this step.</p>}
      <ul>
        {list.map((f) => (
          <li key={f.rule + (f.about?.id ?? "")} className="border-b border-line py-2.5">
            <p className={`font-semibold ${weightTone[f.weight]}`}>{weightWords[f.weight]}</p>
            <p>{f.sentence}</p>
            {f.source && <p className="text-sm text-faint">{f.source}</p>}
            {f.remedies.length > 0 && (
              <p className="mt-1.5 flex flex-wrap gap-1.5">
                {f.remedies.map((r, i) => {
                  const button = (
                    <button
                      className={`act text-left whitespace-normal ${i === 0 && !r.ask ? "act-first" : ""}`}
                      onClick={() => {
                        if (r.record) void tell(r);
                        else if (r.ask) {
                          setAnswer("");
                          setAsked(r);
                        } else void draft.commit(r.patch, r.label);
                      }}
                    >
                      {r.label}
                    </button>
                  );
                  return r.ask ? (
                    <Explained key={r.label} text={glossary["keep, note why"]}>
                      {button}
                    </Explained>
                  ) : (
                    <Fragment key={r.label}>{button}</Fragment>
                  );
                })}
              </p>
            )}
          </li>
        ))}
      </ul>
      {rest > 0 && (
        <button className="mt-2 text-faint underline" onClick={() => setAll(!all)}>
          {all ? "Only what concerns this step" : `${rest} more at other steps`}
        </button>
      )}
      {asked && (
        <Panel title={asked.label} close={() => setAsked(undefined)}>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              void draft.commit(filled(asked.patch, answer.trim()), "Noted");
              setAsked(undefined);
            }}
          >
            <label className="flex flex-col gap-1">
              {asked.ask}
              <textarea className="field" required rows={3} value={answer} onChange={(e) => setAnswer(e.target.value)} />
            </label>
            <button className="act act-first mt-3">Note it</button>
          </form>
        </Panel>
      )}
    </aside>
  );
}
