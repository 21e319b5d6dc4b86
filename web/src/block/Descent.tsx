import { useState } from "react";
import { Link } from "react-router";
import { glossary } from "../shell/glossary";
import { Explained } from "../shell/Word";
import type { Plan } from "../api/client";
import type { StepKey } from "./steps";
import { toBlock } from "./paths";

type Step = Plan["steps"][number];
type Row = { group: string; top: number } | { step: Step; top: number };

const first = 50;
const headed = 25;
const apart = 50;

/** The steps of the job descend like a root, in groups that open; any of them opens at any time. */
export function Descent({ id, plan, here, area }: { id: string; plan: Plan; here: StepKey; area: string }) {
  const [shut, setShut] = useState<Record<string, boolean>>({});
  const groups = [...new Set(plan.steps.map((s) => s.group))].map((name) => ({
    name,
    steps: plan.steps.filter((s) => s.group === name),
  }));
  const rows: Row[] = [];
  let top = first;
  for (const g of groups) {
    // A group of one step is that step.
    if (g.steps.length > 1) {
      rows.push({ group: g.name, top });
      top += headed;
    }
    for (const step of g.steps) {
      if (g.steps.length > 1 && shut[g.name] && step.key !== here) continue;
      rows.push({ step, top });
      top += apart;
    }
  }
  const steps = rows.filter((r) => "step" in r);
  const bottom = (steps.at(-1)?.top ?? first) + 44;
  return (
    <nav aria-label="Steps of this block" className="no-print relative border-line max-md:border-b md:border-r">
      <svg aria-hidden width="164" height={bottom} className="max-md:hidden">
        <path d="M0 26H174" stroke="var(--color-ink)" strokeWidth="1.6" />
        {Array.from({ length: 22 }, (_, i) => (
          <path key={i} d={`M${i * 8 + 5} 26l-4 5`} stroke="var(--color-ink)" strokeWidth="0.7" />
        ))}
        <path
          d="M34 26V12M34 18C28 17 24 12 24 8C30 9 33 12 34 18ZM34 15C38 13 43 9 43 4C38 6 35 9 34 15Z"
          stroke="var(--color-growth)"
          strokeWidth="1.6"
          fill="none"
        />
        <path
          d={`M34 26 C36 ${first + apart} 31 ${first + 2 * apart} 34 ${bottom - 30} L34.5 ${bottom}`}
          stroke="var(--color-input)"
          strokeWidth="3"
          fill="none"
        />
        {steps.map((r) => (
          <path
            key={r.top}
            d={`M34 ${r.top + 22} q-8 8 -19 12 M34 ${r.top + 19} q6 7 16 11`}
            stroke="var(--color-input)"
            strokeWidth="1.1"
            fill="none"
          />
        ))}
      </svg>
      <ol className="max-md:flex max-md:flex-wrap max-md:gap-x-4 max-md:px-4 max-md:py-2">
        {rows.map((r) =>
          "group" in r ? (
            <li key={r.group} className="max-md:basis-full md:absolute md:left-0" style={{ top: r.top }}>
              <button
                className="text-sm tracking-wide text-faint hover:text-ink md:pl-[54px]"
                aria-expanded={!shut[r.group]}
                onClick={() => setShut({ ...shut, [r.group]: !shut[r.group] })}
              >
                {r.group} <span aria-hidden>{shut[r.group] ? "▸" : "▾"}</span>
              </button>
            </li>
          ) : (
            <li key={r.step.key} className="md:absolute md:left-0" style={{ top: r.top }}>
              <Node id={id} s={r.step} on={r.step.key === here} />
            </li>
          ),
        )}
      </ol>
      <p className="px-4 pb-3 text-sm text-faint max-md:hidden">
        {plan.name}
        <br />
        {plan.sheetName ? `${plan.sheetName.toLowerCase()}, ` : ""}
        {area}
      </p>
    </nav>
  );
}

/** One step: untouched, with open forks, or settled. */
function Node({ id, s, on }: { id: string; s: Step; on: boolean }) {
  const said = [
    s.open > 0 && (s.open === 1 ? "1 fork" : `${s.open} forks`),
    s.notes > 0 && (s.notes === 1 ? "1 note" : `${s.notes} notes`),
  ].filter(Boolean);
  return (
    <Explained text={`${s.state}: ${glossary[s.state]}${s.open > 0 ? ` A fork: ${glossary.fork.toLowerCase()}` : ""}`}>
      <Link
        to={toBlock(id, s.key as StepKey)}
        aria-current={on ? "step" : undefined}
        className="flex items-start gap-2.5 hover:underline md:pl-[22px]"
      >
        <svg aria-hidden width="24" height="24" viewBox="0 0 24 24" className="shrink-0">
          <circle
            cx="12"
            cy="12"
            r={on ? 9 : 6.5}
            fill={on ? "var(--color-ink)" : s.state === "settled" ? "var(--color-input)" : "var(--color-paper)"}
            stroke={on ? "var(--color-ink)" : s.state === "open" ? "var(--color-decide)" : "var(--color-input)"}
            strokeWidth="2"
          />
          {s.state === "open" && !on && (
            <path d="M9 13.5L12 10L15 13.5" stroke="var(--color-decide)" strokeWidth="1.6" fill="none" />
          )}
        </svg>
        <span className="leading-tight">
          <span className={on ? "font-semibold" : "text-ink"}>{s.name}</span>
          {said.length > 0 && <span className="block text-sm text-decide">{said.join(", ")}</span>}
          <span className="sr-only">, {s.state}</span>
        </span>
      </Link>
    </Explained>
  );
}
