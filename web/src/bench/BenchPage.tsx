import { useState } from "react";
import { Link, useParams } from "react-router";
import { api, take, useCalculators, type Schema } from "../api/client";
import { Busy, Empty, ErrorText, Trouble } from "../shell/States";

/** The calculators: each method on its own, with its working. */
export default function BenchPage() {
  const { name } = useParams();
  const list = useCalculators();
  if (list.isPending) return <Busy what="Setting up the bench" />;
  if (list.error) return <Trouble error={list.error} />;
  const calc = list.data.find((c) => c.name === (name ?? list.data[0]?.name));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 px-5 py-4 md:grid-cols-[13rem_minmax(0,1fr)]">
      <nav aria-label="Calculators">
        <h2>Bench</h2>
        <ul className="mt-2 space-y-1">
          {list.data.map((c) => (
            <li key={c.name}>
              <Link
                to={`/bench/${c.name}`}
                aria-current={c === calc ? "page" : undefined}
                className={c === calc ? "border-b-2 border-ink font-semibold" : "text-faint hover:text-ink"}
              >
                {c.title}
              </Link>
            </li>
          ))}
        </ul>
      </nav>
      {calc ? (
        <Calculator key={calc.name} c={calc} />
      ) : (
        <Empty title="There is no such calculator">Choose one from the list.</Empty>
      )}
    </div>
  );
}

const short = (x: unknown) =>
  typeof x === "number" ? plain(Number(x.toPrecision(5))) : typeof x === "object" ? JSON.stringify(x) : String(x);
/** A number as a reader writes it: six digits, and a power of ten where it is tiny or huge. */
function plain(v: number) {
  if (v !== 0 && (Math.abs(v) < 1e-4 || Math.abs(v) >= 1e9)) {
    const [m, e] = v.toExponential(3).split("e") as [string, string];
    return `${Number(m)} × 10^${Number(e)}`.replaceAll("-", "−");
  }
  return v.toLocaleString("en", { maximumSignificantDigits: 6 }).replaceAll(",", "\u202f").replace("-", "−");
}
const sampleRings = "[[[172.0, -38.0], [172.003, -38.0], [172.003, -37.998], [172.0, -37.998]]]";

function Calculator({ c }: { c: Schema["Calculator"] }) {
  const [typed, setTyped] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      c.inputs.map((f) => [
        f.name,
        f.kind === "rings"
          ? sampleRings
          : f.default === undefined
            ? (f.options?.[0] ?? "")
            : f.kind === "numbers"
              ? (f.default as number[]).join(", ")
              : f.kind === "table"
                ? JSON.stringify(f.default, null, 1)
                : String(f.default),
      ]),
    ),
  );
  const [result, setResult] = useState<Schema["CalculatorResult"]>();
  const [error, setError] = useState<unknown>();
  const run = async () => {
    setError(undefined);
    try {
      const inputs: Record<string, unknown> = {};
      for (const f of c.inputs) {
        const t = typed[f.name]!.trim();
        if (t === "") continue;
        inputs[f.name] =
          f.kind === "choice" || f.kind === "day"
            ? t
            : f.kind === "rings" || f.kind === "table"
              ? (JSON.parse(t) as unknown)
              : f.kind === "numbers"
                ? t.split(/[\s,;]+/).map((x) => (x === "" || Number.isNaN(Number(x)) ? x : Number(x)))
                : Number.isNaN(Number(t))
                  ? t
                  : Number(t);
      }
      setResult(await take(api.POST("/calculators/{name}", { params: { path: { name: c.name } }, body: { inputs } })));
    } catch (e) {
      setResult(undefined);
      setError(
        e instanceof SyntaxError
          ? new Error("The rows or rings are not written as JSON: a list in square brackets, names and words in double quotes.")
          : e,
      );
    }
  };
  return (
    <section className="grid grid-cols-[minmax(0,1fr)] min-w-0 gap-8 lg:grid-cols-2">
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
            <label key={f.name} className="block">
              <span className="font-semibold">{f.meaning}</span>{" "}
              <span className="text-sm text-faint">
                {f.kind === "number" || f.kind === "integer"
                  ? `${f.min} to ${f.max.toLocaleString("en").replaceAll(",", "\u202f")} ${f.unit}`
                  : f.kind === "table"
                    ? (f.columns ?? []).map((x) => `${x.name} ${x.unit}`.trim()).join(", ")
                    : f.unit}
                {f.optional && " may be left out"}
              </span>
              {f.kind === "choice" ? (
                <select
                  className="field block w-full"
                  value={typed[f.name]}
                  onChange={(e) => setTyped({ ...typed, [f.name]: e.target.value })}
                >
                  {f.options?.map((o) => (
                    <option key={o}>{o}</option>
                  ))}
                </select>
              ) : f.kind === "rings" || f.kind === "table" || f.kind === "numbers" ? (
                <textarea
                  className="field block w-full"
                  rows={4}
                  value={typed[f.name]}
                  onChange={(e) => setTyped({ ...typed, [f.name]: e.target.value })}
                />
              ) : (
                <input
                  className={`field block w-40 ${f.kind === "day" ? "" : "text-right"}`}
                  type={f.kind === "day" ? "date" : "text"}
                  inputMode={f.kind === "day" ? undefined : "decimal"}
                  value={typed[f.name]}
                  onChange={(e) => setTyped({ ...typed, [f.name]: e.target.value })}
                />
              )}
            </label>
          ))}
        </div>
        <button className="act act-first mt-3">Compute</button>
      </form>
      <div aria-live="polite">
        {error !== undefined && <ErrorText error={error} />}
        {result && (
          <>
            <dl>
              {c.outputs.map((o) => {
                const v = result.outputs[o.name];
                return (
                  <div key={o.name} className="flex justify-between border-b border-line py-1">
                    <dt>{o.meaning}</dt>
                    <dd className="text-lg font-semibold">
                      {typeof v === "number"
                        ? plain(v)
                        : Array.isArray(v)
                          ? v.length > 24
                            ? `${v.slice(0, 24).map(short).join(", ")} …`
                            : v.map(short).join(", ")
                          : String(v ?? "")}{" "}
                      <span className="unit text-sm">{o.unit}</span>
                    </dd>
                  </div>
                );
              })}
            </dl>
            {result.findings.map((f) => (
              <p key={f.rule} className="mt-2 border-l-4 border-straw pl-3">
                {f.sentence}
              </p>
            ))}
            <h2 className="mt-5">Working</h2>
            {result.working.map((s, i) => (
              <div key={i} className="mt-2">
                <p className="font-semibold">{s.label}</p>
                <p className="font-serif">{s.formula}</p>
                <p className="text-faint">{s.substituted}</p>
                <p className="text-sm text-faint">{s.source}</p>
              </div>
            ))}
          </>
        )}
        {!result && error === undefined && <p className="text-faint">The result and its working appear here.</p>}
      </div>
    </section>
  );
}
