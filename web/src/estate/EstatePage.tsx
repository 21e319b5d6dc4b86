import { lazy, Suspense, useState } from "react";
import { Link } from "react-router";
import { useOverview } from "../api/client";
import { Busy, Empty, Trouble } from "../shell/States";
import { useReading } from "../shell/reading";
import { weightWords, weightTone } from "../block/weights";
import { StackedLines } from "./StackedLines";

const EstateMap = lazy(() => import("./EstateMap"));

export function EstatePage() {
  const overview = useOverview();
  const { text } = useReading();
  const [lit, setLit] = useState("");
  if (overview.isPending) return <Busy what="Computing every block" />;
  if (overview.error) return <Trouble error={overview.error} retry={() => void overview.refetch()} />;
  const { blocks, estate, today } = overview.data;
  const area = blocks.reduce((s, b) => s + b.areaM2, 0);
  const order = Object.keys(weightWords);
  const notes = blocks
    .flatMap((b) => b.findings.filter((f) => f.weight !== "inform").map((f) => ({ b, f })))
    .sort((x, y) => order.indexOf(x.f.weight) - order.indexOf(y.f.weight));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 px-5 py-4 lg:grid-cols-[minmax(0,25rem)_minmax(0,1fr)]">
      <section aria-label="Map of blocks" className="min-w-0">
        <div className="flex flex-wrap items-baseline justify-between gap-2">
          <h1>{estate.name}</h1>
          <span className="text-faint">
            {text(area, "area")} in {blocks.length} {blocks.length === 1 ? "block" : "blocks"}
          </span>
        </div>
        {blocks.length > 0 && (
          <Suspense fallback={<Busy what="Drawing the map" />}>
            <EstateMap blocks={blocks} lit={lit} light={setLit} />
          </Suspense>
        )}
        <div className="mt-3 flex flex-wrap gap-2">
          <Link to="/draw" className="act act-first">
            Add a block
          </Link>
          <a className="act" href="/api/v1/blocks.geojson" download>
            Export GeoJSON
          </a>
        </div>
        {blocks.length > 0 && (
          <div className="mt-5 border-t border-line pt-3">
            <h2>In the margin</h2>
            {notes.length === 0 && <p className="mt-1 text-faint">Nothing asks for a decision.</p>}
            <ul className="mt-1 space-y-2">
              {notes.map(({ b, f }) => (
                <li key={b.id + f.rule}>
                  <span className={`font-semibold ${weightTone[f.weight]}`}>{weightWords[f.weight]}</span>
                  <br />
                  <Link to={`/blocks/${b.id}/${f.step}`} className="hover:underline">
                    <b>
                      {b.number} {b.name}:
                    </b>{" "}
                    {f.sentence}
                  </Link>
                </li>
              ))}
            </ul>
          </div>
        )}
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
