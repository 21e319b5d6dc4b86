import type { Y } from "./groundAxes";
import { useState } from "react";
import type { BlockDoc, Plan } from "../api/client";
import { Tabs } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { useKeys } from "../shell/keyboard";
import type { Draft } from "./draft";
import { nutrientNames } from "./nutrients";
import { YearTable } from "./YearTable";
import { useWidth } from "../shell/useWidth";
import { YearView } from "./GroundYear";
import { Life } from "./GroundLife";

export interface Props {
  plan: Plan;
  doc: BlockDoc;
  draft: Draft;
  press: (figure: string) => void;
  season: number;
  setSeason: (s: number) => void;
}

/** The ground line: what comes out above, what goes in below, time along the surface of the soil. */
export function GroundLine(props: Props) {
  const { plan, season, setSeason } = props;
  const [zoom, setZoom] = useState<"life" | "year">("life");
  const [table, setTable] = useState(false);
  const [box, width] = useWidth(300);
  useKeys({ t: () => setTable(!table) });
  const first = plan.years[0]!.season;
  const last = plan.years.at(-1)!.season;
  const move = (to: number) => setSeason(Math.min(last, Math.max(first, to)));
  const key = (e: React.KeyboardEvent) => {
    const by = e.shiftKey ? 5 : 1;
    const moves: Record<string, () => void> = {
      ArrowLeft: () => move(season - by),
      ArrowRight: () => move(season + by),
      Home: () => move(first),
      End: () => move(last),
      Enter: () => setZoom(zoom === "life" ? "year" : "life"),
    };
    const f = moves[e.key];
    if (f) {
      e.preventDefault();
      f();
    }
  };
  const year = plan.years.find((y) => y.season === season)!;
  return (
    <section aria-label="Ground line" className="border-t border-line px-5 pt-2 pb-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2>Ground line</h2>
        <span className="text-sm text-faint max-sm:hidden">
          what comes out above, what goes in below; filled is recorded, outlined is planned
        </span>
        <div className="ml-auto flex items-baseline gap-3">
          <Tabs
            bare
            tabs={
              [
                ["life", "Life"],
                ["year", `Year ${year.label}`],
              ] as const
            }
            on={zoom}
            turn={setZoom}
            label="How much of the life is shown"
          />
          <button
            aria-pressed={table}
            onClick={() => setTable(!table)}
            className={table ? "border-b-2 border-ink font-semibold" : "text-faint"}
          >
            Table
          </button>
        </div>
      </div>
      <div
        ref={box}
        tabIndex={0}
        role="slider"
        aria-label="Plumb line: season"
        aria-valuemin={first}
        aria-valuemax={last}
        aria-valuenow={season}
        aria-valuetext={`${year.label}, age year ${year.age}`}
        onKeyDown={key}
        className="relative min-w-0"
      >
        {zoom === "life" ? (
          <Life {...props} width={width} year={year} move={move} open={() => setZoom("year")} />
        ) : (
          <YearView plan={plan} year={year} width={width} />
        )}
      </div>
      <Plumb {...props} year={year} />
      {table && <YearTable plan={plan} press={props.press} season={season} />}
    </section>
  );
}

/** Every value under the plumb line, in words and figures. */
function Plumb({ plan, year, press }: Props & { year: Y }) {
  const { text, number } = useReading();
  return (
    <p className="mt-1 flex flex-wrap gap-x-5 gap-y-1" aria-live="polite">
      <b>
        {year.label}, age year {year.age}
      </b>
      <span>
        <button className="press" data-figure={`yield.${year.season}`} onClick={() => press(`yield.${year.season}`)}>
          {text(year.perHa.base, plan.yieldAs)}
        </button>{" "}
        <span className="text-faint">
          ({number(year.perHa.low, plan.yieldAs)} to {number(year.perHa.high, plan.yieldAs)})
        </span>
        , {text(year.blockKg.base, plan.massAs)} from the block
      </span>
      {year.recorded && <span>picked {text(year.pickedKg, plan.massAs)}</span>}
      {plan.nutrients.map((n) => (
        <span key={n}>
          {nutrientNames[n]}{" "}
          <button className="press" data-figure={`feed.${n}.${year.season}`} onClick={() => press(`feed.${n}.${year.season}`)}>
            {text(year.feedPerHa[n] ?? 0, "rate")}
          </button>
        </span>
      ))}
      <span>{year.jobs} jobs</span>
      <span>
        {number(year.plants, "count")} plants alive <span className="text-faint">({text(year.alive, "fraction")})</span>
      </span>
    </p>
  );
}
