import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { patchBlock, changed, useBlock, usePlan, useForks, type Plan } from "../api/client";
import { Busy, ErrorText, Trouble } from "../shell/States";
import { Panel } from "../shell/Sheet";
import { sayError } from "../shell/Notices";
import { useKeys } from "../shell/keyboard";
import { useReading } from "../shell/reading";
import { Descent } from "./Descent";
import { useDraft } from "./draft";
import { Forks } from "./Forks";
import { GroundLine } from "./GroundLine";
import { MarginNotes } from "./MarginNotes";
import { stepPages, type StepKey } from "./steps";
import { Working } from "./Working";
import { isPlanned, stands, toBlock } from "./paths";
import { PlantingLine } from "./PlantingLine";

/** Steps that need the whole sheet; their years stand at the others. */
const wide = new Set<StepKey>(["soil", "drains", "fit", "prepare"]);

export default function BlockPage() {
  const { id = "", step } = useParams();
  const go = useNavigate();
  const block = useBlock(id);
  const plan = usePlan(id);
  const forks = useForks(id);
  const draft = useDraft(block.data, plan.data);
  const [figure, setFigure] = useState("");
  const [at, setAt] = useState<number>();
  const { text } = useReading();
  const shown = draft.preview ?? plan.data;
  const here: StepKey = step && step in stepPages ? (step as StepKey) : shown && !isPlanned(shown) ? "plants" : "rows";
  useKeys({
    w: () => {
      const f = (document.activeElement as HTMLElement | null)?.dataset.figure;
      setFigure(f ?? shown?.figures.find((x) => x.step === here)?.path ?? "area");
    },
    r: () => void go(toBlock(id, "record")),
  });
  useEffect(() => {
    document.title = shown ? `${shown.name} · Slow Root` : "Slow Root";
    return () => {
      document.title = "Slow Root";
    };
  }, [shown]);
  if (block.isPending || plan.isPending) return <Busy what="Computing the plan" />;
  if (!block.data || !plan.data) return <Trouble error={block.error ?? plan.error} retry={() => void plan.refetch()} />;
  const p = shown as Plan;
  const doc = block.data;
  const Page = stepPages[here];
  // a standing planting is seen today, a planned one when it has grown
  const usual = stands(p) ? p.yearToday : (p.years[Math.min(9, p.years.length - 1)]?.season ?? p.yearToday);
  const season = at ?? Math.min(Math.max(usual, p.years[0]?.season ?? usual), p.years.at(-1)?.season ?? usual);
  const divides = <Forks forks={forks.data} error={forks.error} here={here} draft={draft} today={p.today} />;
  const props = { plan: p, doc, draft, press: setFigure, season, setSeason: setAt };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] md:grid-cols-[11rem_minmax(0,1fr)]">
      <Descent id={id} plan={p} here={here} area={text(p.ground.areaM2, "area")} />
      <div className="min-w-0">
        <div className="grid grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_18.5rem]">
          <div className="min-w-0 px-5 pt-3">
            <div className="flex flex-wrap items-baseline gap-x-3">
              <h1>{p.name}</h1>
              <span className="text-faint">{p.words}</span>
              <Link className="no-print ml-auto text-faint hover:text-ink" to={toBlock(id, "print")}>
                Print the plan
              </Link>
            </div>
            <PlantingLine doc={doc} plan={p} />
            {draft.error !== undefined && <ErrorText error={draft.error} />}
            <Page {...props} />
            {wide.has(here) && divides}
          </div>
          <MarginNotes plan={p} draft={draft} here={here} />
        </div>
        {p.years.length > 0 && !wide.has(here) && <GroundLine {...props} />}
        {!wide.has(here) && divides}
      </div>
      {figure && <Working id={id} figure={figure} press={setFigure} close={() => setFigure("")} />}
      {draft.stale && (
        <Panel title="Somebody changed this block" close={draft.leave}>
          <p>
            While you were deciding, <b>{draft.stale.current.block.name}</b> was changed. Nothing of theirs is lost, and your
            change is not yet made. The page now shows their state.
          </p>
          <p className="mt-2 font-semibold">Your change:</p>
          <pre className="mt-1 overflow-auto bg-soil p-2 text-sm">{JSON.stringify(draft.stale.patch, null, 1)}</pre>
          <div className="mt-3 flex gap-2">
            <button
              className="act act-first"
              onClick={() => {
                const s = draft.stale!;
                draft.leave();
                patchBlock(s.current, s.patch)
                  .catch(sayError)
                  .finally(() => {
                    draft.drop();
                    void changed();
                  });
              }}
            >
              Make my change on top
            </button>
            <button
              className="act"
              onClick={() => {
                draft.leave();
                draft.drop();
              }}
            >
              Leave it as they left it
            </button>
          </div>
        </Panel>
      )}
    </div>
  );
}
