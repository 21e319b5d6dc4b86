import { useState } from "react";
import type { Schema } from "../api/client";
import { NumberField, Pick } from "../shell/Fields";
import { say } from "../shell/Notices";
import { Table } from "../shell/Table";
import { useReading } from "../shell/reading";
import type { StepProps } from "../block/stepProps";

type Stump = Schema["Stump"];

const fresh = () => Math.random().toString(36).slice(2, 10);

/** Stumps on the rows whose sprouts are kept: each becomes a station, and nothing is planted there. */
export function Stumps({ plan, doc, draft }: StepProps) {
  const { text } = useReading();
  const [of, setOf] = useState("main");
  const [row, setRow] = useState<number>();
  const [pasted, setPasted] = useState("");
  const list = doc.block.planting?.stumps ?? [];
  const crops = [
    { id: "main", words: plan.sheetName },
    ...plan.beside.filter((b) => b.stations > 0).map((b) => ({ id: b.id, words: b.name })),
  ];
  const put = (make: (now: Stump[]) => Stump[], done: string) =>
    void draft.commit((b) => ({ planting: { stumps: make(b.planting?.stumps ?? []) } }), done);
  const read = () => {
    const found: Stump[] = [];
    for (const line of pasted.split("\n")) {
      const [r, m] = line.trim().split(/[\s;,\t]+/);
      if (!r) continue;
      if (!/^\d+$/.test(r) || m === undefined || Number.isNaN(Number(m))) {
        say(`“${line.trim()}” is not a row and its metres, such as “3 12.5”`, true);
        return;
      }
      found.push({ id: fresh(), of, row: Number(r), atM: Number(m) });
    }
    if (found.length === 0) return;
    put((now) => [...now, ...found], `${found.length} stumps are stations now`);
    setPasted("");
  };
  return (
    <details className="no-print border-t border-line py-2" open={list.length > 0}>
      <summary className="cursor-pointer">
        <b>Stumps kept</b>{" "}
        <span className="text-sm text-faint">
          sprouts on a row stand instead of plants, each in the place of stations nearer than half a spacing
        </span>
      </summary>
      {list.length > 0 && (
        <Table
          label="Stumps kept"
          className="mt-1"
          rows={list}
          id={(s) => s.id}
          columns={[
            { head: "of", cell: (s) => crops.find((c) => c.id === s.of)?.words ?? s.of },
            { head: "row", num: true, cell: (s) => s.row },
            { head: "from its first station", num: true, cell: (s) => text(s.atM, "spacing") },
          ]}
          takeOut={{
            what: (s) => `the stump in row ${s.row}`,
            done: (s) => put((now) => now.filter((x) => x.id !== s.id), "The stump is taken off; undo brings it back"),
          }}
        />
      )}
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Pick label="On rows of" value={of} options={crops} keep={setOf} />
        <NumberField label="Row" quantity="count" width="w-16" value={row} keep={setRow} />
        <NumberField
          label="From its first station"
          quantity="spacing"
          value={undefined}
          keep={(m) => {
            if (m === undefined || row === undefined) return;
            put((now) => [...now, { id: fresh(), of, row: Math.round(row), atM: m }], "The stump is a station now");
          }}
        />
        <label className="flex flex-col text-sm text-faint">
          or pasted: row and metres, a line each
          <textarea className="field" rows={2} value={pasted} onChange={(e) => setPasted(e.target.value)} />
        </label>
        <button className="act" disabled={!pasted.trim()} onClick={read}>
          Read them
        </button>
      </div>
    </details>
  );
}
