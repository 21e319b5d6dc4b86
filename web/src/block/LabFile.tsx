import { useRef, useState } from "react";
import { changed, read, useEstate, useLists, write, type Schema } from "../api/client";
import { Pick, TextField } from "../shell/Fields";
import { say } from "../shell/Notices";
import { Panel } from "../shell/Sheet";
import { ErrorText } from "../shell/States";
import { Wide } from "../shell/Wide";
import { day } from "../units";
import type { StepProps } from "./stepProps";
import { useSpan } from "./SoilTests";

/** A laboratory's file: how its columns are taken, to be corrected, and then the tests it gives. */
export function LabFile({
  file,
  doc,
  close,
}: {
  file: { name: string; text: string };
  doc: StepProps["doc"];
  close: () => void;
}) {
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
