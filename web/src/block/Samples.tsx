import { useState } from "react";
import { Link } from "react-router";
import { changed, useEstate, useLists, write } from "../api/client";
import { NumberField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Panel } from "../shell/Sheet";
import { day } from "../units";
import type { StepProps } from "./stepProps";
import { useSpan } from "./SoilTests";

/** Samples sent to the laboratory, and their reports. */
export function Samples({ plan, doc }: { plan: StepProps["plan"]; doc: StepProps["doc"] }) {
  const span = useSpan();
  const estate = useEstate();
  const lists = useLists();
  const [asking, setAsking] = useState(false);
  const [from, setFrom] = useState(0);
  const [to, setTo] = useState(20);
  const [tests, setTests] = useState<string[]>(["ph", "buffer", "organic", "phosphorus", "bases", "acidity", "texture"]);
  const waiting = (doc.block.samples ?? []).filter((s) => !s.read);
  const done = (p: Promise<unknown>, words: string) => void p.then(() => say(words), sayError).finally(() => void changed());
  return (
    <>
      <button className="act" onClick={() => setAsking(true)}>
        Send a sample
      </button>
      {waiting.map((s) => (
        <button key={s.id} className="act" onClick={() => done(write.report(doc, s.id), "The report is read")}>
          Fetch the report of {span(s)}, sent {day(s.on)}
        </button>
      ))}
      {asking && (
        <Panel title="Send a soil sample" close={() => setAsking(false)}>
          {estate.data?.estate.laboratory ? (
            <form
              onSubmit={(e) => {
                e.preventDefault();
                setAsking(false);
                done(
                  write.sample(doc, { fromCm: from, toCm: to, tests }),
                  "The sample is sent; fetch the report when it is ready",
                );
              }}
            >
              <p className="text-faint">
                From {doc.block.name}, {day(plan.today)}.
              </p>
              <div className="mt-2 flex gap-3">
                <NumberField label="From" quantity="depth" value={from} keep={(v) => setFrom(v ?? 0)} />
                <NumberField label="To" quantity="depth" value={to} keep={(v) => setTo(v ?? 20)} />
              </div>
              <fieldset className="mt-2">
                <legend>Tests wanted</legend>
                {lists.data?.labTests.map((t) => (
                  <label key={t} className="mr-4 inline-block">
                    <input
                      type="checkbox"
                      checked={tests.includes(t)}
                      onChange={(e) => setTests(e.target.checked ? [...tests, t] : tests.filter((x) => x !== t))}
                    />{" "}
                    {t}
                  </label>
                ))}
              </fieldset>
              <button className="act act-first mt-3">Send it</button>
            </form>
          ) : (
            <p>
              No laboratory is entered. Enter its address under <Link to="/settings">the estate&apos;s settings</Link>; a
              simulated one is started with <code>slowroot simulate soil-lab</code>.
            </p>
          )}
        </Panel>
      )}
    </>
  );
}
