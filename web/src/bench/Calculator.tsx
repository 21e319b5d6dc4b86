import { Select } from "@headlessui/react";
import { useState } from "react";
import { api, take, useOverview, type Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { ErrorText } from "../shell/States";
import { Answer } from "./Answer";
import { Rows } from "./Rows";
import { asInput, forget, opening, remember, remembered, unitOf, type Typed } from "./typed";

type Field = Schema["CalculatorField"];

/** One method: what goes in, in the reader's units and as it was last left, and what comes out with its working. */
export function Calculator({ c }: { c: Schema["Calculator"] }) {
  const { system } = useReading();
  const fresh = () => Object.fromEntries(c.inputs.map((f) => [f.name, opening(f, system)]));
  const [typed, setTyped] = useState<Record<string, Typed>>(() => ({ ...fresh(), ...kept(c, remembered(c.name, system)) }));
  const [result, setResult] = useState<Schema["CalculatorResult"]>();
  const [error, setError] = useState<unknown>();
  const run = async () => {
    setError(undefined);
    remember(c.name, system, typed);
    try {
      const inputs = Object.fromEntries(
        c.inputs.map((f) => [f.name, asInput(typed[f.name] ?? "", f, system)]).filter(([, v]) => v !== undefined),
      ) as Record<string, unknown>;
      setResult(await take(api.POST("/calculators/{name}", { params: { path: { name: c.name } }, body: { inputs } })));
    } catch (e) {
      setResult(undefined);
      setError(e instanceof SyntaxError ? new Error("The rings are not written as JSON: lists in square brackets.") : e);
    }
  };
  return (
    <section className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-2">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void run();
        }}
      >
        <h1>{c.title}</h1>
        <p>{c.purpose}</p>
        <p className="text-sm text-faint">{c.source}</p>
        <div className="mt-3 space-y-2">
          {c.inputs.map((f) => (
            <Input key={f.name} f={f} value={typed[f.name] ?? ""} keep={(v) => setTyped({ ...typed, [f.name]: v })} />
          ))}
        </div>
        <div className="mt-3 flex gap-3">
          <button className="act act-first">Compute</button>
          <button
            type="button"
            className="act"
            onClick={() => {
              forget(c.name, system);
              setTyped(fresh());
            }}
          >
            The example again
          </button>
        </div>
      </form>
      <div aria-live="polite">
        {error !== undefined && <ErrorText error={error} />}
        {result && <Answer c={c} result={result} />}
        {!result && error === undefined && <p className="text-faint">The result and its working appear here.</p>}
      </div>
    </section>
  );
}

/** Of what was remembered, what the calculator still asks for and in the same form. */
const kept = (c: Schema["Calculator"], had: Record<string, Typed>) =>
  Object.fromEntries(
    c.inputs
      .filter((f) => had[f.name] !== undefined && (typeof had[f.name] === "string") === (f.kind !== "table"))
      .filter((f) => f.kind !== "choice" || f.options?.includes(had[f.name] as string))
      .map((f) => [f.name, had[f.name]!]),
  );

function Input({ f, value, keep }: { f: Field; value: Typed; keep: (v: Typed) => void }) {
  const { system } = useReading();
  if (typeof value !== "string") return <Rows f={f} rows={value} keep={keep} />;
  const unit = unitOf(f, system);
  return (
    <div>
      <label className="block">
        <span className="font-semibold">{f.meaning}</span>{" "}
        <span className="text-sm text-faint">
          {(f.kind === "number" || f.kind === "integer") && system === "metric"
            ? `${f.min} to ${f.max.toLocaleString("en").replaceAll(",", "\u202f")} ${unit}`
            : unit}
          {f.optional && " may be left out"}
        </span>
        {f.kind === "choice" ? (
          <Select className="field block w-full" value={value} onChange={(e) => keep(e.target.value)}>
            {f.options?.map((o) => (
              <option key={o}>{o}</option>
            ))}
          </Select>
        ) : f.kind === "rings" || f.kind === "numbers" ? (
          <textarea className="field block w-full" rows={3} value={value} onChange={(e) => keep(e.target.value)} />
        ) : (
          <input
            className={`field block w-40 ${f.kind === "day" ? "" : "text-right"}`}
            type={f.kind === "day" ? "date" : "text"}
            inputMode={f.kind === "day" ? undefined : "decimal"}
            value={value}
            onChange={(e) => keep(e.target.value)}
          />
        )}
      </label>
      {f.kind === "rings" && <OfABlock keep={keep} />}
    </div>
  );
}

/** The boundary of a block of the estate instead of typed points. */
function OfABlock({ keep }: { keep: (v: string) => void }) {
  const overview = useOverview();
  const blocks = overview.data?.blocks ?? [];
  if (blocks.length === 0) return null;
  const rings = (b: (typeof blocks)[number]) =>
    JSON.stringify([b.boundary.outer, ...(b.boundary.holes ?? [])].map((r) => r.map((p) => [p.lon, p.lat])));
  return (
    <label className="mt-1 block text-sm">
      or the boundary of{" "}
      <Select
        className="field"
        value=""
        onChange={(e) => {
          const b = blocks.find((x) => x.id === e.target.value);
          if (b) keep(rings(b));
        }}
      >
        <option value="">a block</option>
        {blocks.map((b) => (
          <option key={b.id} value={b.id}>
            {b.name}
          </option>
        ))}
      </Select>
    </label>
  );
}
