import { useParams } from "react-router";
import { useBlock, useEstate, usePlan, type Plan } from "../api/client";
import { PlanKey, PlanSheet } from "../draw/PlanSheet";
import { weightWords } from "../block/weights";
import { Supplies } from "../block/Supplies";
import { TakesTable } from "../block/Takes";
import { YearTable } from "../block/YearTable";
import { useReading } from "../shell/reading";
import { Busy, Trouble } from "../shell/States";
import { inLine } from "../shell/words";
import { day } from "../units";
import { PrintBar } from "./PrintBar";
import { isPlanned, stands, toBlock } from "../block/paths";

/** The block plan and the year table, on paper. */
export default function PrintPage() {
  const { id = "" } = useParams();
  const plan = usePlan(id);
  const block = useBlock(id);
  const estate = useEstate();
  const { text } = useReading();
  if (plan.isPending || block.isPending) return <Busy what="Setting the pages" />;
  if (plan.error || block.error) return <Trouble error={plan.error ?? block.error} />;
  const p = plan.data;
  const planting = block.data.block.planting;
  const full = p.years.at(Math.floor(p.years.length / 2));
  const before = p.jobs.filter((j) => j.preparation || (j.age <= 1 && !j.preparation));
  return (
    <article className="mx-auto max-w-[190mm] px-5 py-4 print:max-w-none print:p-0">
      <PrintBar back={toBlock(id)} />
      <header className="flex items-baseline justify-between border-b-2 border-ink pb-1">
        <h1>{p.name}</h1>
        <span>
          {estate.data?.estate.name}, seen from {day(p.today, true)}
        </span>
      </header>
      {!isPlanned(p) ? (
        <>
          <p className="mt-2">
            {text(p.ground.areaM2, "area")}; {p.words}. {p.cropName && p.cannot}
          </p>
          <Margin plan={p} />
          {before.length > 0 && <Jobs title="On the ground, before planting" jobs={before} />}
        </>
      ) : (
        <>
          <p className="mt-2">
            {p.words.charAt(0).toUpperCase() + p.words.slice(1)}:{" "}
            {stands(p) ? day(planting!.planted, true) : `to be planted ${day(planting!.date, true)}`}
            {planting?.adoptedBy && `; adopted by ${planting.adoptedBy}, ${day(planting.adoptedOn, true)}`}.
          </p>
          <div className="keep mt-2 grid grid-cols-[1fr_13rem] gap-5">
            <PlanSheet plan={p} season={full?.season ?? p.yearToday} height={330} />
            <div>
              <PlanKey plan={p} season={full?.season ?? p.yearToday} />
            </div>
          </div>
          <dl className="mt-3 columns-3 gap-x-6 text-sm max-sm:columns-1">
            {p.figures.map((f) => (
              <div key={f.path} className="flex break-inside-avoid justify-between gap-2 border-b border-line py-px">
                <dt>{inLine(f.label)}</dt>
                <dd className="text-right font-semibold whitespace-nowrap">{f.text || text(f.value, f.quantity)}</dd>
              </div>
            ))}
          </dl>
          <Margin plan={p} />
          <Jobs title={stands(p) ? "First years" : "Before planting and the first season"} jobs={before} />
          <Supplies plan={p} />
          <section className="mt-4">
            <h2>What it takes</h2>
            <TakesTable plan={p} />
          </section>
          <section className="mt-4 print:break-before-page">
            <h2>Year by year</h2>
            <YearTable plan={p} />
            <p className="mt-2 text-sm">
              Yields and doses are per planted hectare, low to high as the sheet gives them; they are estimates, not promises.
              Substances, doses and waiting times of plant protection come from the label, the local register and a licensed
              adviser.
            </p>
          </section>
        </>
      )}
    </article>
  );
}

function Margin({ plan }: { plan: Plan }) {
  if (plan.findings.length === 0) return null;
  return (
    <section className="keep mt-4">
      <h2>In the margin</h2>
      <ul>
        {plan.findings.map((f) => (
          <li key={f.rule + (f.about?.id ?? "")} className="mt-1">
            <b>{weightWords[f.weight]}.</b> {f.sentence}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Jobs({ title, jobs }: { title: string; jobs: Plan["jobs"] }) {
  return (
    <section className="mt-4">
      <h2>{title}</h2>
      <table className="tbl">
        <thead>
          <tr>
            <th>from</th>
            <th>at the latest</th>
            <th>job</th>
            <th>done</th>
          </tr>
        </thead>
        <tbody>
          {jobs.map((j) => (
            <tr key={j.key}>
              <td className="whitespace-nowrap">{day(j.from)}</td>
              <td className="whitespace-nowrap">{day(j.by)}</td>
              <td>
                <b>{j.name}</b>
                {j.detail && `: ${j.detail}`}
                {j.caution && <span className="block text-sm">Caution: {j.caution}</span>}
                {j.notNeeded && <span className="block text-sm">Not needed here: {j.notNeeded}</span>}
              </td>
              <td className="whitespace-nowrap">{j.done ? day(j.done) : j.notNeeded ? "–" : "☐"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
