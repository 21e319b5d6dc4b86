import { useState } from "react";
import { Link } from "react-router";
import { api, changed, take, write, type Schema } from "../api/client";
import { say } from "../shell/Notices";
import { ErrorText } from "../shell/States";
import { Table } from "../shell/Table";
import { useReading } from "../shell/reading";
import { day } from "../units";

type Move = Schema["LevelMove"];

/** Work is put on days its crew has the hours for, inside the time each job has; shown first, kept when it is wanted. */
export function Level({ from, to }: { from: string; to: string }) {
  const { text } = useReading();
  const [seen, setSeen] = useState<Schema["Levelled"]>();
  const [error, setError] = useState<unknown>();
  const query = { from, to };
  const ask = () => {
    setError(undefined);
    take(api.GET("/jobs/level", { params: { query } })).then(setSeen, setError);
  };
  const keep = () => {
    setError(undefined);
    write
      .level(from, to)
      .then((l) => {
        say(
          l.moves.length === 1
            ? "One job is on another day; undo takes it back"
            : `${l.moves.length} jobs are on other days; undo takes them back`,
        );
        setSeen(undefined);
      }, setError)
      .finally(() => void changed());
  };
  return (
    <section className="mt-3" aria-label="Levelling">
      <button className="act" onClick={ask}>
        Level the work
      </button>
      <span className="ml-3 text-sm text-faint">
        Each job on the first day its crew has the hours, what has to be done first before the rest. A good order, not the best
        there can be.
      </span>
      {error !== undefined && (
        <div className="mt-2">
          <ErrorText error={error} />
        </div>
      )}
      {seen && (
        <div className="mt-3">
          {seen.moves.length === 0 ? (
            <p>
              No job has to move
              {seen.said > 0 && `; ${seen.said === 1 ? "one stays" : `${seen.said} stay`} on the day somebody said`}.
            </p>
          ) : (
            <>
              <Table
                label="Jobs that move"
                rows={seen.moves}
                id={(m) => m.block + m.key}
                columns={[
                  {
                    head: "job",
                    cell: (m: Move) => (
                      <>
                        <b>{m.name}</b>{" "}
                        <Link className="text-faint hover:underline" to={`/blocks/${m.block}/care`}>
                          {m.blockName}
                        </Link>
                      </>
                    ),
                  },
                  { head: "crew", cell: (m) => m.crew },
                  { head: "takes", num: true, className: "whitespace-nowrap", cell: (m) => text(m.hours, "hours") },
                  { head: "was on", className: "whitespace-nowrap text-faint", cell: (m) => day(m.was) },
                  {
                    head: "would be on",
                    className: "whitespace-nowrap",
                    cell: (m) => (
                      <b>
                        {day(m.day)}
                        {m.until !== m.day && ` to ${day(m.until)}`}
                      </b>
                    ),
                  },
                  { head: "at the latest", className: "whitespace-nowrap text-faint", cell: (m) => day(m.last) },
                ]}
              />
              <div className="mt-2 flex gap-2">
                <button className="act act-first" onClick={keep}>
                  Put them on these days
                </button>
                <button className="act" onClick={() => setSeen(undefined)}>
                  Leave them
                </button>
              </div>
            </>
          )}
          {seen.words.length > 0 && (
            <ul className="mt-2 max-w-prose text-decide">
              {seen.words.map((w) => (
                <li key={w}>{w}</li>
              ))}
            </ul>
          )}
          {seen.nobody > 0 && (
            <p className="mt-1 text-sm text-faint">
              {seen.nobody === 1 ? "One job is" : `${seen.nobody} jobs are`} of a kind no crew is kept for.
            </p>
          )}
          {seen.unknown > 0 && (
            <p className="mt-1 text-sm text-faint">
              {seen.unknown === 1 ? "One job is" : `${seen.unknown} jobs are`} not placed: nobody has said how many hours they
              take.
            </p>
          )}
        </div>
      )}
    </section>
  );
}
