import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import type { Drain, Network } from "./types";

/** What no drain reaches, piece by piece. */
export function Unreached({ network: n }: { network: Network }) {
  const { text, number } = useReading();
  return (
    <details className="mt-2">
      <summary className="cursor-pointer">
        What no drain reaches: {n.missed.length} {n.missed.length === 1 ? "piece" : "pieces"}
      </summary>
      <ul className="text-sm">
        {n.missed.slice(0, 8).map((m, i) => (
          <li key={i}>
            {text(m.areaM2, "area")} around {number(m.x, "distance")} east, {text(m.y, "distance")} north of the middle of the
            block
          </li>
        ))}
        {n.missed.length > 8 && (
          <li>
            and {n.missed.length - 8} smaller,{" "}
            {number(
              n.missed.slice(8).reduce((a, m) => a + m.areaM2, 0),
              "count",
            )}{" "}
            m² together
          </li>
        )}
      </ul>
    </details>
  );
}

/** Every pipe with its measures; pressing one shows it in section. */
export function Pipes({ drains, choose }: { drains: Drain[]; choose: (id: string) => void }) {
  const { number, unit } = useReading();
  return (
    <details className="mt-3">
      <summary className="cursor-pointer">Every pipe: length, fall, flow, size and cover</summary>
      <Wide label="Pipes">
        <table className="tbl mt-1">
          <thead>
            <tr>
              <th>pipe</th>
              <th className="num">length {unit("distance")}</th>
              <th className="num">drains {unit("area")}</th>
              <th className="num">flow {unit("outflow")}</th>
              <th>size</th>
              <th className="num">least fall %</th>
              <th className="num">velocity {unit("velocity")}</th>
              <th className="num">low {unit("spacing")}</th>
              <th className="num">high {unit("spacing")}</th>
              <th className="num">least cover {unit("spacing")}</th>
            </tr>
          </thead>
          <tbody>
            {drains.map((x) => (
              <tr key={x.id}>
                <td>
                  <button className="press" onClick={() => choose(x.lateral ? x.id : x.main)}>
                    {x.id}
                  </button>
                </td>
                <td className="num">{number(x.lengthM, "distance")}</td>
                <td className="num">{number(x.areaM2, "area")}</td>
                <td className="num">{number(x.flowM3S, "outflow")}</td>
                <td>{x.pipe.name || "ditch"}</td>
                <td className="num">{number(x.grade, "grade")}</td>
                <td className="num">{number(x.velocity, "velocity")}</td>
                <td className="num">{number(x.low, "spacing")}</td>
                <td className="num">{number(x.high, "spacing")}</td>
                <td className="num">{number(x.coverM, "spacing")}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </details>
  );
}
