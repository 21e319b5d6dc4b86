import type { Plan } from "../api/client";
import { useReading } from "../shell/reading";
import { inLine } from "../shell/words";

/**
 * Figures of a step in the order the plan says them: large, each with its unit lighter, each can be pressed for its
 * working. also are figures of other steps that are read with them; without names what is shown elsewhere on the step.
 */
export function Figures({
  plan,
  step,
  also = [],
  without = [],
  press,
  across,
}: {
  plan: Plan;
  step: string;
  also?: string[];
  without?: string[];
  press: (f: string) => void;
  across?: boolean; // side by side instead of one below the other
}) {
  const { number, unit } = useReading();
  const shown = plan.figures.filter((f) => (f.step === step && !without.includes(f.path)) || also.includes(f.path));
  return (
    <dl className={across ? "flex flex-wrap gap-x-7 gap-y-1" : "space-y-1.5 max-sm:grid max-sm:grid-cols-2 max-sm:gap-x-4"}>
      {shown.map((f) => {
        const path = f.path;
        return (
          <div key={path}>
            <dd>
              <button className="press text-left text-lg leading-tight" data-figure={path} onClick={() => press(path)}>
                {f.text || number(f.value, f.quantity)}
                {!f.text && <span className="unit text-sm"> {unit(f.quantity)}</span>}
                <span className="sr-only">, {f.label}: working</span>
              </button>
              {f.ranged && (
                <span className="text-sm text-faint">
                  {" "}
                  {number(f.low, f.quantity)} to {number(f.high, f.quantity)}
                </span>
              )}
            </dd>
            <dt className="text-sm text-faint" title={f.note}>
              {inLine(f.label)}
            </dt>
          </div>
        );
      })}
    </dl>
  );
}
