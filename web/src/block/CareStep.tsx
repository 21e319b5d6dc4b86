import { useState } from "react";
import { JobTable } from "../jobs/JobTable";
import { record } from "../api/client";
import { marked, markWords } from "../jobs/mark";
import { Tabs } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Figures } from "./Figures";
import { isPlanned } from "./paths";
import { NoCrop } from "./NoCrop";
import type { StepProps } from "./stepProps";

/** Jobs in date order: what is due, and what the chosen season holds. */
export function CareStep({ plan, doc, season, press }: StepProps) {
  const [which, setWhich] = useState<"next" | "season" | "before" | "all">("next");
  if (!isPlanned(plan)) return <NoCrop plan={plan} id={doc.id} />;
  const label = plan.years.find((y) => y.season === season)?.label ?? "";
  const next = (Number(plan.today.slice(0, 4)) + 1).toString() + plan.today.slice(4);
  const jobs = plan.jobs.filter((j) => {
    if (which === "all") return true;
    if (which === "before") return j.preparation;
    if (which === "season") return j.season === label;
    return j.passed || j.late || (!j.done && !j.notNeeded && j.by >= plan.today && j.from <= next);
  });
  const tabs = [
    ["next", "Next twelve months"],
    ["season", `Season ${label}`],
    ["before", "Before planting"],
    ["all", `All ${plan.jobs.length}`],
  ] as const;
  return (
    <div className="py-2">
      <Figures plan={plan} step="care" press={press} across />
      <div className="mb-2">
        <Tabs bare tabs={tabs} on={which} turn={setWhich} label="Which jobs" />
      </div>
      <div className="max-h-[27rem] overflow-auto" tabIndex={0} role="region" aria-label="Jobs">
        <JobTable
          jobs={jobs.map((job) => ({ job, block: doc.id, blockName: "", planting: plan.planting, number: 0 }))}
          today={plan.today}
          mark={(j, m) => void record(doc.id, marked(plan.planting, j.key, m)).then(() => say(markWords(j.name, m)), sayError)}
        />
      </div>
    </div>
  );
}
