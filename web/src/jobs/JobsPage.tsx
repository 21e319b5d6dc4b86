import { useState } from "react";
import { record, useJobs, useOverview, type Schema } from "../api/client";
import { say, sayError } from "../shell/Notices";
import { Busy, Trouble } from "../shell/States";
import { Wide } from "../shell/Wide";
import { JobTable } from "./JobTable";
import { marked, markWords, type Mark } from "./mark";

const spans = { "3 months": 3, "6 months": 6, "a year": 12 } as const;

function later(date: string, months: number) {
  const [y, m, d] = date.split("-").map(Number) as [number, number, number];
  const t = new Date(Date.UTC(y, m - 1 + months, 1));
  const last = new Date(Date.UTC(t.getUTCFullYear(), t.getUTCMonth() + 1, 0)).getUTCDate();
  return new Date(Date.UTC(t.getUTCFullYear(), t.getUTCMonth(), Math.min(d, last))).toISOString().slice(0, 10);
}

export default function JobsPage() {
  const overview = useOverview();
  const [span, setSpan] = useState<keyof typeof spans>("3 months");
  const today = overview.data?.today ?? "";
  const jobs = useJobs(today, today && later(today, spans[span]));
  const keep = (j: Schema["Job"], m: Mark, block: string, planting: string) =>
    void record(block, marked(planting, j.key, m)).then(() => say(markWords(j.name, m)), sayError);
  if (overview.error) return <Trouble error={overview.error} />;
  return (
    <div className="px-5 py-4">
      <div className="flex flex-wrap items-baseline gap-4">
        <h1>Jobs</h1>
        <span className="text-faint">of all blocks, in date order, and every preparation whose day has passed</span>
        <div role="group" aria-label="How far ahead" className="no-print ml-auto flex gap-3">
          {(Object.keys(spans) as (keyof typeof spans)[]).map((s) => (
            <button
              key={s}
              aria-pressed={span === s}
              className={span === s ? "border-b-2 border-ink font-semibold" : "text-faint"}
              onClick={() => setSpan(s)}
            >
              {s}
            </button>
          ))}
          <button className="act" onClick={() => window.print()}>
            Print
          </button>
        </div>
      </div>
      {jobs.isPending ? (
        <Busy what="Gathering the jobs" />
      ) : jobs.error ? (
        <Trouble error={jobs.error} retry={() => void jobs.refetch()} />
      ) : (
        <Wide label="Jobs">
          <JobTable jobs={jobs.data} today={today} mark={keep} />
        </Wide>
      )}
    </div>
  );
}
