import { record, useRecords, type BlockDoc, type Plan, type Schema } from "../api/client";
import { say, sayError } from "../shell/Notices";
import { useReading } from "../shell/reading";
import { Busy, ErrorText } from "../shell/States";
import { Wide } from "../shell/Wide";
import { day } from "../units";

type Kept = Schema["Record"];

/** Everything recorded of a planting, the newest first; what was corrected or taken back stays to be read. */
export function RecordList({ doc, plan }: { doc: BlockDoc; plan: Plan }) {
  const records = useRecords(doc.id);
  const { text } = useReading();
  if (records.isPending) return <Busy what="Reading the records" />;
  if (records.error) return <ErrorText error={records.error} />;
  const all = records.data.filter((r) => !r.planting || r.planting === plan.planting);
  const over = new Set(all.map((r) => r.corrects).filter(Boolean));
  const names = new Map(plan.jobs.map((j) => [j.key, j.name]));
  const season = (y?: number) => plan.years.find((x) => x.season === y)?.label ?? String(y);
  const words = (r: Kept) =>
    ({
      done: () => `${names.get(r.operation ?? "") ?? r.operation}: done`,
      partly: () => `${names.get(r.operation ?? "") ?? r.operation}: ${Math.round((r.share ?? 0) * 100)} % done`,
      "not-yet": () => `${names.get(r.operation ?? "") ?? r.operation}: looked at, not yet`,
      "not-needed": () => `${names.get(r.operation ?? "") ?? r.operation}: not needed`,
      counted: () => `${r.what}: ${text(r.value ?? 0, "count")}`,
      measured: () => `${r.what}: ${r.value} ${r.unit}`,
      picked: () => `picked in ${season(r.season)}: ${text(r.kg ?? 0, plan.massAs)}`,
      withdrawn: () => `taken back: ${all.find((o) => o.id === r.corrects)?.kind ?? "a record"}`,
    })[r.kind]();
  return (
    <section className="sm:col-span-2">
      <h2>Everything recorded</h2>
      {all.length === 0 ? (
        <p className="mt-1 text-faint">Nothing is recorded yet. Work is marked as done at Care, Prepare and Jobs.</p>
      ) : (
        <Wide label="Records">
          <table className="tbl">
            <thead>
              <tr>
                <th>day</th>
                <th>what</th>
                <th>by</th>
                <th>
                  <span className="sr-only">take back</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {[...all].reverse().map((r) => (
                <tr key={r.id} className={over.has(r.id) ? "text-faint line-through" : ""}>
                  <td className="whitespace-nowrap">{r.day ? day(r.day) : "not noted"}</td>
                  <td>
                    {words(r)}
                    {r.note && <span className="block text-sm text-faint">{r.note}</span>}
                  </td>
                  <td>{r.who}</td>
                  <td>
                    {!over.has(r.id) && r.kind !== "withdrawn" && (
                      <button
                        className="text-faint underline"
                        aria-label={`Take back: ${words(r)}`}
                        onClick={() =>
                          void record(doc.id, { kind: "withdrawn", planting: r.planting, corrects: r.id }).then(
                            () => say("Taken back; the record stays to be read"),
                            sayError,
                          )
                        }
                      >
                        take back
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      )}
    </section>
  );
}
