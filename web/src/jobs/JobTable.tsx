import { Link } from "react-router";
import type { Schema } from "../api/client";
import { day } from "../units";
import type { Mark } from "./mark";
import { DayField, NumberField, Pick } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { changeBlock } from "./AddJob";
import { waiting } from "./Roots";
import { MarkJob } from "./MarkJob";

type Job = Schema["Job"];

/** Jobs in date order, with what is done, why, the caution and how the date follows. */
export function JobTable({
  jobs,
  today,
  mark,
  crews,
}: {
  jobs: Schema["EstateJob"][];
  today: string;
  mark?: (job: Job, m: Mark, block: string, planting: string) => void;
  crews?: Schema["Crew"][]; // hours and crew can be said where they are given
}) {
  const named = jobs.some((j) => j.blockName);
  if (jobs.length === 0) return <p className="py-3 text-faint">No job falls in this time.</p>;
  return (
    <table className="tbl">
      <thead>
        <tr>
          <th>when</th>
          {named && <th>block</th>}
          <th>job</th>
          <th className="max-sm:hidden">how the date follows</th>
          <th>done</th>
        </tr>
      </thead>
      <tbody>
        {jobs.map(({ job: j, block, blockName, planting, number }) => (
          <tr key={block + j.key}>
            <td className="w-40 max-sm:w-24">
              <span className={j.passed ? "font-semibold text-decide" : "font-semibold"}>{day(j.from)}</span>
              {j.by !== j.from && (
                <span className="text-faint">
                  <br />
                  {j.preparation ? "at the latest" : "to"} {day(j.by)}
                </span>
              )}
              {j.late && (
                <span className="text-decide">
                  <br />
                  its days have passed
                </span>
              )}
              {j.on && (
                <span className="text-growth">
                  <br />
                  planned for {day(j.on)}
                </span>
              )}
              {j.slack !== null && !j.done && !j.notNeeded && !j.passed && (
                <span className={j.slack < 0 ? "text-decide" : "text-faint"}>
                  <br />
                  {waiting(j.slack)}
                </span>
              )}
              {j.passed && (
                <span className="text-decide">
                  <br />
                  its day has passed
                </span>
              )}
              {j.baseline && j.baseline !== j.from && (
                <span className="text-straw">
                  <br />
                  adopted for {day(j.baseline)}
                </span>
              )}
            </td>
            {named && (
              <td className="w-36">
                <Link className="hover:underline" to={`/blocks/${block}/care`}>
                  <b>{number}</b> {blockName}
                </Link>
              </td>
            )}
            <td>
              <b>{j.name}</b> <span className="text-faint">{j.phase}</span>
              {j.detail && <div>{j.detail}</div>}
              {j.when && (
                <div>
                  <b>When</b> {j.when}
                  {j.looked && <span className="text-faint">; not so yet on {day(j.looked)}</span>}
                </div>
              )}
              {j.why && <div className="text-sm text-faint">{j.why}</div>}
              {j.caution && (
                <div className="text-sm">
                  <b>Caution:</b> {j.caution}
                </div>
              )}
              <div className="text-sm text-faint sm:hidden">{j.rule}</div>
              {crews && <EffortOf job={j} block={block} crews={crews} />}
            </td>
            <td className="w-52 text-sm text-faint max-sm:hidden">
              {j.rule}
              <br />
              {j.origin}
            </td>
            <td className="w-32 max-sm:w-24">
              {mark ? (
                <MarkJob
                  name={j.name}
                  done={j.done}
                  notNeeded={j.notNeeded}
                  when={j.when}
                  share={j.share}
                  record={j.record}
                  today={today}
                  mark={(m) => mark(j, m, block, planting)}
                />
              ) : (
                j.done && day(j.done)
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What a job asks of the people: hours each time, and which crew; said once for an operation, it holds every time it comes back. */
function EffortOf({ job: j, block, crews }: { job: Job; block: string; crews: Schema["Crew"][] }) {
  const { number } = useReading();
  const keep = (part: { hours?: number; crew?: string; way?: string }) => {
    const next = { hours: j.hoursBy === "said" ? (j.hours ?? undefined) : undefined, crew: j.crew, way: j.way, ...part };
    const said = { hours: next.hours ?? null, crew: next.crew, way: next.way }; // null takes them away again
    void changeBlock(
      block,
      (b) =>
        j.own
          ? { jobs: (b.jobs ?? []).map((x) => (`own-${x.id}` === j.key ? { ...x, hours: next.hours, crew: next.crew } : x)) }
          : { planting: { effort: { ...b.planting?.effort, [j.operation]: said } } },
      "It is kept for every time this comes back",
    );
  };
  return (
    <div className="no-print mt-1 flex flex-wrap items-end gap-2">
      <NumberField
        label={`Hours of ${j.name}`}
        hidden
        unit="h"
        quantity="plain"
        width="w-16"
        value={j.hoursBy === "said" ? (j.hours ?? undefined) : undefined}
        keep={(v) => keep({ hours: v })}
      />
      <span className="pb-1 text-sm text-faint">
        {j.hours == null
          ? "hours unknown"
          : j.hoursBy === "said"
            ? "h each time"
            : `about ${number(j.hours, "hours")} h ${j.hoursBy}`}
      </span>
      {j.ways.length > 1 && (
        <Pick
          label={`How: ${j.name}`}
          hidden
          value={j.way}
          options={j.ways.map((w) => ({ id: w, words: w }))}
          keep={(way) => keep({ way })}
        />
      )}
      {!j.own && (
        <DayField
          label={`Day of ${j.name}`}
          hidden
          value={j.on}
          keep={(d) =>
            void changeBlock(
              block,
              () => ({ planting: { days: { [j.key]: d || null } } }),
              d ? `${j.name} is planned for ${day(d)}` : `${j.name} is left to its time`,
            )
          }
        />
      )}
      {crews.length > 1 && (
        <Pick
          label={`Crew of ${j.name}`}
          hidden
          value={j.who}
          options={[...(j.who ? [] : [{ id: "", words: "nobody" }]), ...crews.map((c) => ({ id: c.id, words: c.name }))]}
          keep={(crew) => keep({ crew })}
        />
      )}
      <Link className="pb-1 text-sm text-faint underline" to={`/blocks/${block}/jobs/${encodeURIComponent(j.key)}`}>
        job sheet
      </Link>
    </div>
  );
}
