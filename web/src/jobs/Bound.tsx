import { useState } from "react";
import type { Plan, Schema } from "../api/client";
import { bound } from "../block/draft";
import type { StepProps } from "../block/stepProps";
import { day, dayNumber } from "../units";
import { Roots, waiting } from "./Roots";

type Tie = Schema["NetworkTie"];

/**
 * What binds the work before planting: every job between the first and the last day it can be, on the day it is planned,
 * with a root to what it holds up. A job is dragged inside its room; what waits for it moves with it before it is let go.
 */
export function Bound({ plan, doc, draft }: StepProps) {
  const n = plan.network;
  const [chosen, choose] = useState("");
  const on = n.jobs.find((j) => j.key === chosen) ?? n.jobs.find((j) => n.binds.includes(j.key)) ?? n.jobs[0];
  if (n.jobs.length < 2 || !on)
    return <p className="py-2 text-faint">Nothing before planting is bound yet: choose the crop the ground is meant for.</p>;
  const days = (key: string, d: string | null) => ({ planting: { days: { [key]: d } } });
  return (
    <section aria-label="What binds the work before planting" className="py-2">
      <p className="max-w-prose">
        Planting is meant for <b>{day(plan.cropDate)}</b>
        {n.free <= plan.cropDate ? (
          <>
            ; with everything begun as soon as it can be it could be on {day(n.free)}, so there are{" "}
            {dayNumber(plan.cropDate) - dayNumber(n.free)} days in hand.
          </>
        ) : (
          <>
            , but with everything begun as soon as it can be it is possible from <b className="text-decide">{day(n.free)}</b> only
            {n.freeInWindow !== n.free && `, in a planting season from ${day(n.freeInWindow)}`}.
          </>
        )}
        {n.binds.length > 0 && <> {n.binds.map((k) => n.jobs.find((j) => j.key === k)?.name).join(", then ")} decides that.</>}
      </p>
      {n.freeInWindow > plan.cropDate && (
        <button
          className="act act-first no-print mt-1"
          onClick={() =>
            void draft.commit({ planting: { date: n.freeInWindow } }, `Planting is meant for ${day(n.freeInWindow)}`)
          }
        >
          Plant on {day(n.freeInWindow)}
        </button>
      )}
      <Roots
        plan={plan}
        chosen={on.key}
        choose={choose}
        tried={(j, d) => void draft.ask(days(j.key, d), bound)}
        keep={(j, d) => void draft.commit(days(j.key, d), `${j.name} is planned for ${day(d)}`)}
      />
      <div className="mt-2 grid gap-x-8 border-t border-line pt-2 sm:grid-cols-2" aria-live="polite">
        <div>
          <p>
            <b>{on.name}</b>
          </p>
          <p className="text-sm">
            {on.done
              ? `Done on ${day(on.done)}.`
              : on.slack < 0
                ? `It should have been begun by ${day(on.latest)}; the first day it can be is ${day(on.earliest)}.`
                : `Between ${day(on.earliest)} and ${day(on.latest)} it moves nothing that is fixed: it ${waiting(on.slack)}.`}
            {on.within && ` It is done ${on.within}.`}
            {on.days > 0 && ` It takes ${on.days === 1 ? "a day" : `${on.days} days`}.`}
          </p>
          {on.said && !on.done && (
            <button
              className="act mt-1"
              onClick={() => void draft.commit(days(on.key, null), `${on.name} is left to its time; undo brings its day back`)}
            >
              Leave it to its time
            </button>
          )}
        </div>
        <div className="text-sm">
          <Ties title="It waits for" ties={on.waits} choose={choose} none="nothing but its own day" />
          <Ties title="It holds up" ties={on.holds} choose={choose} none="nothing" />
        </div>
      </div>
      {n.conflicts.length > 0 && <Conflicts plan={plan} choose={choose} />}
      <p className="no-print mt-2 text-sm text-faint">
        The pale bar is the room a job has; the knot is the day it is planned for. Drag a knot, or focus it and use the arrow
        keys, with Shift a week; what waits for it moves along. Hours and crews said on {doc.block.name}&apos;s jobs give a job
        its length.
      </p>
    </section>
  );
}

function Ties({ title, ties, choose, none }: { title: string; ties: Tie[]; choose: (k: string) => void; none: string }) {
  return (
    <div className="mb-1">
      <p className="font-semibold">{title}</p>
      {ties.length === 0 && <p className="text-faint">{none}</p>}
      <ul>
        {ties.map((t) => (
          <li key={t.key + t.words}>
            <button className={`text-left hover:underline ${t.binds ? "font-semibold" : ""}`} onClick={() => choose(t.key)}>
              {t.words}
            </button>
            {t.binds && <span className="text-faint"> decides it</span>}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What cannot be kept together, each rule with whether anything on the farm can move it. */
function Conflicts({ plan, choose }: { plan: Plan; choose: (k: string) => void }) {
  return (
    <details className="mt-3" open>
      <summary className="cursor-pointer font-semibold">
        What cannot be kept together:{" "}
        {plan.network.conflicts.length === 1 ? "one set of rules" : `${plan.network.conflicts.length} sets of rules`}
      </summary>
      <ol className="mt-2 max-w-prose space-y-2">
        {plan.network.conflicts.map((c, i) => (
          <li key={i} className="border-l-4 border-decide bg-soil px-3 py-1.5 text-sm">
            <b className="text-decide">{c.short === 1 ? "A day is lacking" : `${c.short} days are lacking`}</b>
            <ul>
              {c.steps.map((s, k) => (
                <li key={k}>
                  <button className="text-left hover:underline" onClick={() => choose(s.key)}>
                    {s.words}
                  </button>{" "}
                  <span className="text-faint">{s.hard ? "(cannot be moved)" : "(can be moved)"}</span>
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
    </details>
  );
}
