import { useState } from "react";
import { useSheet, type Schema } from "../api/client";
import { Pick } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { Busy, Trouble } from "../shell/States";
import { Part } from "./Part";
import { altogether, shownAs } from "./shown";

/** Side by side: the ways a crop is grown, what each holds and gives; and another sheet line by line. */
export function Compare({ s, doc, all }: { s: Schema["Sheet"]; doc: Schema["SheetDoc"]; all: Schema["Sheet"][] }) {
  const [other, choose] = useState(s.from ?? "");
  return (
    <>
      {doc.lives.length > 0 && <Ways lives={doc.lives} />}
      <div className="mt-5 max-w-96">
        <Pick
          label="Beside another sheet, line by line"
          value={other}
          options={[{ id: "", words: "none" }, ...all.filter((x) => x.id !== s.id).map((x) => ({ id: x.id, words: x.name }))]}
          keep={choose}
        />
      </div>
      {other && <Lines id={s.id} name={s.name} against={other} other={all.find((x) => x.id === other)?.name ?? other} />}
    </>
  );
}

function Ways({ lives }: { lives: Schema["LifeLine"][] }) {
  const { text } = useReading();
  return (
    <Part title="Ways of growing it">
      <thead>
        <tr>
          <th>way</th>
          <th className="num">plants</th>
          <th className="num">lives</th>
          <th className="num">first crop</th>
          <th className="num">full crop</th>
          <th className="num">at full crop</th>
          <th className="num">in its life, a hectare</th>
          <th>gives</th>
        </tr>
      </thead>
      <tbody>
        {lives.map((l) => {
          const full = l.years[(l.full || l.first || 1) - 1];
          return (
            <tr key={l.layout}>
              <td>
                <b>{l.name}</b> {l.usual && <span className="text-faint">usual</span>}
                {l.system && <span className="block text-sm text-faint">{l.system}</span>}
              </td>
              <td className="num whitespace-nowrap">{text(l.perHa, "perArea")}</td>
              <td className="num">
                {l.life.low === l.life.high ? l.life.low : `${l.life.low} to ${l.life.high}`}{" "}
                {l.life.high === 1 ? "year" : "years"}
              </td>
              <td className="num">{l.first ? `year ${l.first}` : "none"}</td>
              <td className="num">{l.full ? `year ${l.full}` : "never"}</td>
              <td className="num whitespace-nowrap">{full ? text(full.perHa.base, shownAs(l.shownAs)) : ""}</td>
              <td className="num whitespace-nowrap">{text(l.total, altogether(l.shownAs))}</td>
              <td>{l.product}</td>
            </tr>
          );
        })}
      </tbody>
    </Part>
  );
}

function Lines({ id, name, against, other }: { id: string; name: string; against: string; other: string }) {
  const doc = useSheet(id, against);
  const [section, turn] = useState("");
  if (doc.isPending) return <Busy what="Setting them side by side" />;
  if (doc.error) return <Trouble error={doc.error} />;
  const d = doc.data.differences;
  if (d.length === 0) return <p className="mt-2 text-faint">The two say the same.</p>;
  const sections = [...new Set(d.map((x) => x.section))];
  const shown = section ? d.filter((x) => x.section === section) : d;
  return (
    <>
      <div className="mt-3 max-w-96">
        <Pick
          label="Section"
          value={section}
          options={[
            { id: "", words: `all, ${d.length} values` },
            ...sections.map((x) => ({ id: x, words: `${x}, ${d.filter((y) => y.section === x).length}` })),
          ]}
          keep={turn}
        />
      </div>
      <Part title={`${d.length} values differ`}>
        <thead>
          <tr>
            <th>value</th>
            <th>{other}</th>
            <th>{name}</th>
          </tr>
        </thead>
        <tbody>
          {shown.slice(0, 400).map((x) => (
            <tr key={x.path}>
              <td>
                {x.section} <b>{x.entry}</b> <span className="text-faint">{x.field === x.section ? "" : x.field}</span>
              </td>
              <td>{x.was || <span className="text-faint">–</span>}</td>
              <td>{x.is || <span className="text-faint">–</span>}</td>
            </tr>
          ))}
          {shown.length > 400 && (
            <tr>
              <td colSpan={3} className="text-faint">
                and {shown.length - 400} more
              </td>
            </tr>
          )}
        </tbody>
      </Part>
    </>
  );
}
