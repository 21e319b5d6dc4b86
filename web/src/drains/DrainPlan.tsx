import { drained } from "../block/draft";
import { useMemo, useState } from "react";
import { useLand } from "../api/client";
import type { StepProps } from "../block/stepProps";
import { NumberField, Pick } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { DrainSheet, type Handle } from "./DrainSheet";
import { Pipes, Unreached } from "./Lists";
import { LongSection } from "./LongSection";
import { place, position, whole, wholes, type XY } from "./types";

/** A line of the plan that can be bent and dragged. */
interface Course {
  id: string;
  name: string;
  at: Position[];
  points: XY[];
  patch: (at: Position[]) => Record<string, unknown>;
}
type Position = { lon: number; lat: number };

/** The network on the plan: every line can be dragged, and all levels, pipes and the bill answer. */
export function DrainPlan({ plan, doc, draft }: StepProps) {
  const { text, number } = useReading();
  const land = useLand(doc.id);
  const [chosen, choose] = useState("C");
  const d = plan.drains;
  const w = doc.block.drains ?? {};
  const n = d.network;
  const cut = d.cut;
  const diversion = d.taken === "diversion";
  const cutName = diversion ? "Ditch above the block" : "Interceptor";
  const pits = doc.block.pits ?? [];
  const wells = w.wells ?? [];
  const lateral = n?.laterals.find((l) => l.id === chosen);
  const section = useMemo(() => {
    if (n && lateral) return whole(n, lateral);
    const all = [...wholes(n, "Collector"), ...wholes(cut, cutName)];
    return all.find((x) => x.id === chosen) ?? all[0];
  }, [lateral, chosen, cut, cutName, n]);
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
  // what can be bent and dragged, each with the change that a new course of it is
  const lines: Course[] = [];
  if (n) lines.push({ id: "C", name: "the collector", at: n.lineAt, points: n.line, patch: (at) => ({ collector: at }) });
  n?.branchAt.forEach((b, i) =>
    lines.push({
      id: b.id,
      name: `branch ${b.id}`,
      at: b.line,
      points: n.mains[i + 1]!.points,
      patch: (at) => ({ collector: n.lineAt, branches: n.branchAt.map((x) => (x.id === b.id ? { ...x, line: at } : x)) }),
    }),
  );
  if (cut)
    lines.push({
      id: "I",
      name: diversion ? "the ditch" : "the interceptor",
      at: cut.lineAt,
      points: cut.line,
      patch: (at) => ({ interceptor: at }),
    });
  const drawn = () => n!.laterals.map((l) => ({ id: l.id, line: l.points.map((p) => position(plan, p)) }));
  const course = lines.find((l) => l.id === chosen) ?? lines[0];
  const branch = n?.branchAt.find((b) => b.id === chosen);
  const shift = (of: string, i: number, to: XY): Record<string, unknown> => {
    const p = position(plan, to);
    const moved = <T,>(at: T[], q: T) => at.map((x, k) => (k === i ? q : x));
    if (of === "pit") return { pits: moved(pits, { ...pits[i]!, at: p }) };
    if (of === "well") return { drains: { wells: moved(wells, { ...wells[i]!, at: p }) } };
    const l = lines.find((x) => x.id === of);
    if (l) return { drains: l.patch(moved(l.at, p)) };
    return { drains: { laterals: drawn().map((x) => (x.id === of ? { ...x, line: moved(x.line, p) } : x)) } };
  };
  const handles: Handle[] = [];
  for (const l of lines)
    l.points.forEach((at, i) => {
      const outlet = i === 0 && !n?.branchAt.some((b) => b.id === l.id);
      const first = outlet ? "Outlet" : "Junction";
      handles.push({
        of: l.id,
        i,
        at,
        label: `${i === 0 ? first : `Point ${i + 1}`} of ${l.name}`,
        mark: outlet ? "outlet" : "corner",
      });
    });
  lateral?.points.forEach((at, i) =>
    handles.push({ of: lateral.id, i, at, label: `${i === 0 ? "Junction" : "End"} of ${lateral.id}`, mark: "corner" }),
  );
  // where somebody dug and reads: moved to where that was
  pits.forEach((x, i) => x.at && handles.push({ of: "pit", i, at: place(plan, x.at), label: `Pit ${x.name}`, mark: "pit" }));
  wells.forEach(
    (x, i) => x.at && handles.push({ of: "well", i, at: place(plan, x.at), label: `Dip well ${x.name}`, mark: "well" }),
  );
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
  const addBranch = () => {
    const spot = n!.missed[0];
    const [a, b] = [n!.line[0]!, n!.line.at(-1)!];
    const from: XY = [(a[0]! + b[0]!) / 2, (a[1]! + b[1]!) / 2];
    const to: XY = spot ? [spot.x, spot.y] : [from[0]! - (b[1]! - a[1]!) / 4, from[1]! + (b[0]! - a[0]!) / 4];
    const id = n!.nextBranch;
    void draft.commit(
      { drains: { collector: n!.lineAt, branches: [...n!.branchAt, { id, line: [position(plan, from), position(plan, to)] }] } },
      `Branch ${id} is drawn; laterals it crosses now run into it. Drag its points`,
    );
    choose(id);
  };
  const takeOut = () => {
    const rest = branch
      ? { branches: n!.branchAt.filter((b) => b.id !== chosen) }
      : { collector: n!.lineAt, laterals: drawn().filter((l) => l.id !== chosen) };
    choose("C");
    void draft.commit({ drains: rest }, `${chosen} is taken out`);
  };
  const bend = (l: Course) => {
    const i = Math.max(1, Math.floor(l.at.length / 2));
    const a = l.at[i - 1]!;
    const b = l.at[i]!;
    const half = { lon: (a.lon + b.lon) / 2, lat: (a.lat + b.lat) / 2 };
    void draft.commit({ drains: l.patch([...l.at.slice(0, i), half, ...l.at.slice(i)]) }, `One point more on ${l.name}; drag it`);
  };
  const addCut = () => {
    const head = n!.line.at(-1)!;
    void draft.commit(
      { drains: { interceptor: [position(plan, head), position(plan, [head[0]! + 40, head[1]!])] } },
      "An interceptor is drawn at the head of the collector; drag its ends",
    );
    choose("I");
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
        {n && n.laterals.length > 0 && (
          <button className="act" onClick={addBranch}>
            Draw a branch
          </button>
        )}
        {(lateral ?? branch) && (
          <button className="act" onClick={takeOut}>
            Take out {chosen}
          </button>
        )}
        {course && (
          <button className="act" onClick={() => bend(course)}>
            Bend {course.name}
          </button>
        )}
        {n && !cut && d.taken !== "beds" && (
          <button className="act" onClick={addCut}>
            Draw an interceptor
          </button>
        )}
        {cut && !diversion && (
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
        {(w.collector || w.branches || w.laterals || w.interceptor) && (
          <button
            className="act"
            onClick={() => {
              choose("C");
              void draft.commit(
                { drains: { collector: null, branches: null, laterals: null, interceptor: null } },
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
        tried={(h, to) => void draft.ask(shift(h.of, h.i, to), drained)}
        keep={(h, to) => void draft.commit(shift(h.of, h.i, to), `${h.label} is moved`)}
      />
      <p className="text-sm text-faint">
        {n && d.taken === "beds" && "The drain along the low ends of the furrows takes the whole block's water. "}
        {n && d.taken !== "beds" && (
          <>
            {number(100 * (n.reachedM2 / n.blockM2), "count")} % of the {n.part.length > 0 ? "wet part" : "block"} lies within
            half a spacing of a drain
            {n.missed.length > 0 &&
              `; hatched: ${text(
                n.missed.reduce((a, m) => a + m.areaM2, 0),
                "area",
              )} that no drain reaches`}
            .{" "}
          </>
        )}
        {cut && !diversion && `The interceptor catches ${text(d.catchM3Day, "earth")} a day. `}
        {cut?.why && `${cut.why} `}
        Press a line to see it in section; drag its points, or focus one and use the arrow keys. Triangle: outlet; squares on
        edge: inspection pits; sand: pits that were dug; blue ring: dip well.
      </p>
      {section && <LongSection {...section} />}
      {n && n.laterals.length + n.reaches.length > 0 && (
        <Pipes drains={[...n.reaches, ...n.laterals, ...(cut?.reaches ?? [])]} choose={choose} />
      )}
      {n && n.missed.length > 0 && <Unreached network={n} />}
      {!n && cut && <Pipes drains={cut.reaches} choose={choose} />}
    </div>
  );
}
