import { useState } from "react";
import { Link } from "react-router";
import type { Schema } from "../api/client";
import { Wide } from "../shell/Wide";
import { glossary } from "../shell/glossary";
import { Word } from "../shell/Word";
import { FactorPanel } from "./FactorPanel";
import { FitMark, verdictTone } from "./FitMark";

type Fit = Schema["Fit"];
/** A heading in lower case, names such as pH left as they are. */
const lower = (s: string) => (/^.[A-Z]/.test(s) ? s : s.charAt(0).toLowerCase() + s.slice(1));
/** A class and its letters, said. */
const coded = (f: Fit) =>
  [
    f.class in glossary ? `${f.class}: ${glossary[f.class as "S1"]}` : "",
    f.letters ? `${f.letters}: ${glossary.letters}` : "",
    f.after !== f.class && f.after in glossary ? `With works ${f.after}: ${glossary[f.after as "S1"]}` : "",
    f.capped ? "?: something that decides is not known." : "",
  ]
    .filter(Boolean)
    .join(" ");
const order = ["fit", "fit with works", "not sure", "marginal", "not known", "not here"];

/** Crops or blocks as rows, factors as columns; each cell opens what limits and what could be done. */
export function FitTable({ fits, by }: { fits: Fit[]; by: "crop" | "block" }) {
  const [open, setOpen] = useState<{ fit: Fit; factor: Schema["FactorFit"] }>();
  const columns: { key: string; label: string }[] = [];
  for (const f of fits)
    for (const x of f.factors) if (!columns.some((c) => c.key === x.key)) columns.push({ key: x.key, label: x.label });
  const rows = [...fits].sort((a, b) => order.indexOf(a.verdict) - order.indexOf(b.verdict) || b.index - a.index);
  return (
    <>
      <Wide label={by === "crop" ? "Crops and what limits them here" : "Blocks and what limits the crop there"}>
        <table className="tbl fit">
          <thead>
            <tr>
              <th>{by === "crop" ? "crop" : "block"}</th>
              <th>answer</th>
              <th className="num">months</th>
              <th className="num">works</th>
              {columns.map((c) => (
                <th key={c.key} className="align-bottom">
                  <span className="slant">{lower(c.label)}</span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((f) => (
              <tr key={f.sheet + f.block}>
                <td className="whitespace-nowrap">
                  {by === "crop" ? (
                    <Link className="font-semibold hover:underline" to={`/fit/${f.sheet}`} title="This crop on every block">
                      {f.name}
                    </Link>
                  ) : (
                    <Link className="font-semibold hover:underline" to={`/blocks/${f.block}/fit`}>
                      {f.blockName}
                    </Link>
                  )}
                </td>
                <td className="whitespace-nowrap" title={f.sentence}>
                  <span className={`font-semibold ${verdictTone[f.verdict]}`}>{f.verdict}</span>
                  <span tabIndex={0} aria-label={coded(f)} title={coded(f)} className="block text-sm text-faint">
                    {f.class}
                    {f.letters}
                    {f.after !== f.class && ` → ${f.after}`}
                    {f.capped && " ?"}
                  </span>
                </td>
                <td className="num">{f.months || ""}</td>
                <td className="num whitespace-nowrap" title={f.costText}>
                  {f.costText.split(",")[0]}
                  {f.costText.includes(",") && " +"}
                </td>
                {columns.map((c) => {
                  const x = f.factors.find((v) => v.key === c.key);
                  if (!x)
                    return (
                      <td key={c.key} className="text-faint">
                        <span className="sr-only">no limit</span>
                      </td>
                    );
                  return (
                    <td key={c.key} className={x.key === f.limiting ? "bg-soil" : ""}>
                      <button
                        className="flex items-center gap-0.5 hover:bg-soil"
                        aria-label={`${f.name}, ${f.blockName}, ${x.label}: ${x.class === "?" ? "not known" : x.class}, ${x.value}`}
                        onClick={() => setOpen({ fit: f, factor: x })}
                      >
                        <FitMark rating={x.rating} cls={x.class} after={x.after} />
                        <span className="text-sm">{x.class}</span>
                      </button>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      <p className="mt-2 text-sm text-faint">
        A root drawn deeper suits better; a dotted one is what works could add. <Word is="S1" /> suits, <Word is="S2" /> with
        moderate limits, <Word is="S3" /> marginal, <Word is="N1" /> not now, <Word is="N2" /> not for good; the{" "}
        <Word is="letters">letters after a class</Word> name what limits. The shaded cell limits. + some works have no price.
      </p>
      {open && <FactorPanel {...open} close={() => setOpen(undefined)} />}
    </>
  );
}
