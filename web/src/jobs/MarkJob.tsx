import { useState } from "react";
import { Panel } from "../shell/Sheet";
import { day } from "../units";
import type { Mark } from "./mark";

/** The buttons that say of a job that it was done, in part or whole, or that it is not needed here and why. */
export function MarkJob({
  name,
  done,
  notNeeded,
  share,
  record,
  today,
  mark,
  when,
  large,
}: {
  name: string;
  done: string;
  notNeeded: string;
  share: number; // of it that is done, where it is begun
  record: string; // of what a person said; "" where the plan found it
  today: string;
  mark: (m: Mark) => void;
  when?: string; // what it waits for
  large?: boolean; // for thumbs and gloves
}) {
  const [asking, setAsking] = useState<"" | "why" | "part">("");
  const [why, setWhy] = useState("");
  const [part, setPart] = useState("50");
  const [on, setOn] = useState(today);
  if (done)
    return (
      <>
        <span className="whitespace-nowrap">{day(done)}</span>{" "}
        <button className="text-faint underline" onClick={() => mark({ back: record })} aria-label={`${name}: not done`}>
          not done
        </button>
      </>
    );
  if (notNeeded)
    return (
      <>
        <span className="text-sm">not needed: {notNeeded}</span>{" "}
        {record && (
          <button
            className="text-faint underline"
            onClick={() => mark({ back: record })}
            aria-label={`${name}: needed after all`}
          >
            needed after all
          </button>
        )}
      </>
    );
  return (
    <span className={large ? "flex flex-wrap items-center gap-2" : "flex flex-col items-start gap-1"}>
      {share > 0 && (
        <span>
          {Math.round(share * 100)} % done{" "}
          <button
            className="text-faint underline"
            onClick={() => mark({ back: record })}
            aria-label={`${name}: take the last part back`}
          >
            take back
          </button>
        </span>
      )}
      <button
        className={large ? "act act-first min-h-12 px-6 text-lg" : "act"}
        onClick={() => mark({ done: today })}
        aria-label={`${name}: done today`}
      >
        Done
      </button>
      {when && (
        <button
          className={large ? "act min-h-12" : "text-sm whitespace-nowrap text-faint underline"}
          onClick={() => mark({ notYet: today })}
          aria-label={`${name}: not yet so`}
        >
          not yet
        </button>
      )}
      <button
        className={large ? "act min-h-12" : "text-sm whitespace-nowrap text-faint underline"}
        onClick={() => setAsking("part")}
        aria-label={`${name}: partly, another day`}
      >
        partly, another day
      </button>
      <button
        className={large ? "act min-h-12" : "text-sm whitespace-nowrap text-faint underline"}
        onClick={() => setAsking("why")}
        aria-label={`${name}: not needed here`}
      >
        not needed
      </button>
      {asking === "part" && (
        <Panel title={`Done: ${name}`} close={() => setAsking("")}>
          <form
            className="flex flex-wrap items-end gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              setAsking("");
              const whole = Number(part) >= 100 || share + Number(part) / 100 >= 1;
              mark(whole ? { done: on } : { share: Number(part) / 100, on });
            }}
          >
            <label className="flex flex-col text-sm">
              How much of it, %
              <input
                className="field w-28 text-right"
                type="number"
                min={1}
                max={100}
                required
                value={part}
                onChange={(e) => setPart(e.target.value)}
              />
            </label>
            <label className="flex flex-col text-sm">
              On
              <input
                className="field"
                type="date"
                required
                min="1900-01-01"
                max={today}
                value={on}
                onChange={(e) => setOn(e.target.value)}
              />
            </label>
            <button className="act act-first">Record it</button>
          </form>
        </Panel>
      )}
      {asking === "why" && (
        <Panel title={`Not needed here: ${name}`} close={() => setAsking("")}>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              setAsking("");
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
