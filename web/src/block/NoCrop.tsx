import { Link } from "react-router";
import type { Plan } from "../api/client";
import { toBlock } from "./paths";

/** What a step says that cannot be planned yet, and where to go. */
export function NoCrop({ plan, id }: { plan: Plan; id: string }) {
  return (
    <div className="max-w-prose py-3">
      <p>{plan.cannot}</p>
      <p className="mt-2 flex flex-wrap gap-2">
        {(["plants", "fit", "prepare"] as const).map((s) => (
          <Link key={s} className="act" to={toBlock(id, s)}>
            {{ plants: "Plants", fit: "Fit", prepare: "Prepare" }[s]}
          </Link>
        ))}
      </p>
    </div>
  );
}
