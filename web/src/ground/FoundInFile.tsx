import { useState } from "react";
import { useReading } from "../shell/reading";
import type { Schema } from "../api/client";

/** The outlines a file holds, to be taken one by one. */
export function FoundInFile({
  found,
  shown,
  bring,
  leave,
}: {
  found: Schema["Candidate"][];
  shown: (taken: Schema["Candidate"][]) => void;
  bring: (taken: Schema["Candidate"][]) => void;
  leave: () => void;
}) {
  const { text } = useReading();
  const [taken, setTaken] = useState(() => found.map((c) => !c.problem && !c.doubt));
  const turn = (next: boolean[]) => {
    setTaken(next);
    shown(found.filter((_, i) => next[i]));
  };
  const n = taken.filter(Boolean).length;
  return (
    <div className="mt-3 border-y border-line py-2">
      <h2>In the file</h2>
      <ul>
        {found.map((c, i) => (
          <li key={i} className="py-1">
            <label className="flex gap-2">
              <input
                type="checkbox"
                disabled={!!c.problem}
                checked={taken[i] ?? false}
                onChange={(e) => turn(taken.map((t, k) => (k === i ? e.target.checked : t)))}
              />
              <span>
                <b>{c.name}</b> {!c.problem && <span className="text-faint">{text(c.areaM2, "area")}</span>}
                {c.plantings?.map((p) => (
                  <span key={p.id} className="text-faint">
                    , {p.sheet}
                  </span>
                ))}
                {c.problem && <span className="block text-decide">{c.problem}</span>}
                {c.doubt && <span className="block text-straw">{c.doubt}</span>}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex gap-2">
        <button className="act act-first" disabled={n === 0} onClick={() => bring(found.filter((_, i) => taken[i]))}>
          Add {n === 1 ? "this block" : `these ${n} blocks`}
        </button>
        <button className="act" onClick={leave}>
          Leave the file
        </button>
      </div>
    </div>
  );
}
