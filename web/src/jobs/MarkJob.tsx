import { useState } from "react";
import { Panel } from "../shell/Sheet";
import { day } from "../units";
import type { Mark } from "./mark";

/** The buttons that say of a job that it was done today, or that it is not needed here and why. */
export function MarkJob({
  name,
  done,
  notNeeded,
  said,
  today,
  mark,
}: {
  name: string;
  done: string;
  notNeeded: string;
  said: boolean; // a person said so; else the plan found it
  today: string;
  mark: (m: Mark) => void;
}) {
  const [asking, setAsking] = useState(false);
  const [why, setWhy] = useState("");
  if (done)
    return (
      <>
        <span className="whitespace-nowrap">{day(done)}</span>{" "}
        <button className="text-faint underline" onClick={() => mark({ done: null })} aria-label={`${name}: not done`}>
          not done
        </button>
      </>
    );
  if (notNeeded)
    return (
      <>
        <span className="text-sm">not needed: {notNeeded}</span>{" "}
        {said && (
          <button
            className="text-faint underline"
            onClick={() => mark({ notNeeded: null })}
            aria-label={`${name}: needed after all`}
          >
            needed after all
          </button>
        )}
      </>
    );
  return (
    <span className="flex flex-col items-start gap-1">
      <button className="act" onClick={() => mark({ done: today })} aria-label={`${name}: done today`}>
        Done
      </button>
      <button
        className="text-sm whitespace-nowrap text-faint underline"
        onClick={() => setAsking(true)}
        aria-label={`${name}: not needed here`}
      >
        not needed
      </button>
      {asking && (
        <Panel title={`Not needed here: ${name}`} close={() => setAsking(false)}>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              setAsking(false);
              mark({ notNeeded: why.trim() });
            }}
          >
            <label className="flex flex-col gap-1">
              Why is it not needed? It is kept with the job.
              <textarea
                className="field"
                required
                rows={2}
                maxLength={300}
                value={why}
                onChange={(e) => setWhy(e.target.value)}
              />
            </label>
            <button className="act act-first mt-3">Keep that</button>
          </form>
        </Panel>
      )}
    </span>
  );
}
