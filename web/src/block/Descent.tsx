import { Link } from "react-router";
import { glossary } from "../shell/glossary";
import { Explained } from "../shell/Word";
import type { Plan } from "../api/client";
import { stepPages, type StepKey } from "./steps";
import { toBlock } from "./paths";

/** The steps of the job descend like a root; any of them opens at any time. */
export function Descent({ id, plan, here, area }: { id: string; plan: Plan; here: StepKey; area: string }) {
  const keys = Object.keys(stepPages) as StepKey[];
  const gap = 63;
  const top = 66;
  const bottom = top + (keys.length - 1) * gap + 34;
  return (
    <nav aria-label="Steps of this block" className="no-print relative border-line max-md:border-b md:border-r">
      <svg aria-hidden width="142" height={bottom} className="max-md:hidden">
        <path d="M0 26H150" stroke="var(--color-ink)" strokeWidth="1.6" />
        {Array.from({ length: 19 }, (_, i) => (
          <path key={i} d={`M${i * 8 + 5} 26l-4 5`} stroke="var(--color-ink)" strokeWidth="0.7" />
        ))}
        <path
          d="M34 26V12M34 18C28 17 24 12 24 8C30 9 33 12 34 18ZM34 15C38 13 43 9 43 4C38 6 35 9 34 15Z"
          stroke="var(--color-growth)"
          strokeWidth="1.6"
          fill="none"
        />
        <path
          d={`M34 26 C36 ${top + gap} 31 ${top + 2 * gap} 34 ${bottom - 30} L34.5 ${bottom}`}
          stroke="var(--color-input)"
          strokeWidth="3"
          fill="none"
        />
        {keys.map((k, i) => (
          <path
            key={k}
            d={`M34 ${top + i * gap + 12} q-8 10 -19 14 M34 ${top + i * gap + 8} q6 8 16 13`}
            stroke="var(--color-input)"
            strokeWidth="1.1"
            fill="none"
          />
        ))}
      </svg>
      <ol className="max-md:flex max-md:flex-wrap max-md:gap-x-4 max-md:px-4 max-md:py-2">
        {keys.map((k, i) => {
          const s = plan.steps.find((x) => x.key === k);
          const state = s?.state ?? "untouched";
          const on = k === here;
          return (
            <li key={k} className="md:absolute md:left-0" style={{ top: top + i * gap - 12 }}>
              <Explained text={`${state}: ${glossary[state]}${s && s.open > 0 ? ` A fork: ${glossary.fork.toLowerCase()}` : ""}`}>
                <Link
                  to={toBlock(id, k)}
                  aria-current={on ? "step" : undefined}
                  className="flex items-start gap-2.5 hover:underline md:pl-[22px]"
                >
                  <svg aria-hidden width="24" height="24" viewBox="0 0 24 24" className="shrink-0">
                    <circle
                      cx="12"
                      cy="12"
                      r={on ? 9 : 6.5}
                      fill={on ? "var(--color-ink)" : state === "settled" ? "var(--color-input)" : "var(--color-paper)"}
                      stroke={on ? "var(--color-ink)" : state === "open" ? "var(--color-decide)" : "var(--color-input)"}
                      strokeWidth="2"
                    />
                    {state === "open" && !on && (
                      <path d="M9 13.5L12 10L15 13.5" stroke="var(--color-decide)" strokeWidth="1.6" fill="none" />
                    )}
                  </svg>
                  <span className="leading-tight">
                    <span className={on ? "font-semibold" : "text-ink"}>{stepPages[k].name}</span>
                    {s && s.open > 0 && (
                      <span className="block text-sm text-decide">{s.open === 1 ? "1 fork open" : `${s.open} forks open`}</span>
                    )}
                    {s && s.notes > 0 && (
                      <span className="block text-sm text-decide">{s.notes === 1 ? "1 note" : `${s.notes} notes`}</span>
                    )}
                    <span className="sr-only">, {state}</span>
                  </span>
                </Link>
              </Explained>
            </li>
          );
        })}
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
