import { useReading } from "../shell/reading";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { changed, useLand, useLists, person, write, type Schema } from "../api/client";
import { Table } from "../shell/Table";
import { DayField, NumberField, Pick, Tabs, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { ErrorText } from "../shell/States";
import { day } from "../units";
import { Figures } from "./Figures";
import { LandKey } from "../draw/landDraw";
import { PlanSheet } from "../draw/PlanSheet";
import type { StepProps } from "./stepProps";

/** The ground: how it lies, what is asked of a site, what grew there before, and its boundary. */
export function GroundStep(props: StepProps) {
  const { plan, doc, press, season } = props;
  const b = doc.block;
  const [tab, setTab] = useState<"lie" | "ask" | "before" | "name">("lie");
  const land = useLand(doc.id);
  const lists = useLists();
  const bare = { ...plan, rows: [] };
  const asked = lists.data?.questions.length ?? 0;
  return (
    <div className="py-2">
      <Tabs
        label="Of the ground"
        on={tab}
        turn={setTab}
        tabs={[
          ["lie", "Lie of the land"],
          ["ask", `Questions ${Object.keys(b.answers ?? {}).length} of ${asked}`],
          ["before", `What grew before ${b.uses?.length ?? 0}`],
          ["name", "Name and boundary"],
        ]}
      />
      {tab === "lie" && (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-5 sm:grid-cols-[11rem_minmax(0,1fr)]">
          <div>
            <Figures plan={plan} step="ground" without={["site.water"]} press={press} />
            {land.data && <LandKey land={land.data} />}
            <div className="mt-3 flex flex-wrap gap-2">
              <Link className="act" to="/heights">
                Heights and barriers
              </Link>
              <Link className="act" to="/climate">
                Climate
              </Link>
            </div>
          </div>
          <div className="min-w-0">
            {land.error && <ErrorText error={land.error} />}
            <PlanSheet plan={bare} season={season} height={400} land={land.data} />
            {land.data === null && (
              <p className="text-faint">
                No heights reach this block. Add spot heights or an elevation grid under Heights and barriers.
              </p>
            )}
          </div>
        </div>
      )}
      {tab === "ask" && <Questions {...props} />}
      {tab === "before" && <Uses {...props} />}
      {tab === "name" && <Name {...props} />}
    </div>
  );
}

function Questions({ plan, doc, draft, press }: StepProps) {
  const lists = useLists();
  const answers = doc.block.answers ?? {};
  return (
    <>
      <div className="mb-2 flex flex-wrap items-end gap-6">
        <NumberField
          label="Supply measured at the end of the dry season, a day"
          quantity="earth"
          value={doc.block.works?.waterM3Day || undefined}
          keep={(v) => void draft.commit({ works: { waterM3Day: v ?? null } })}
        />
        <Figures plan={plan} step="" also={["site.water"]} press={press} across />
      </div>
      <table className="tbl">
        <thead>
          <tr>
            <th>what is asked</th>
            <th>answer</th>
            <th>what it rests on</th>
          </tr>
        </thead>
        <tbody>
          {lists.data?.questions.map((q) => {
            const a = answers[q.key];
            const o = q.options.find((x) => x.id === a?.answer);
            const keep = (part: Partial<Schema["SiteAnswer"]>) =>
              void draft.commit({
                answers: {
                  [q.key]: { answer: a?.answer ?? "", evidence: a?.evidence ?? "", by: person.get(), on: plan.today, ...part },
                },
              });
            return (
              <tr key={q.key}>
                <td>
                  <b>{q.asks}</b>
                  <span className="block text-sm text-faint">{q.why}</span>
                </td>
                <td>
                  <Pick
                    hidden
                    label={q.asks}
                    value={a?.answer ?? ""}
                    options={[{ id: "", words: "not answered" }, ...q.options.map((x) => ({ id: x.id, words: x.words }))]}
                    keep={(v) => (v ? keep({ answer: v }) : void draft.commit({ answers: { [q.key]: null } }))}
                  />
                  {a && o?.weight && <span className="block text-sm text-straw">stands in the margin</span>}
                </td>
                <td>
                  {a && (
                    <TextField
                      hidden
                      label={`${q.asks} What it rests on`}
                      width="w-full"
                      value={a.evidence}
                      keep={(v) => keep({ evidence: v })}
                    />
                  )}
                  {a && (
                    <span className="text-sm text-faint">
                      {a.by || "somebody"}, {day(a.on)}
                    </span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}

function Uses({ plan, doc, draft }: StepProps) {
  const lists = useLists();
  const uses = doc.block.uses ?? [];
  const put = (make: (now: Schema["Use"][]) => Schema["Use"][], done?: string) =>
    void draft.commit((b) => ({ uses: make(b.uses ?? []) }), done);
  const change = (i: number, part: Partial<Schema["Use"]>) => put((now) => now.map((u, j) => (j === i ? { ...u, ...part } : u)));
  const wait = (u: Schema["Use"]) => plan.soil.waits.find((x) => x.kind === u.kind);
  return (
    <div>
      {uses.length === 0 && (
        <p className="max-w-prose text-faint">
          What stood, grew or was sprayed here in the last eight years, with when it ended: some of it makes the next crop wait.
        </p>
      )}
      {uses.length > 0 && (
        <Table
          label="What stood and grew here"
          rows={uses}
          columns={[
            {
              head: "what",
              cell: (u, i) => (
                <Pick
                  hidden
                  label={`Use ${i + 1}`}
                  value={u.kind}
                  options={lists.data?.uses ?? []}
                  keep={(v) => change(i, { kind: v })}
                />
              ),
            },
            {
              head: "ended",
              cell: (u, i) => (
                <>
                  <DayField hidden label={`Use ${i + 1} ended`} value={u.end} keep={(v) => change(i, { end: v })} />
                  {!u.end && <span className="block text-sm text-faint">still there</span>}
                </>
              ),
            },
            {
              head: "label’s months",
              num: true,
              cell: (u, i) => (
                <NumberField
                  hidden
                  label={`Use ${i + 1}, months by the label`}
                  quantity="count"
                  value={u.months || undefined}
                  keep={(v) => change(i, { months: Math.round(v ?? 0) })}
                />
              ),
            },
            {
              head: "note",
              cell: (u, i) => (
                <TextField hidden label={`Use ${i + 1}, note`} value={u.note} keep={(v) => change(i, { note: v })} />
              ),
            },
            {
              head: `makes ${plan.cropName ? plan.cropName.toLowerCase() : "a crop"} wait until`,
              cell: (u) => {
                const w = wait(u);
                if (!w) return <span className="text-faint">{plan.cropName ? "no wait" : "no crop is meant"}</span>;
                return (
                  <>
                    <b className={w.earliest > plan.cropDate ? "text-decide" : ""}>{day(w.earliest)}</b>
                    {w.latest !== w.earliest && `, some hold ${day(w.latest)}`}
                    <span className="block text-sm text-faint">
                      {w.why}; {w.shorten}
                    </span>
                  </>
                );
              },
            },
          ]}
          takeOut={{
            what: (_, i) => `use ${i + 1}`,
            done: (_, i) => put((now) => now.filter((_, j) => j !== i), "It is taken out; undo brings it back"),
          }}
        />
      )}
      <button
        className="act mt-2"
        onClick={() =>
          put(
            (now) => [...now, { kind: lists.data?.uses[0]?.id ?? "unknown", end: plan.today, months: 0, note: "" }],
            "Say what it was and when it ended",
          )
        }
      >
        Add what grew here
      </button>
    </div>
  );
}

function Name({ doc, draft }: StepProps) {
  const { text } = useReading();
  const b = doc.block;
  const go = useNavigate();
  const [name, setName] = useState(b.name);
  const [notes, setNotes] = useState(b.notes);
  return (
    <div>
      <p className="text-sm text-faint">
        {b.surveyed}
        {b.accuracyM > 0 && `, points to ± ${text(b.accuracyM, "spacing")}`}
      </p>
      <Link className="act mt-2 inline-block" to={`/blocks/${doc.id}/draw`}>
        Edit the boundary
      </Link>
      <form
        className="mt-4 grid max-w-3xl grid-cols-[minmax(0,1fr)] gap-2 sm:grid-cols-2"
        onSubmit={(e) => {
          e.preventDefault();
          void draft.commit({ name: name.trim(), notes }, "Kept");
        }}
      >
        <label className="flex flex-col">
          Name
          <input className="field" value={name} required maxLength={80} onChange={(e) => setName(e.target.value)} />
        </label>
        <label className="flex flex-col sm:col-span-2">
          Notes on the ground
          <textarea className="field" rows={2} value={notes} onChange={(e) => setNotes(e.target.value)} />
        </label>
        <div className="flex gap-2 sm:col-span-2">
          <button className="act act-first">Keep</button>
          <button
            type="button"
            className="act"
            onClick={() =>
              void write
                .remove(doc)
                .then(() => {
                  say(`${b.name} is removed; undo brings it back`);
                  void go("/");
                }, sayError)
                .finally(() => void changed())
            }
          >
            Remove this block
          </button>
        </div>
      </form>
    </div>
  );
}
