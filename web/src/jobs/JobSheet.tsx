import { Link, useParams } from "react-router";
import { useEstate, usePlan } from "../api/client";
import { PlanSheet } from "../draw/PlanSheet";
import { Busy, Empty, Trouble } from "../shell/States";
import { useReading } from "../shell/reading";
import { day } from "../units";

/** One job to take to the field: what, where, how much, with what, the caution, and room for what was found. To print. */
export default function JobSheet() {
  const { id = "", key = "" } = useParams();
  const plan = usePlan(id);
  const estate = useEstate();
  const { text } = useReading();
  if (plan.isPending || estate.isPending) return <Busy what="Writing the job sheet" />;
  if (!plan.data || !estate.data) return <Trouble error={plan.error ?? estate.error} />;
  const p = plan.data;
  const j = p.jobs.find((x) => x.key === key);
  if (!j)
    return (
      <Empty title="There is no such job any more">
        The plan has changed since. <Link to="/jobs">All jobs</Link>
      </Empty>
    );
  const crews = estate.data.estate.crews ?? [];
  const crew = crews.find((c) => c.id === j.who);
  const takes = p.supplies.filter((s) => s.key === j.key);
  const line = (k: string, v?: string) =>
    v ? (
      <div className="border-b border-line py-1">
        <dt className="text-sm text-faint">{k}</dt>
        <dd>{v}</dd>
      </div>
    ) : null;
  const season = p.years.find((y) => y.age === j.age)?.season ?? p.years[0]?.season ?? 0;
  return (
    <article className="mx-auto max-w-3xl px-5 py-4">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1>{j.name}</h1>
        <span className="text-faint">
          {p.name}, {estate.data.estate.name}
        </span>
        <span className="no-print ml-auto flex items-baseline gap-3">
          {(["a4", "letter"] as const).map((paper) => (
            <a
              key={paper}
              className="text-faint underline"
              download
              href={`/api/v1/jobs/sheets.pdf?${new URLSearchParams({ from: j.from, to: j.by, block: p.block, job: j.key, paper })}`}
            >
              PDF, {paper === "a4" ? "A4" : "Letter"}
            </a>
          ))}
          <button className="act" onClick={() => window.print()}>
            Print
          </button>
        </span>
      </div>
      <p className="text-lg font-semibold">
        {day(j.from)}
        {j.by !== j.from && ` to ${day(j.by)}`}
      </p>
      {j.caution && (
        <p className="my-2 border-2 border-decide px-3 py-2">
          <b>Caution:</b> {j.caution}
        </p>
      )}
      <dl>
        {line("What and how much", j.detail)}
        {line("Why", j.why)}
        {line(
          "Who",
          crew &&
            `${crew.name}${j.hours == null ? ", hours unknown" : `, ${text(j.hours, "hours")}${j.hoursBy === "said" ? "" : ` ${j.hoursBy}`}`}`,
        )}
        {line("How the date follows", j.rule)}
        {line("From", j.origin)}
      </dl>
      {takes.length > 0 && (
        <table className="tbl mt-3">
          <caption className="text-left font-semibold">To bring</caption>
          <tbody>
            {takes.map((s) => (
              <tr key={s.what}>
                <td>{s.what}</td>
                <td className="num">{text(s.amount.base, s.quantity)}</td>
                <td className="text-sm text-faint">{s.how}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="keep mt-3">
        <PlanSheet plan={p} season={season} height={260} />
      </div>
      <section className="keep mt-3">
        <h2>Done</h2>
        {["by whom", "on", "how much, of what", "what was found"].map((w) => (
          <p key={w} className="flex items-end gap-2 pt-4">
            <span className="w-40 text-sm text-faint">{w}</span>
            <span className="flex-1 border-b border-ink" />
          </p>
        ))}
        <p className="mt-6 h-24 border border-line" />
      </section>
    </article>
  );
}
