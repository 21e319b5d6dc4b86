import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { seen, unitOf } from "./typed";

/** What came out, what the method has to say to it, and how it was reckoned. */
export function Answer({ c, result }: { c: Schema["Calculator"]; result: Schema["CalculatorResult"] }) {
  const { system } = useReading();
  const one = (x: unknown, f: Schema["CalculatorField"]) =>
    typeof x === "number" ? plain(seen(x, f, system)) : typeof x === "object" ? JSON.stringify(x) : String(x);
  return (
    <>
      <dl>
        {c.outputs.map((o) => {
          const v = result.outputs[o.name];
          return (
            <div key={o.name} className="flex justify-between gap-4 border-b border-line py-1">
              <dt>{o.meaning}</dt>
              <dd className="min-w-0 text-right text-lg font-semibold">
                {v === undefined || v === null
                  ? "none"
                  : Array.isArray(v)
                    ? v
                        .slice(0, 24)
                        .map((x) => one(x, o))
                        .join(", ") + (v.length > 24 ? " …" : "")
                    : one(v, o)}{" "}
                {v !== undefined && v !== null && <span className="unit text-sm">{unitOf(o, system)}</span>}
              </dd>
            </div>
          );
        })}
      </dl>
      {result.findings.map((f, i) => (
        <p key={i} className="mt-2 border-l-4 border-straw pl-3">
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
  );
}

/** A number as a reader writes it: six digits, and a power of ten where it is tiny or huge. */
function plain(v: number) {
  if (v !== 0 && (Math.abs(v) < 1e-4 || Math.abs(v) >= 1e9)) {
    const [m, e] = v.toExponential(3).split("e") as [string, string];
    return `${Number(m)} × 10^${Number(e)}`.replaceAll("-", "−");
  }
  return v.toLocaleString("en", { maximumSignificantDigits: 6 }).replaceAll(",", "\u202f").replace("-", "−");
}
