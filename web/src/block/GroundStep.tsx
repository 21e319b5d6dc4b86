import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { changed, write } from "../api/client";
import { say, sayError } from "../shell/Notices";
import { Figures } from "./Figures";
import { PlanSheet } from "./PlanSheet";
import type { StepProps } from "./steps";

export function GroundStep({ plan, doc, draft, press, season }: StepProps) {
  const b = doc.block;
  const go = useNavigate();
  const [name, setName] = useState(b.name);
  const [notes, setNotes] = useState(b.notes);
  const bare = { ...plan, rows: [] };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-5 py-3 sm:grid-cols-[11rem_minmax(0,1fr)]">
      <div>
        <Figures plan={plan} paths={["area", "perimeter"]} press={press} />
        <p className="mt-3 text-sm text-faint">
          {b.surveyed}
          {b.accuracyM > 0 && `, points to ± ${b.accuracyM} m`}
        </p>
        <Link className="act mt-3 inline-block" to={`/blocks/${doc.id}/draw`}>
          Edit the boundary
        </Link>
      </div>
      <div className="min-w-0">
        <PlanSheet plan={bare} season={season} height={300} />
        <form
          className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-2 sm:grid-cols-2"
          onSubmit={(e) => {
            e.preventDefault();
            void draft.commit({ name: name.trim(), notes }, "Kept");
          }}
        >
          <label className="flex flex-col">
            Name
            <input className="field" value={name} required maxLength={80} onChange={(e) => setName(e.target.value)} />
          </label>
          <label className="flex flex-col sm:col-span-2">
            Notes on the ground
            <textarea className="field" rows={2} value={notes} onChange={(e) => setNotes(e.target.value)} />
          </label>
          <div className="flex gap-2 sm:col-span-2">
            <button className="act act-first">Keep</button>
            <button
              type="button"
              className="act"
              onClick={() =>
                void write
                  .remove(doc)
                  .then(() => {
                    say(`${b.name} is removed; undo brings it back`);
                    void go("/");
                  }, sayError)
                  .finally(() => void changed())
              }
            >
              Remove this block
            </button>
          </div>
        </form>
      </div>
    </div>
  );
}
