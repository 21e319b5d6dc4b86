import { useState } from "react";
import { useParams } from "react-router";
import { changed, patchBlock, person, latest, useBlock, usePlan, type Schema } from "../api/client";
import { sayError } from "../shell/Notices";
import { useReading } from "../shell/reading";
import { Busy, Trouble } from "../shell/States";
import { day } from "../units";
import { PrintBar } from "./PrintBar";
import { toBlock } from "../block/paths";

const states = [
  ["good", "Good"],
  ["bad", "Not good"],
  ["skipped", "Skip"],
] as const;

/** The inspection list: to print and take along, or to fill in on the phone in the field. */
export default function ChecklistPage() {
  const { id = "" } = useParams();
  const plan = usePlan(id);
  const block = useBlock(id);
  const { text } = useReading();
  if (plan.isPending || block.isPending) return <Busy what="Writing the list" />;
  if (plan.error || block.error) return <Trouble error={plan.error ?? block.error} />;
  const list = plan.data.checklist;
  const groups = [...new Set(list.map((c) => c.group))];
  const filled = list.filter((c) => c.state).length;
  const keep = (c: Schema["CheckItem"], part: Partial<Schema["Check"]>) =>
    void patchBlock(latest(block.data), {
      checks: { [c.key]: { state: c.state || "good", note: c.note, ...part, by: person.get(), on: plan.data.today } },
    })
      .catch(sayError)
      .finally(() => void changed());
  return (
    <article className="mx-auto max-w-[190mm] px-4 py-4 print:max-w-none print:p-0">
      <PrintBar back={toBlock(id, "prepare")} />
      <header className="border-b-2 border-ink pb-1">
        <h1>Inspection of {plan.data.name}</h1>
        <p className="text-faint">
          {plan.data.cropName ? `for ${plan.data.cropName.toLowerCase()}; ` : ""}
          {filled} of {list.length} looked at, {day(plan.data.today, true)}
        </p>
      </header>
      {groups.map((g) => (
        <section key={g} className="mt-4">
          <h2>{g}</h2>
          <ul>
            {list
              .filter((c) => c.group === g)
              .map((c) => (
                <li key={c.key} className="keep border-b border-line py-2">
                  <p className="text-[1.05rem]">{c.look}</p>
                  <p className="text-sm text-ink">good: {c.good}</p>
                  <div role="group" aria-label={c.look} className="no-print mt-1.5 flex flex-wrap gap-2">
                    {states.map(([s, words]) => (
                      <button
                        key={s}
                        aria-pressed={c.state === s}
                        className={`act min-h-11 px-4 text-base ${c.state === s ? "act-first" : ""}`}
                        onClick={() => keep(c, { state: s })}
                      >
                        {words}
                      </button>
                    ))}
                    {c.state && <Note item={c} keep={(note) => keep(c, { note })} />}
                  </div>
                  <p className="hidden print:block">
                    {c.state
                      ? `${states.find(([s]) => s === c.state)?.[1]}. ${c.note}`
                      : "☐ good   ☐ not good   ______________________________________"}
                  </p>
                  {c.state && (
                    <p className="text-sm text-faint">
                      {c.by || "somebody"}, {day(c.on)}
                    </p>
                  )}
                </li>
              ))}
          </ul>
        </section>
      ))}
      <p className="mt-4 text-sm">
        Never stand in a pit deeper than {text(1.2, "spacing")} unshored, and never alone. Ask where pipes and cables lie before
        digging.
      </p>
    </article>
  );
}

function Note({ item, keep }: { item: Schema["CheckItem"]; keep: (note: string) => void }) {
  const [typed, setTyped] = useState<string>();
  return (
    <input
      className="field min-h-11 min-w-40 flex-1 text-base"
      aria-label={`Note: ${item.look}`}
      placeholder="what was seen"
      value={typed ?? item.note}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={() => {
        if (typed !== undefined && typed !== item.note) keep(typed);
        setTyped(undefined);
      }}
      onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
    />
  );
}
