import { useState } from "react";
import { record, useJobs, useJobWeeks, useOverview, type Schema } from "../api/client";
import { Pick, Tabs } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Busy, Trouble } from "../shell/States";
import { Wide } from "../shell/Wide";
import { AddJob } from "./AddJob";
import { Crews } from "./Crews";
import { Level } from "./Level";
import { JobTable } from "./JobTable";
import { PhoneJobs } from "./PhoneJobs";
import { WeeksChart } from "./WeeksChart";
import { marked, markWords, type Mark } from "./mark";

const spans = { "3 months": 3, "6 months": 6, "a year": 12 } as const;
const ahead = (Object.keys(spans) as (keyof typeof spans)[]).map((s) => [s, s] as const);

function later(date: string, months: number) {
  const [y, m, d] = date.split("-").map(Number) as [number, number, number];
  const t = new Date(Date.UTC(y, m - 1 + months, 1));
  const last = new Date(Date.UTC(t.getUTCFullYear(), t.getUTCMonth() + 1, 0)).getUTCDate();
  return new Date(Date.UTC(t.getUTCFullYear(), t.getUTCMonth(), Math.min(d, last))).toISOString().slice(0, 10);
}

const views = [
  ["list", "List"],
  ["weeks", "Weeks and crews"],
] as const;

export default function JobsPage() {
  const overview = useOverview();
  const [span, setSpan] = useState<keyof typeof spans>("3 months");
  const [view, setView] = useState<(typeof views)[number][0]>("list");
  const [block, setBlock] = useState("");
  const [crew, setCrew] = useState("");
  const today = overview.data?.today ?? "";
  const until = today && later(today, spans[span]);
  const jobs = useJobs(today, until);
  const weeks = useJobWeeks(today, until);
  const keep = (j: Schema["Job"], m: Mark, block: string, planting: string) =>
    void record(block, marked(planting, j.key, m)).then(
      (sent) => say(sent ? markWords(j.name, m) : `${markWords(j.name, m)}; kept on this device until there is a connection`),
      sayError,
    );
  if (overview.error && !overview.data) return <Trouble error={overview.error} />;
  const crews = overview.data?.estate.crews ?? [];
  const blocks = overview.data?.blocks ?? [];
  const shown = jobs.data?.filter((j) => (!block || j.block === block) && (!crew || j.job.who === crew));
  const asked = (more: Record<string, string>) =>
    new URLSearchParams({ from: today, to: until, ...(block ? { block } : {}), ...(crew ? { crew } : {}), ...more }).toString();
  const file = (form: string) => `/api/v1/jobs/file/${form}?${asked({})}`;
  const sheets = (paper: string) => `/api/v1/jobs/sheets.pdf?${asked({ paper })}`;
  return (
    <div className="px-5 py-4">
      <div className="flex flex-wrap items-baseline gap-4">
        <h1>Jobs</h1>
        <span className="text-faint">of all blocks, in date order, and what is late</span>
        <div className="no-print ml-auto flex items-baseline gap-3">
          <Tabs bare tabs={ahead} on={span} turn={setSpan} label="How far ahead" />
          <button className="act" onClick={() => window.print()}>
            Print
          </button>
        </div>
      </div>
      <div className="no-print mt-2 flex flex-wrap items-end gap-3">
        <Tabs tabs={views} on={view} turn={setView} label="Jobs as" />
        <Pick
          label="Block"
          value={block}
          options={[{ id: "", words: "all blocks" }, ...blocks.map((b) => ({ id: b.id, words: b.name }))]}
          keep={setBlock}
        />
        {crews.length > 1 && (
          <Pick
            label="Crew"
            value={crew}
            options={[{ id: "", words: "all crews" }, ...crews.map((c) => ({ id: c.id, words: c.name }))]}
            keep={setCrew}
          />
        )}
        {today && <AddJob blocks={blocks} crews={crews} today={today} />}
        <span className="ml-auto flex gap-3 text-sm">
          <a className="text-faint underline" href={file("ics")} download>
            calendar
          </a>
          <a className="text-faint underline" href={file("csv")} download>
            table
          </a>
          <a className="text-faint underline" href={file("xlsx")} download>
            workbook
          </a>
          <span className="text-faint">
            sheets{" "}
            <a className="underline" href={sheets("a4")} download>
              A4
            </a>{" "}
            <a className="underline" href={sheets("letter")} download>
              Letter
            </a>
          </span>
        </span>
      </div>
      {view === "weeks" ? (
        weeks.data ? (
          <>
            <WeeksChart weeks={weeks.data} />
            {crews.length > 0 && <Level from={today} to={until} />}
            <h2 className="mt-4">Crews</h2>
            <Crews />
          </>
        ) : weeks.error ? (
          <Trouble error={weeks.error} retry={() => void weeks.refetch()} />
        ) : (
          <Busy what="Adding up the weeks" />
        )
      ) : shown ? (
        <>
          <div className="sm:hidden print:hidden">
            <PhoneJobs jobs={shown} today={today} mark={keep} />
          </div>
          <Wide label="Jobs" className="max-sm:hidden print:block">
            <JobTable jobs={shown} today={today} mark={keep} crews={crews} />
          </Wide>
        </>
      ) : jobs.error ? (
        <Trouble error={jobs.error} retry={() => void jobs.refetch()} />
      ) : (
        <Busy what="Gathering the jobs" />
      )}
    </div>
  );
}
