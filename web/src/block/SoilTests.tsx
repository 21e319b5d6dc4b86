import { useState } from "react";
import { useLists, type Schema } from "../api/client";
import { DayField, FileButton, NumberField, Pick, TextField } from "../shell/Fields";
import { Panel } from "../shell/Sheet";
import { ErrorText } from "../shell/States";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { day } from "../units";
import type { StepProps } from "./stepProps";
import { LabFile } from "./LabFile";
import { Samples } from "./Samples";

type Test = Schema["SoilTest"];
type Field = Schema["TestField"];

export const value = (t: Test, f: string) => (t as unknown as Record<string, number | undefined>)[f];

/** useSpan says the depths a sample was taken between. */
export function useSpan() {
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
