import { useState } from "react";
import type { Schema } from "../api/client";
import { person } from "../api/client";
import { useReading } from "../shell/reading";
import { Panel } from "../shell/Sheet";
import { Word } from "../shell/Word";
import { Wide } from "../shell/Wide";
import { ErrorText } from "../shell/States";
import { day } from "../units";
import type { Draft } from "./draft";

type Fork = Schema["Fork"];
type Way = Schema["Way"];

/** Where practice divides: the ways side by side, with what each would mean for this block. */
export function Forks({
  forks,
  error,
  here,
  draft,
  today,
}: {
  forks?: Fork[];
  error: unknown;
  here: string;
  draft: Draft;
  today: string;
}) {
  const [taking, setTaking] = useState<{ fork: Fork; way: Way }>();
  const [why, setWhy] = useState("");
  const list = forks?.filter((f) => f.step === here) ?? [];
  if (error) return <ErrorText error={error} />;
  if (list.length === 0) return null;
  return (
    <section aria-label="Forks of this step" className="no-print border-t border-line px-5 py-4">
      {list.map((f) => (
        <ForkView key={f.id} fork={f} take={(way) => (setWhy(""), setTaking({ fork: f, way }))} />
      ))}
      {taking && (
        <Panel title={taking.fork.question} close={() => setTaking(undefined)}>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              const made = {
                [taking.fork.id]: {
                  option: taking.way.id,
                  by: person.get(),
                  on: taking.fork.scope === "block" ? today : null,
                  why: why.trim(),
                },
              };
              const patch: Record<string, unknown> = { ...taking.way.patch, choices: made };
              void draft.commit(
                taking.fork.scope === "block" ? { decided: made } : { planting: patch },
                `${taking.way.name} is taken`,
              );
              setTaking(undefined);
            }}
          >
            <p>
              <b>{taking.way.name}.</b> {taking.way.sentence}
            </p>
            <label className="mt-3 flex flex-col gap-1">
              Why this way? It is kept with the choice.
              <textarea className="field" rows={2} value={why} onChange={(e) => setWhy(e.target.value)} />
            </label>
            <button className="act act-first mt-3">Take this way</button>
          </form>
        </Panel>
      )}
    </section>
  );
}

function ForkView({ fork, take }: { fork: Fork; take: (w: Way) => void }) {
  const reading = useReading();
  const labels = (fork.ways[0]?.consequences ?? []).filter((c) => c.differs).map((c) => c.label);
  const n = fork.ways.length;
  const systems = fork.ways.some((w) => w.system);
  return (
    <div className="mb-6">
      <h2>{fork.question}</h2>
      <p className="text-faint">
        <Word is="fork">A fork.</Word>{" "}
        {fork.locked
          ? "The plants stand in the ground; this shows what the other ways would have been."
          : fork.decided
            ? `Decided${fork.by ? " by " + fork.by : ""}${fork.on ? " on " + day(fork.on) : ""}${fork.why ? `: “${fork.why}”` : ""}`
            : "Not decided: the plan goes the usual way until somebody chooses."}
        {labels.length === 0 && " The ways do not differ in plants, crop, jobs or nitrogen."}
      </p>
      <Wide label={`Ways: ${fork.question}`} className="mt-1">
        <div style={{ minWidth: n * 190, maxWidth: n * 330 }}>
          <svg aria-hidden viewBox={`0 0 ${n * 100} 24`} preserveAspectRatio="none" className="block h-6 w-full">
            {fork.ways.map((w, i) => (
              <path
                key={w.id}
                d={`M${n * 50} 0 C${n * 50} 14 ${i * 100 + 14} 6 ${i * 100 + 14} 24`}
                stroke={w.taken ? "var(--color-input)" : "var(--color-line)"}
                strokeWidth={w.taken ? 3 : 1.6}
                vectorEffect="non-scaling-stroke"
                fill="none"
              />
            ))}
          </svg>
          <div className="grid" style={{ gridTemplateColumns: `repeat(${n}, minmax(0, 1fr))` }}>
            {fork.ways.map((w, i) => (
              <div key={w.id} className={`flex flex-col border-l-2 pr-4 pl-3 ${w.taken ? "border-input" : "border-line"}`}>
                {systems && (
                  <p className="text-sm text-faint">{w.system === fork.ways[i - 1]?.system ? <>&nbsp;</> : w.system}</p>
                )}
                <p className="font-semibold">
                  {w.name} {w.taken && <span className="text-sm font-normal text-input">{fork.decided ? "taken" : "usual"}</span>}
                </p>
                <p className="text-sm">{w.sentence}</p>
                <dl className="mt-2 text-sm">
                  {w.consequences
                    .filter((c) => labels.includes(c.label))
                    .map((c) => (
                      <div key={c.label} className="flex justify-between gap-2 border-b border-line py-0.5">
                        <dt className="text-faint">{c.label}</dt>
                        <dd className="text-right font-semibold">{c.text || reading.text(c.value, c.quantity)}</dd>
                      </div>
                    ))}
                </dl>
                <p className="mt-1 text-sm text-faint">
                  {w.when}
                  {w.when && "; "}
                  {w.origin}
                </p>
                {!fork.locked && w.consequences.length > 0 && (!w.taken || !fork.decided) && (
                  <button className="act mt-2 self-start" onClick={() => take(w)}>
                    {w.taken ? "Decide for this" : "Take this way"}
                    <span className="sr-only">: {w.name}</span>
                  </button>
                )}
              </div>
            ))}
          </div>
        </div>
      </Wide>
    </div>
  );
}
