import type { Plan } from "../api/client";
import { useReading } from "../shell/reading";

/** Figures of a step: large, each with its unit lighter, each can be pressed for its working. */
export function Figures({
  plan,
  paths,
  press,
  across,
}: {
  plan: Plan;
  paths: string[];
  press: (f: string) => void;
  across?: boolean; // side by side instead of one below the other
}) {
  const { number, unit } = useReading();
  return (
    <dl className={across ? "flex flex-wrap gap-x-7 gap-y-1" : "space-y-1.5 max-sm:grid max-sm:grid-cols-2 max-sm:gap-x-4"}>
      {paths.map((path) => {
        const f = plan.figures.find((x) => x.path === path);
        if (!f) return null;
        return (
          <div key={path}>
            <dd>
              <button className="press text-lg leading-tight" data-figure={path} onClick={() => press(path)}>
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
              {f.label.charAt(0).toLowerCase() + f.label.slice(1)}
            </dt>
          </div>
        );
      })}
    </dl>
  );
}
