import { useState } from "react";
import { Link } from "react-router";
import { useCopies, useOverview, type Schema } from "../api/client";
import { Busy, Empty, Trouble } from "../shell/States";
import { useReading } from "../shell/reading";
import { Margin } from "./Margin";
import { StackedLines } from "./StackedLines";
import { late } from "../shell/late";

const EstateMap = late(() => import("./EstateMap"), "Drawing the map");

export function EstatePage() {
  const overview = useOverview();
  const copies = useCopies();
  const { text } = useReading();
  const [lit, setLit] = useState("");
  if (overview.isPending) return <Busy what="Computing every block" />;
  if (overview.error) return <Trouble error={overview.error} retry={() => void overview.refetch()} />;
  const { blocks, estate, today } = overview.data;
  const area = blocks.reduce((s, b) => s + b.areaM2, 0);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 px-5 py-4 lg:grid-cols-[minmax(0,25rem)_minmax(0,1fr)]">
      <section aria-label="Map of blocks" className="min-w-0">
        <div className="flex flex-wrap items-baseline justify-between gap-2">
          <h1>{estate.name}</h1>
          <span className="text-faint">
            {text(area, "area")} in {blocks.length} {blocks.length === 1 ? "block" : "blocks"}
          </span>
        </div>
        {blocks.length > 0 && <EstateMap blocks={blocks} lit={lit} light={setLit} />}
        <div className="mt-3 flex flex-wrap gap-2">
          <Link to="/draw" className="act act-first">
            Add a block
          </Link>
          <a className="act" href="/api/v1/blocks.geojson" download>
            Export GeoJSON
          </a>
          {blocks.length > 1 && (
            <Link className="act" to="/succession">
              One after another
            </Link>
          )}
          <Link className="act" to="/climate">
            Climate
          </Link>
          <Link className="act" to="/heights">
            Heights
          </Link>
          <Link className="act" to="/settings">
            Settings and copies
          </Link>
        </div>
        <FirstSteps steps={overview.data.firstSteps} />
        {copies.data?.trouble && (
          <p className="mt-3 border-l-4 border-decide pl-3" role="alert">
            <b>The estate's file is damaged:</b> {copies.data.trouble}. Nothing is written until a good copy is put back:{" "}
            <Link className="underline" to="/settings">
              copies
            </Link>
            .
          </p>
        )}
        {copies.data?.remind && (
          <p className="mt-3 border-l-4 border-straw pl-3">
            More than seven days of work lie in this computer's folder only.{" "}
            <Link className="underline" to="/settings">
              Take a copy away
            </Link>
            .
          </p>
        )}
        {blocks.length > 0 && <Margin blocks={blocks} />}
      </section>
      <section aria-label="Ground lines" className="mt-6 min-w-0 lg:mt-0">
        {blocks.length === 0 ? (
          <Empty title="No block yet">
            Draw one, or drop a GeoJSON file. A block with a crop and a planting date has a whole plan at once.
          </Empty>
        ) : (
          <StackedLines blocks={blocks} today={today} lit={lit} light={setLit} />
        )}
      </section>
    </div>
  );
}

const putAway = "slowroot.firstSteps.away";

/** What a new estate still needs, ticked as it is done; it goes away by itself, or when it is put away. */
function FirstSteps({ steps }: { steps: Schema["FirstStep"][] }) {
  const [away, setAway] = useState(() => localStorage.getItem(putAway) === "1");
  if (away || steps.length === 0) return null;
  return (
    <section className="mt-3 border-y border-line py-2" aria-label="First steps">
      <div className="flex items-baseline justify-between gap-2">
        <h2>First steps</h2>
        <button
          className="text-sm text-faint underline"
          onClick={() => {
            localStorage.setItem(putAway, "1");
            setAway(true);
          }}
        >
          put away
        </button>
      </div>
      <ol>
        {steps.map((s) => (
          <li key={s.words} className={s.done ? "text-faint" : ""}>
            <span aria-hidden className="inline-block w-5">
              {s.done ? "✓" : "○"}
            </span>
            {s.done ? (
              <>
                {s.words}
                <span className="sr-only">, done</span>
              </>
            ) : (
              <Link className="underline" to={s.to}>
                {s.words}
              </Link>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
