import { Select } from "@headlessui/react";
import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { unitOf, type Typed } from "./typed";

/** A table as a calculator takes it: a row for each record, a field for each column. */
export function Rows({
  f,
  rows,
  keep,
}: {
  f: Schema["CalculatorField"];
  rows: Record<string, string>[];
  keep: (v: Typed) => void;
}) {
  const { system } = useReading();
  const columns = f.columns ?? [];
  const put = (i: number, name: string, v: string) => keep(rows.map((r, j) => (j === i ? { ...r, [name]: v } : r)));
  return (
    <fieldset>
      <legend className="font-semibold">{f.meaning}</legend>
      <div className="overflow-x-auto">
        <table className="text-sm">
          <thead>
            <tr>
              {columns.map((c) => (
                <th key={c.name} className="pr-2 text-left font-normal text-faint">
                  {c.meaning} <span className="unit">{unitOf(c, system)}</span>
                </th>
              ))}
              <th>
                <span className="sr-only">take out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((r, i) => (
              <tr key={i}>
                {columns.map((c) => (
                  <td key={c.name} className="py-0.5 pr-2">
                    {c.kind === "choice" ? (
                      <Select
                        className="field"
                        aria-label={`${c.meaning}, row ${i + 1}`}
                        value={r[c.name] ?? ""}
                        onChange={(e) => put(i, c.name, e.target.value)}
                      >
                        {c.options?.map((o) => (
                          <option key={o}>{o}</option>
                        ))}
                      </Select>
                    ) : (
                      <input
                        className={`field ${c.kind === "text" ? "w-36" : "w-24 text-right"}`}
                        aria-label={`${c.meaning}, row ${i + 1}`}
                        inputMode={c.kind === "text" ? undefined : "decimal"}
                        value={r[c.name] ?? ""}
                        onChange={(e) => put(i, c.name, e.target.value)}
                      />
                    )}
                  </td>
                ))}
                <td>
                  <button
                    type="button"
                    className="text-faint hover:text-ink"
                    aria-label={`Take row ${i + 1} out`}
                    onClick={() => keep(rows.filter((_, j) => j !== i))}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <button
        type="button"
        className="text-sm underline"
        onClick={() => keep([...rows, Object.fromEntries(columns.map((c) => [c.name, c.options?.[0] ?? ""]))])}
      >
        Add a row
      </button>
    </fieldset>
  );
}
