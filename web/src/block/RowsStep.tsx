import { useState } from "react";
import { Link } from "react-router";
import { Bearings } from "../rows/Bearings";
import { Companions } from "../rows/Companions";
import { Obstacles } from "../rows/Obstacles";
import { Plots } from "../rows/Plots";
import { Strips } from "../rows/Strips";
import { Stumps } from "../rows/Stumps";
import { Tabs } from "../shell/Fields";
import type { Plan } from "../api/client";
import { useReading } from "../shell/reading";
import { Figures } from "./Figures";
import { PlanKey, PlanSheet } from "../draw/PlanSheet";
import { NoCrop } from "./NoCrop";
import type { StepProps } from "./stepProps";
import { isPlanned, stands, toBlock } from "./paths";
import { Spacing } from "./Spacing";

const views = [
  ["spacing", "Spacing"],
  ["beside", "Between and over the rows"],
  ["bearing", "Bearing"],
  ["obstacles", "Obstacles and headlands"],
] as const;

export function RowsStep(props: StepProps) {
  const { plan, doc, season, setSeason, press } = props;
  const [view, setView] = useState<(typeof views)[number][0]>("spacing");
  if (!isPlanned(plan)) return <NoCrop plan={plan} id={doc.id} />;
  const shown = stands(plan) || plan.spec.pattern === "contour" ? views.filter(([k]) => k !== "bearing") : views;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 py-2 sm:grid-cols-[12rem_minmax(0,1fr)]">
      <div>
        <Figures plan={plan} step="rows" without={["canopy.touch"]} press={press} />
        <div className="mt-3">
          <PlanKey plan={plan} season={season} />
        </div>
      </div>
      <div className="min-w-0">
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          <Tabs tabs={shown} on={view} turn={setView} label="What of the rows" />
          <span className="no-print flex gap-4 text-sm text-faint">
            <Link className="hover:text-ink" to={toBlock(doc.id, "pegs")}>
              Peg them out
            </Link>
            <Link className="hover:text-ink" to={`/blocks/${doc.id}/options`}>
              Compare options
            </Link>
          </span>
        </div>
        {view !== "obstacles" && (
          <>
            <PlanSheet plan={plan} season={season} height={290} />
            <AgeSlider plan={plan} season={season} setSeason={setSeason} />
          </>
        )}
        {view === "spacing" && (
          <>
            <Spacing {...props} />
            {!stands(plan) && <Plots {...props} />}
          </>
        )}
        {view === "beside" && (
          <>
            <Companions {...props} />
            {!stands(plan) && <Strips {...props} />}
            {!stands(plan) && <Stumps {...props} />}
          </>
        )}
        {view === "bearing" && <Bearings {...props} />}
        {view === "obstacles" && <Obstacles {...props} />}
      </div>
    </div>
  );
}

export function AgeSlider({ plan, season, setSeason }: { plan: Plan; season: number; setSeason: (s: number) => void }) {
  const { text } = useReading();
  const first = plan.years[0]!.season;
  const last = plan.years.at(-1)!.season;
  const y = plan.years.find((v) => v.season === season);
  return (
    <>
      <label className="flex items-center gap-3 text-sm text-faint">
        age
        <input
          type="range"
          aria-label="Age shown on the plan"
          className="min-w-0 flex-1 accent-growth"
          min={first}
          max={last}
          value={season}
          onChange={(e) => setSeason(Number(e.target.value))}
        />
        <span className="w-40 text-right">{y ? `year ${y.age}, ${y.label}` : ""}</span>
      </label>
      {y && y.spreadM > 0 && (
        <p className="text-sm text-faint">
          Crowns {text(y.spreadM, "spacing")} wide cover {text(y.cover, "fraction")} of the planted ground;{" "}
          {y.alleyM > 0 ? `${text(y.alleyM, "spacing")} stay clear between two rows.` : "they close across the rows."}
          {plan.beside.some((b) => b.where === "in strips") &&
            ` ${text(1 - y.cover, "fraction")} of it is open to the sky for what stands between.`}
        </p>
      )}
    </>
  );
}
