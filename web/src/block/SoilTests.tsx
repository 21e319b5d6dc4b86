import { useRef, useState } from "react";
import { Link } from "react-router";
import { changed, read, useEstate, useLists, write, type Schema } from "../api/client";
import { DayField, FileButton, NumberField, Pick, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Panel } from "../shell/Sheet";
import { ErrorText } from "../shell/States";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { day } from "../units";
import type { StepProps } from "./stepProps";

type Test = Schema["SoilTest"];
type Field = Schema["TestField"];

const value = (t: Test, f: string) => (t as unknown as Record<string, number | undefined>)[f];

/** useSpan says the depths a sample was taken between. */
function useSpan() {
  const { text, number } = useReading();
  return (s: { fromCm: number; toCm: number }) => `${number(s.fromCm, "depth")}–${text(s.toCm, "depth")}`;
}

/** Soil tests: what the laboratory found, what follows, and how new ones come in. */
export function SoilTests({ plan, doc, draft }: StepProps) {
  const lists = useLists();
  const { number } = useReading();
  const span = useSpan();
  const [file, setFile] = useState<{ name: string; text: string }>();
  const [error, setError] = useState<unknown>();
  const [open, setOpen] = useState<number>();
  const tests = doc.block.tests ?? [];
  const put = (i: number, part: Partial<Test>) =>
    void draft.commit((b) => ({ tests: (b.tests ?? []).map((t, j) => (j === i ? { ...t, ...part } : t)) }));
  const fields = lists.data?.testFields ?? [];
  return (
    <div>
      <div className="no-print mb-2 flex flex-wrap gap-2">
        <FileButton
          label="Read a laboratory's file"
          accept=".csv,.txt,text/csv"
          most={8}
          take={(name, text) => {
            setError(undefined);
            setFile({ name, text });
          }}
          refuse={setError}
        />
        <button
          className="act"
          onClick={() => {
            setOpen(tests.length);
            void draft.commit({
              tests: [
                ...tests,
                { lab: "", sample: "", on: plan.today, fromCm: 0, toCm: 20, phMethod: "water", bufferMethod: "smp", pMethod: "" },
              ],
            });
          }}
        >
          Enter one by hand
        </button>
        <Samples plan={plan} doc={doc} />
      </div>
      {error !== undefined && <ErrorText error={error} />}
      {tests.length === 0 && (
        <p className="max-w-prose text-faint">
          No soil has been tested. It comes first: six months before planting at least, twelve better. Fifteen to twenty cores of
          each kind of soil, mixed.
        </p>
      )}
      {tests.length > 0 && (
        <Wide label="Soil tests">
          <table className="tbl">
            <thead>
              <tr>
                <th>sample</th>
                {fields.map((f) => (
                  <th key={f.name} className="num">
                    {f.label} <span className="unit">{f.unit}</span>
                  </th>
                ))}
                <th className="num">base saturation %</th>
                <th>
                  <span className="sr-only">change</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {tests.map((t, i) => {
                const v = plan.soil.tests[i];
                return (
                  <tr key={i} className={v?.used ? "bg-soil" : ""}>
                    <td className="min-w-44">
                      <b>{v?.label ?? day(t.on)}</b>
                      <span className="block text-sm text-faint">
                        {t.lab || "entered by hand"}
                        {v && `, ${v.ageMonths} ${v.ageMonths === 1 ? "month" : "months"} old`}
                        {v?.used && "; the amendments rest on it"}
                        {v?.empty && <b className="block text-decide">Nothing was measured in it yet: it counts for nothing.</b>}
                      </span>
                    </td>
                    {fields.map((f) => (
                      <td key={f.name} className="num">
                        {value(t, f.name) === undefined
                          ? ""
                          : number(value(t, f.name)!, f.name === "ph" || f.name === "bufferPh" ? "ph" : "plain")}
                        {f.name === "ph" && t.ph !== undefined && <span className="block text-sm text-faint">{t.phMethod}</span>}
                      </td>
                    ))}
                    <td className="num">{v?.basePct === undefined ? "" : number(v.basePct, "percent")}</td>
                    <td>
                      <button className="act" onClick={() => setOpen(i)}>
                        Change
                      </button>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </Wide>
      )}
      {open !== undefined && tests[open] && (
        <Panel title={`Soil test, ${span(tests[open])}`} close={() => setOpen(undefined)}>
          <div className="grid grid-cols-2 gap-2">
            <DayField label="Sampled on" value={tests[open].on} keep={(x) => x && put(open, { on: x })} />
            <TextField label="Laboratory" value={tests[open].lab} keep={(x) => put(open, { lab: x })} />
            <NumberField label="From" quantity="depth" value={tests[open].fromCm} keep={(x) => put(open, { fromCm: x ?? 0 })} />
            <NumberField label="To" quantity="depth" value={tests[open].toCm} keep={(x) => x && put(open, { toCm: x })} />
            <Pick
              label="pH measured in"
              value={tests[open].phMethod}
              options={lists.data?.phMethods ?? []}
              keep={(x) => put(open, { phMethod: x })}
            />
            <Pick
              label="Buffer"
              value={tests[open].bufferMethod}
              options={lists.data?.buffers ?? []}
              keep={(x) => put(open, { bufferMethod: x })}
            />
            {fields.map((f: Field) => (
              <NumberField
                key={f.name}
                label={f.label}
                unit={f.unit}
                quantity="plain"
                value={value(tests[open]!, f.name)}
                keep={(x) => put(open, { [f.name]: x } as Partial<Test>)}
              />
            ))}
          </div>
          <button
            className="act mt-4"
            onClick={() => {
              setOpen(undefined);
              void draft.commit({ tests: tests.filter((_, j) => j !== open) }, "The test is taken out; undo brings it back");
            }}
          >
            Take this test out
          </button>
        </Panel>
      )}
      {file && <LabFile file={file} doc={doc} close={() => setFile(undefined)} />}
    </div>
  );
}

/** A laboratory's file: how its columns are taken, to be corrected, and then the tests it gives. */
function LabFile({ file, doc, close }: { file: { name: string; text: string }; doc: StepProps["doc"]; close: () => void }) {
  const span = useSpan();
  const lists = useLists();
  const estate = useEstate();
  const known = Object.keys(estate.data?.estate.labs ?? {});
  const [lab, setLab] = useState(known[0] ?? file.name.replace(/\.\w+$/, ""));
  const [report, setReport] = useState<Schema["LabReport"]>();
  const [error, setError] = useState<unknown>();
  const [asked, setAsked] = useState("");
  // what the person has changed, kept at once: the next change must not wait for the answer to the last
  const mended = useRef<Record<string, Partial<Schema["LabColumn"]>>>({});
  const turn = useRef(0);
  const look = (mapping: Record<string, Schema["LabColumn"]>, of = lab) => {
    const mine = ++turn.current;
    setError(undefined);
    read.lab({ text: file.text, lab: of, mapping }).then(
      (r) => mine === turn.current && setReport(r),
      (e: unknown) => mine === turn.current && setError(e),
    );
  };
  if (asked !== file.text) {
    setAsked(file.text);
    look({});
  }
  const mapping = () =>
    Object.fromEntries(
      (report?.columns ?? []).map((c) => [c.head, { field: c.field, unit: c.unit, how: c.how, ...mended.current[c.head] }]),
    );
  const change = (head: string, part: Partial<Schema["LabColumn"]>) => {
    mended.current = { ...mended.current, [head]: { ...mended.current[head], ...part } };
    look(mapping());
  };
  const fields = [
    { id: "", words: "left out" },
    ...(lists.data?.ownColumns ?? []).map((o) => ({ id: o, words: o.replace("Cm", ", cm") })),
    ...(lists.data?.testFields ?? []).map((f) => ({ id: f.name, words: f.label })),
  ];
  return (
    <Panel title={file.name} close={close} wide>
      <TextField
        label="Laboratory; its columns are remembered under this name"
        width="w-full"
        value={lab}
        keep={(v) => {
          setLab(v);
          mended.current = {};
          look({}, v);
        }}
      />
      {error !== undefined && (
        <div className="mt-2">
          <ErrorText error={error} />
        </div>
      )}
      {report && (
        <>
          <Wide label="Columns of the file" className="mt-3">
            <table className="tbl">
              <thead>
                <tr>
                  <th>column</th>
                  <th>first value</th>
                  <th>is taken as</th>
                  <th>unit</th>
                  <th>method</th>
                </tr>
              </thead>
              <tbody>
                {report.columns.map((c) => {
                  const f = lists.data?.testFields.find((x) => x.name === c.field);
                  return (
                    <tr key={c.head}>
                      <td>
                        <b>{c.head}</b>
                        {c.problem && <span className="block text-decide">{c.problem}</span>}
                      </td>
                      <td>{c.example}</td>
                      <td>
                        <Pick
                          hidden
                          label={`${c.head} is taken as`}
                          value={c.field}
                          options={fields}
                          keep={(v) => change(c.head, { field: v })}
                        />
                      </td>
                      <td>
                        {f && f.units.length > 1 && (
                          <Pick
                            hidden
                            label={`${c.head}, unit`}
                            value={
                              f.units.includes(c.unit)
                                ? c.unit
                                : (f.units.find((u) => u.replace(/ /g, "") === c.unit.replace(/ /g, "")) ?? "?")
                            }
                            options={f.units.includes(c.unit) ? f.units : ["?", ...f.units]}
                            keep={(v) => change(c.head, { unit: v })}
                          />
                        )}
                      </td>
                      <td>
                        {(c.field === "ph" || c.field === "bufferPh") && (
                          <Pick
                            hidden
                            label={`${c.head}, method`}
                            value={c.how}
                            options={(c.field === "ph" ? lists.data?.phMethods : lists.data?.buffers) ?? []}
                            keep={(v) => change(c.head, { how: v })}
                          />
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </Wide>
          {report.tests.map((t, i) => (
            <p key={i} className="mt-2 text-sm">
              <b>
                {t.sample || `Sample ${i + 1}`}, {span(t)}, {day(t.on)}
              </b>
              {(report.shown[i] as string[]).length > 0 && (
                <span className="text-faint">: {(report.shown[i] as string[]).join("; ")}</span>
              )}
            </p>
          ))}
          <button
            className="act act-first mt-3"
            disabled={!report.ready || report.tests.length === 0}
            onClick={() =>
              void write
                .tests(doc, { text: file.text, lab, mapping: mapping() })
                .then(
                  () => {
                    say(`Read ${report.tests.length === 1 ? "one test" : `${report.tests.length} tests`}`);
                    close();
                  },
                  (e: unknown) => setError(e),
                )
                .finally(() => void changed())
            }
          >
            {report.ready
              ? `Take ${report.tests.length === 1 ? "this test" : `these ${report.tests.length} tests`}`
              : "Mend the columns first"}
          </button>
        </>
      )}
    </Panel>
  );
}

/** Samples sent to the laboratory, and their reports. */
function Samples({ plan, doc }: { plan: StepProps["plan"]; doc: StepProps["doc"] }) {
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
