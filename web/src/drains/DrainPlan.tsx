import { useMemo, useState } from "react";
import { useLand } from "../api/client";
import type { StepProps } from "../block/steps";
import { NumberField, Pick } from "../shell/Fields";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { DrainSheet, type Handle } from "./DrainSheet";
import { LongSection } from "./LongSection";
import { main, place, position, type Drain, type XY } from "./types";

/** The network on the plan: every line can be dragged, and all levels, pipes and the bill answer. */
export function DrainPlan({ plan, doc, draft }: StepProps) {
  const { text, number } = useReading();
  const land = useLand(doc.id);
  const [chosen, choose] = useState("collector");
  const d = plan.drains;
  const w = doc.block.drains ?? {};
  const n = d.network;
  const cut = d.cut;
  const pits = doc.block.pits ?? [];
  const wells = w.wells ?? [];
  const lateral = n?.laterals.find((l) => l.id === chosen);
  const section = useMemo(() => {
    if (lateral) return { network: n!, name: `Lateral ${lateral.id}`, stations: lateral.section, pipes: [lateral] };
    if (chosen === "interceptor" && cut) return { network: cut, name: "Interceptor", stations: main(cut), pipes: cut.reaches };
    if (n && n.reaches.length > 0) return { network: n, name: "Collector", stations: main(n), pipes: n.reaches };
    if (cut) return { network: cut, name: "Interceptor", stations: main(cut), pipes: cut.reaches };
    return undefined;
  }, [lateral, chosen, cut, n]);
  if (!n && !cut)
    return (
      <p className="max-w-prose text-faint">
        {d.refused
          ? `No pipe is laid: ${d.refused}.`
          : d.taken
            ? "The way taken lays no pipes, or no heights are known here."
            : "Say what was seen of the water, then take a way at the fork below: it is laid on this block."}
      </p>
    );
  const lines: Record<string, { lineAt: { lon: number; lat: number }[]; line: XY[] }> = {};
  if (n) lines.collector = n;
  if (cut) lines.interceptor = cut;
  const drawn = () => n!.laterals.map((l) => ({ id: l.id, line: l.points.map((p) => position(plan, p)) }));
  const shift = (of: string, i: number, to: XY): Record<string, unknown> => {
    const p = position(plan, to);
    if (of === "pit") return { pits: pits.map((x, k) => (k === i ? { ...x, at: p } : x)) };
    if (of === "well") return { drains: { wells: wells.map((x, k) => (k === i ? { ...x, at: p } : x)) } };
    const l = lines[of];
    if (l) return { drains: { [of]: l.lineAt.map((q, k) => (k === i ? p : q)) } };
    return {
      drains: { laterals: drawn().map((x) => (x.id === of ? { ...x, line: x.line.map((q, k) => (k === i ? p : q)) } : x)) },
    };
  };
  const handles: Handle[] = [];
  for (const [of, l] of Object.entries(lines))
    l.line.forEach((at, i) =>
      handles.push({ of, i, at, label: i === 0 ? `Outlet of the ${of}` : `Point ${i + 1} of the ${of}` }),
    );
  if (lateral)
    lateral.points.forEach((at, i) =>
      handles.push({ of: lateral.id, i, at, label: i === 0 ? `Junction of ${lateral.id}` : `End of ${lateral.id}` }),
    );
  // where somebody dug and reads: moved to where that was
  pits.forEach((x, i) => x.at && handles.push({ of: "pit", i, at: place(plan, x.at), label: `Pit ${x.name}` }));
  wells.forEach((x, i) => x.at && handles.push({ of: "well", i, at: place(plan, x.at), label: `Dip well ${x.name}` }));
  const unplaced = [...pits, ...wells].filter((x) => !x.at).length;
  const placeAll = () => {
    let k = 0;
    const put = <T extends { at?: { lon: number; lat: number } }>(x: T): T =>
      x.at ? x : { ...x, at: position(plan, [14 * k++ - 7 * unplaced, 0]) };
    void draft.commit(
      { pits: pits.map(put), ...(wells.length > 0 && { drains: { wells: wells.map(put) } }) },
      "They stand in the middle of the block now; drag each to where it was dug",
    );
  };
  const add = () => {
    const spot = n!.missed[0];
    const from = n!.line[Math.floor(n!.line.length / 2)] ?? [0, 0];
    const mid: XY = [(n!.line[0]![0]! + from[0]!) / 2, (n!.line[0]![1]! + from[1]!) / 2];
    const to: XY = spot ? [spot.x, spot.y] : [mid[0]! + 20, mid[1]! + 20];
    const id = `N${n!.laterals.filter((l) => l.id.startsWith("N")).length + 1}`;
    void draft.commit(
      { drains: { collector: n!.lineAt, laterals: [...drawn(), { id, line: [position(plan, mid), position(plan, to)] }] } },
      `Lateral ${id} is drawn; drag its ends`,
    );
    choose(id);
  };
  const bend = (of: string) => {
    const l = lines[of]!.lineAt;
    const i = Math.max(1, Math.floor(l.length / 2));
    const a = l[i - 1]!;
    const b = l[i]!;
    const half = { lon: (a.lon + b.lon) / 2, lat: (a.lat + b.lat) / 2 };
    void draft.commit({ drains: { [of]: [...l.slice(0, i), half, ...l.slice(i)] } }, `The ${of} has one point more; drag it`);
  };
  const addCut = () => {
    const head = n!.line.at(-1)!;
    void draft.commit(
      { drains: { interceptor: [position(plan, head), position(plan, [head[0]! + 40, head[1]!])] } },
      "An interceptor is drawn at the head of the collector; drag its ends",
    );
    choose("interceptor");
  };
  return (
    <div>
      <div className="no-print mb-2 flex flex-wrap items-end gap-2">
        {d.taken === "herringbone" && (
          <NumberField
            label="Laterals join at"
            quantity="angle"
            width="w-16"
            value={w.angleDeg || 60}
            keep={(v) => void draft.commit({ drains: { angleDeg: v ?? null } })}
          />
        )}
        {n && n.laterals.length > 0 && (
          <button className="act" onClick={add}>
            Draw a lateral
          </button>
        )}
        {lateral && (
          <button
            className="act"
            onClick={() => {
              choose("collector");
              void draft.commit(
                { drains: { collector: n!.lineAt, laterals: drawn().filter((l) => l.id !== lateral.id) } },
                `${lateral.id} is taken out`,
              );
            }}
          >
            Take out {lateral.id}
          </button>
        )}
        {n && (
          <button className="act" onClick={() => bend("collector")}>
            Bend the collector
          </button>
        )}
        {n && !cut && d.taken !== "beds" && (
          <button className="act" onClick={addCut}>
            Draw an interceptor
          </button>
        )}
        {cut && (
          <Pick
            label="The interceptor is"
            value={w.cutOpen ? "open" : "pipe"}
            options={[
              { id: "pipe", words: "a pipe in stone" },
              { id: "open", words: "an open ditch" },
            ]}
            keep={(v) => void draft.commit({ drains: { cutOpen: v === "open" } })}
          />
        )}
        {unplaced > 0 && (
          <button className="act" onClick={placeAll}>
            Place pits and wells
          </button>
        )}
        {(w.collector || w.laterals || w.interceptor) && (
          <button
            className="act"
            onClick={() => {
              choose("collector");
              void draft.commit(
                { drains: { collector: null, laterals: null, interceptor: null } },
                "Back to the lines suggested; undo brings yours back",
              );
            }}
          >
            Back to the lines suggested
          </button>
        )}
      </div>
      <DrainSheet
        plan={plan}
        land={land.data}
        chosen={chosen}
        choose={choose}
        handles={handles}
        tried={(h, to) => void draft.ask(shift(h.of, h.i, to))}
        keep={(h, to) => void draft.commit(shift(h.of, h.i, to), `${h.label} is moved`)}
      />
      <p className="text-sm text-faint">
        {n && d.taken === "beds" && "The drain along the low ends of the furrows takes the whole block's water. "}
        {n && d.taken !== "beds" && (
          <>
            {number(100 * (n.reachedM2 / n.blockM2), "count")} % of the block lies within half a spacing of a drain
            {n.missed.length > 0 &&
              `; hatched: ${text(
                n.missed.reduce((a, m) => a + m.areaM2, 0),
                "area",
              )} that no drain reaches`}
            .{" "}
          </>
        )}
        {cut && `The interceptor catches ${text(d.catchM3Day, "earth")} a day. `}
        Press a line to see it in section; drag its points, or focus one and use the arrow keys. Triangle: outlet; squares on
        edge: inspection pits; sand: pits that were dug; blue ring: dip well.
      </p>
      {section && <LongSection {...section} />}
      {n && n.laterals.length + n.reaches.length > 0 && (
        <Pipes drains={[...n.reaches, ...n.laterals, ...(cut?.reaches ?? [])]} choose={choose} />
      )}
      {n && n.missed.length > 0 && (
        <details className="mt-2">
          <summary className="cursor-pointer">
            What no drain reaches: {n.missed.length} {n.missed.length === 1 ? "piece" : "pieces"}
          </summary>
          <ul className="text-sm">
            {n.missed.slice(0, 8).map((m, i) => (
              <li key={i}>
                {text(m.areaM2, "area")} ({number(m.areaM2, "count")} m²) around {number(m.x, "distance")} east,{" "}
                {text(m.y, "distance")} north of the middle of the block
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
      )}
      {!n && cut && <Pipes drains={cut.reaches} choose={choose} />}
    </div>
  );
}

function Pipes({ drains, choose }: { drains: Drain[]; choose: (id: string) => void }) {
  const { number } = useReading();
  const { unit } = useReading();
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
              <th className="num">velocity m/s</th>
              <th className="num">low {unit("spacing")}</th>
              <th className="num">high {unit("spacing")}</th>
              <th className="num">least cover {unit("spacing")}</th>
            </tr>
          </thead>
          <tbody>
            {drains.map((x) => (
              <tr key={x.id + x.lateral}>
                <td>
                  <button className="press" onClick={() => choose(x.lateral ? x.id : "collector")}>
                    {x.id}
                  </button>
                </td>
                <td className="num">{number(x.lengthM, "distance")}</td>
                <td className="num">{number(x.areaM2, "area")}</td>
                <td className="num">{number(x.flowM3S, "outflow")}</td>
                <td>{x.pipe.name}</td>
                <td className="num">{number(x.grade, "grade")}</td>
                <td className="num">{x.velocity.toFixed(2)}</td>
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
