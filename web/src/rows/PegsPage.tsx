import { useState } from "react";
import { Link, useParams } from "react-router";
import { usePegs, usePlan } from "../api/client";
import { toBlock } from "../block/paths";
import { Busy, Trouble } from "../shell/States";
import { useReading } from "../shell/reading";
import { Wide } from "../shell/Wide";
import { Pick } from "../shell/Fields";
import { papers, ScaleSheet } from "./ScaleSheet";

const forms = [
  ["csv", "table (CSV)"],
  ["gpx", "GPX"],
  ["geojson", "GeoJSON"],
  ["dxf", "drawing (DXF)"],
] as const;

/** The rows for pegging by tape: a base line, a right angle laid out on it, and the ends of every row measured from it. To print. */
export default function PegsPage() {
  const { id = "" } = useParams();
  const plan = usePlan(id);
  const pegs = usePegs(id);
  const { text } = useReading();
  const [paper, setPaper] = useState<keyof typeof papers>("A4");
  if (plan.isPending || pegs.isPending) return <Busy what="Measuring the rows" />;
  if (!plan.data || !pegs.data) return <Trouble error={plan.error ?? pegs.error} />;
  const { base, pegs: list } = pegs.data;
  const three = base.threeM;
  return (
    <article className="px-5 py-4">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1>Pegging the rows of {plan.data.name}</h1>
        <Link className="no-print text-faint hover:text-ink" to={toBlock(id, "rows")}>
          Back to its rows
        </Link>
        <button className="act no-print ml-auto" onClick={() => window.print()}>
          Print
        </button>
      </div>
      <span className="no-print inline-block">
        <Pick label="Paper" value={paper} options={Object.keys(papers)} keep={(p) => setPaper(p as keyof typeof papers)} />
      </span>
      <ScaleSheet plan={plan.data} base={base} paper={paper} />
      <ol className="max-w-prose list-decimal pl-5">
        <li>
          The base line is the longest side of the boundary, {text(base.lengthM, "distance")} at {base.bearing.toFixed(1)}°. Peg
          both of its ends and stretch a cord between them. It begins at {base.from.lat.toFixed(6)}°, {base.from.lon.toFixed(6)}°.
        </li>
        <li>
          Lay out the right angle at its beginning: {text(three, "spacing")} along the base line,{" "}
          {text((three / 3) * 4, "spacing")} into the block, and the tape between the two must read{" "}
          {text((three / 3) * 5, "spacing")}. Check it again at the other end.
        </li>
        <li>
          Each row end stands as far along the base line and square from it as the table says. Plants follow at their spacing.
        </li>
      </ol>
      <p className="no-print mt-2 flex flex-wrap gap-3">
        {forms.map(([form, words]) => (
          <a key={form} className="act" href={`/api/v1/blocks/${id}/rows/${form}${window.location.search}`} download>
            {words}
          </a>
        ))}
      </p>
      <Wide label="Row ends">
        <table className="tbl mt-3">
          <caption className="sr-only">Row ends, measured from the base line</caption>
          <thead>
            <tr>
              <th>peg</th>
              <th>crop</th>
              <th className="num">row</th>
              <th className="num">along the base line</th>
              <th className="num">square from it</th>
              <th className="num">stations</th>
              <th className="num">spacing</th>
            </tr>
          </thead>
          <tbody>
            {list.map((p) => (
              <tr key={p.id + p.end}>
                <td>{p.id}</td>
                <td>{p.crop}</td>
                <td className="num">{p.row}</td>
                <td className="num">{text(p.alongM, "spacing")}</td>
                <td className="num">{text(p.offsetM, "spacing")}</td>
                <td className="num">{p.end === "first" ? text(p.stations, "count") : ""}</td>
                <td className="num">{p.end === "first" ? text(p.stepM, "spacing") : ""}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </article>
  );
}
