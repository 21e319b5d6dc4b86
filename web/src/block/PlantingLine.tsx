import { Link } from "react-router";
import { useSheets, type BlockDoc, type Plan } from "../api/client";
import { Word } from "../shell/Word";
import { day } from "../units";

/** The plantings of a block in order of time; each opens the block as it is seen from it. */
export function PlantingLine({ doc, plan }: { doc: BlockDoc; plan: Plan }) {
  const sheets = useSheets();
  if (doc.plantings.length < 2 && doc.plantings.every((p) => p.seen)) return null;
  return (
    <nav aria-label="Plantings, in order of time" className="no-print mt-1 flex flex-wrap items-center gap-x-1 gap-y-1 text-sm">
      <Word is="planting">Plantings:</Word>
      {doc.plantings.map((p, i) => {
        const name = p.name || (sheets.data?.find((s) => s.id === p.sheet)?.name.toLowerCase() ?? p.sheet);
        const span =
          p.stage === "ended"
            ? `${p.from.slice(0, 4)}–${p.to.slice(0, 4)}, ${p.how}`
            : p.stage === "planted"
              ? `since ${day(p.from)}`
              : `${p.stage}, ${day(p.from)}`;
        return (
          <span key={p.id} className="flex items-center gap-1">
            {i > 0 && (
              <span aria-hidden className="text-faint">
                →
              </span>
            )}
            <Link
              to={`?planting=${p.id}`}
              aria-current={p.seen || p.id === plan.planting ? "true" : undefined}
              className={`border-b-2 px-1 ${p.seen ? "border-ink font-semibold" : "border-transparent text-faint hover:text-ink"}`}
            >
              {name} <span className="font-normal">({span})</span>
            </Link>
          </span>
        );
      })}
    </nav>
  );
}
