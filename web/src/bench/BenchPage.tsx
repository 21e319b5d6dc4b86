import { useState } from "react";
import { Link, useParams } from "react-router";
import { useCalculators, type Schema } from "../api/client";
import { Busy, Empty, Trouble } from "../shell/States";
import { Calculator } from "./Calculator";

/** The calculators: each method on its own, by subject, with its working. */
export default function BenchPage() {
  const { name } = useParams();
  const list = useCalculators();
  const [sought, setSought] = useState("");
  if (list.isPending) return <Busy what="Setting up the bench" />;
  if (list.error) return <Trouble error={list.error} />;
  const calc = list.data.find((c) => c.name === (name ?? list.data[0]?.name));
  const found = list.data.filter((c) => matches(c, sought));
  const subjects = [...new Set(found.map((c) => c.subject))];
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 px-5 py-4 md:grid-cols-[15rem_minmax(0,1fr)]">
      <nav aria-label="Calculators" className="md:max-h-[calc(100vh-6rem)] md:overflow-y-auto">
        <h2>Bench</h2>
        <label className="mt-2 block text-sm">
          Find a calculator
          <input
            type="search"
            className="field block w-full"
            value={sought}
            onChange={(e) => setSought(e.target.value)}
            placeholder={`of ${list.data.length}`}
          />
        </label>
        {subjects.map((subject) => (
          <section key={subject}>
            <h3 className="mt-3 text-sm text-faint">{subject}</h3>
            <ul className="space-y-0.5">
              {found
                .filter((c) => c.subject === subject)
                .map((c) => (
                  <li key={c.name}>
                    <Link
                      to={`/bench/${c.name}`}
                      aria-current={c === calc ? "page" : undefined}
                      className={c === calc ? "border-b-2 border-ink font-semibold" : "hover:underline"}
                    >
                      {c.title}
                    </Link>
                  </li>
                ))}
            </ul>
          </section>
        ))}
        {found.length === 0 && <p className="mt-3 text-sm text-faint">Nothing here is called that.</p>}
      </nav>
      {calc ? (
        <Calculator key={calc.name} c={calc} />
      ) : (
        <Empty title="There is no such calculator">Choose one from the list.</Empty>
      )}
    </div>
  );
}

/** Whether every word sought stands somewhere in what a calculator is called, for and from. */
function matches(c: Schema["Calculator"], sought: string) {
  const text = [c.title, c.purpose, c.source, c.subject, ...c.inputs.map((f) => f.meaning)].join(" ").toLowerCase();
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((w) => text.includes(w));
}
