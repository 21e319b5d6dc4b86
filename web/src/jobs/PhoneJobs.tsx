import type { Schema } from "../api/client";
import { useOutbox } from "../api/outbox";
import { day } from "../units";
import type { Mark } from "./mark";
import { useAway } from "./away";
import { MarkJob } from "./MarkJob";

type EstateJob = Schema["EstateJob"];

/** When a job is to be done, seen from today. */
export function turn({ job: j }: EstateJob, today: string): "late" | "waits" | "now" | "coming" {
  const from = j.on || j.from;
  const by = j.on || j.by;
  if (j.passed || by < today) return "late";
  if (from > today) return "coming";
  return j.when && !j.done ? "waits" : "now";
}

const heads = { late: "Late", now: "To be done now", waits: "Look whether it is so", coming: "Coming" };

/** The jobs as large entries for a phone in the sun: where, how much, the caution, and what came of it. */
export function PhoneJobs({
  jobs,
  today,
  mark,
}: {
  jobs: EstateJob[];
  today: string;
  mark: (job: Schema["Job"], m: Mark, block: string, planting: string) => void;
}) {
  const waits = useOutbox();
  useAway();
  const kept = new Set(waits.flatMap((p) => p.records.map((r) => `${p.block} ${r.operation ?? ""}`)));
  const open = jobs.filter((j) => !j.job.notNeeded && (!j.job.done || j.job.done === today));
  if (open.length === 0) return <p className="py-3 text-faint">No job falls in this time.</p>;
  return (
    <>
      {(["now", "waits", "late", "coming"] as const).map((t) => {
        const some = open.filter((j) => turn(j, today) === t);
        if (some.length === 0) return null;
        return (
          <section key={t} className="mt-3">
            <h2 className={t === "late" ? "text-decide" : ""}>
              {heads[t]} <span className="text-faint">{some.length}</span>
            </h2>
            <ul>
              {some.map(({ job: j, block, blockName, planting }) => (
                <li key={block + j.key} className="border-b-2 border-line py-3">
                  <p className="text-xl leading-tight font-semibold">{j.name}</p>
                  <p className="text-lg">{blockName}</p>
                  {j.when && (
                    <p className="mt-1">
                      <b>When</b> {j.when}
                      {j.looked && `; not so yet on ${day(j.looked)}`}
                    </p>
                  )}
                  {j.detail && <p className="mt-1">{j.detail}</p>}
                  {j.caution && (
                    <p className="mt-1 border-2 border-decide px-2 py-1">
                      <b>Caution:</b> {j.caution}
                    </p>
                  )}
                  <p className="mt-1 text-faint">
                    {j.on ? `planned for ${day(j.on)}` : j.by === j.from ? day(j.from) : `${day(j.from)} to ${day(j.by)}`}
                  </p>
                  {kept.has(`${block} ${j.key}`) ? (
                    <p className="mt-2 font-semibold text-straw">Kept on this device, not sent yet</p>
                  ) : (
                    <div className="mt-2">
                      <MarkJob
                        large
                        name={j.name}
                        done={j.done}
                        notNeeded={j.notNeeded}
                        when={j.when}
                        share={j.share}
                        record={j.record}
                        today={today}
                        mark={(m) => mark(j, m, block, planting)}
                      />
                    </div>
                  )}
                </li>
              ))}
            </ul>
          </section>
        );
      })}
    </>
  );
}
