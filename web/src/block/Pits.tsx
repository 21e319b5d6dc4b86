import { dug } from "./draft";
import { useState } from "react";
import { useLists, type Schema } from "../api/client";
import { DayField, NumberField, Pick, TextField } from "../shell/Fields";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { PitWall } from "./PitWall";
import type { StepProps } from "./stepProps";

type Pit = Schema["Pit"];
type Layer = Schema["Layer"];

const layer = (topCm: number, bottomCm: number, texture: string): Layer => ({
  topCm,
  bottomCm,
  class: texture,
  omPct: topCm === 0 ? 3 : 1,
  stonesPct: 0,
  structure: "",
  hardness: "firm",
  roots: "",
  colour: topCm === 0 ? "dark brown" : "brown",
  densityGCm3: 0,
  strongFizz: false,
  signs: [],
});

const signs = (v: unknown) => (v as string[] | null) ?? [];

/** The pits of a block, one at a time: the wall to scale, what follows from it, and the layers as a table. */
export function Pits({ plan, doc, draft }: StepProps) {
  const lists = useLists();
  const { text } = useReading();
  const [at, setAt] = useState(0);
  const pits = doc.block.pits ?? [];
  const k = Math.min(at, pits.length - 1);
  const pit = pits[k];
  const view = plan.soil.pits[k];
  const all = (p: Pit) => pits.map((x, i) => (i === k ? p : x));
  /** made is the pit as it is to be, from the pit as it stands when the change is made. */
  const make = (f: (now: Pit) => Pit, done?: string) =>
    void draft.commit((b) => ({ pits: (b.pits ?? []).map((x, i) => (i === k ? f(x) : x)) }), done);
  const put = (part: Partial<Pit>, done?: string) => make((now) => ({ ...now, ...part }), done);
  const add = () => {
    const fresh: Pit = {
      name: `Pit ${pits.length + 1}`,
      zone: "",
      on: plan.today,
      layers: [layer(0, 30, "loam"), layer(30, 70, "clay loam"), layer(70, 120, "clay loam")],
      surface: [],
      waterCm: 0,
      wetCm: 0,
      relict: false,
      moisture: "",
      draft: true,
    };
    setAt(pits.length);
    void draft.commit(
      (b) => ({ pits: [...(b.pits ?? []), fresh] }),
      "A sketch of a pit is added; drag its layers to where they are",
    );
  };
  if (!pit)
    return (
      <div className="py-2">
        <p className="max-w-prose text-faint">
          No pit is described yet. Dig three at least, to {text(1.2, "spacing")} or to what stops the spade, one in every kind of
          soil. Never stand in a deeper pit unshored, and never alone.
        </p>
        <button className="act act-first mt-2" onClick={add}>
          Describe a pit
        </button>
      </div>
    );
  const change = (i: number, part: Partial<Layer>) =>
    make((now) => ({ ...now, layers: now.layers.map((l, j) => (j === i ? { ...l, ...part } : l)) }));
  const split = (i: number) =>
    make((now) => {
      const l = now.layers[i]!;
      const mid = Math.round((l.topCm + l.bottomCm) / 2);
      return {
        ...now,
        layers: now.layers.flatMap((x, j) =>
          j === i
            ? [
                { ...x, bottomCm: mid },
                { ...x, topCm: mid },
              ]
            : [x],
        ),
      };
    }, "The layer is split");
  const join = (i: number) =>
    make((now) => {
      const rest = now.layers.filter((_, j) => j !== i).map((l) => ({ ...l }));
      if (i > 0) rest[i - 1]!.bottomCm = now.layers[i]!.bottomCm;
      else rest[0]!.topCm = 0;
      return { ...now, layers: rest };
    }, "The layer is taken out");
  const bottom = (i: number, cm: number) =>
    make((now) => {
      const layers = now.layers.map((x) => ({ ...x }));
      layers[i]!.bottomCm = cm;
      if (layers[i + 1]) layers[i + 1]!.topCm = cm;
      return { ...now, layers };
    });
  return (
    <div>
      <div className="no-print mb-2 flex flex-wrap items-center gap-2">
        {pits.map((p, i) => (
          <button key={i} aria-pressed={i === k} className={`act ${i === k ? "act-first" : ""}`} onClick={() => setAt(i)}>
            {p.name}
            {p.draft && " (draft)"}
          </button>
        ))}
        <button className="act" onClick={add}>
          Add a pit
        </button>
      </div>
      {pit.draft && (
        <div className="mb-3 flex flex-wrap items-center gap-3 border-l-4 border-decide bg-soil px-3 py-2" role="status">
          <p className="max-w-prose">
            <b>This is a sketch, not what was seen.</b> It counts for nothing: set its layers, textures and signs to what the
            spade showed, then say so.
          </p>
          <button className="act act-first" onClick={() => put({ draft: false }, `${pit.name} is what was seen; it counts now`)}>
            This is what was seen
          </button>
        </div>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4 sm:grid-cols-[minmax(0,34rem)_minmax(0,1fr)]">
        <PitWall
          pit={pit}
          view={view}
          crop={plan.cropName}
          rootCm={view?.rootCm ?? 100}
          drains={plan.drains.soil?.pitAt === k ? plan.drains : undefined}
          tried={(p) => void draft.ask({ pits: all(p) }, dug)}
          keep={(p) => make(() => p, "The pit is kept")}
        />
        {view && (
          <div aria-live="polite">
            <p className="text-lg font-semibold">
              {text(view.effectiveCm, "depth")}{" "}
              <span className="text-sm font-normal text-faint">
                of root room{view.limiting ? `, to ${view.limiting}` : ", nothing stops roots in it"}
                {view.afterCm > view.effectiveCm && `; ${text(view.afterCm, "depth")} once that is removed`}
              </span>
            </p>
            <p className="text-lg font-semibold">
              {text(view.availableMm, "rain")} <span className="text-sm font-normal text-faint">held for roots, {view.held}</span>
            </p>
            <p className="mt-1">
              <b>{view.wetness.class}</b>
              {view.wetness.seen && ` from ${text(view.wetness.depthCm, "depth")}`}: {view.reading}.
              {view.wetness.confidence && <span className="text-faint"> Confidence {view.wetness.confidence}.</span>}
            </p>
            {view.wetness.signs.length > 0 && <p className="text-sm text-faint">seen there: {view.wetness.signs.join(", ")}</p>}
            {view.restrictive && (
              <p className="mt-1 text-sm">
                Water stops at {text(view.restrictive.topCm, "depth")}: {view.restrictive.what}.
              </p>
            )}
            <ul className="mt-2">
              {view.layers.map((l, i) => (
                <li key={i} className="border-b border-line py-1 text-sm">
                  <b>
                    {text(l.topCm, "depth")}–{text(l.bottomCm, "depth")} {l.words}
                  </b>
                  {!l.measured && <span className="text-faint"> by feel</span>}
                  <br />
                  <span className="text-faint">
                    {l.ksMmH > 0
                      ? `K ${text(l.ksMmH, "flow")} (${text(l.ksLow, "flow")} to ${text(l.ksHigh, "flow")}, estimated), holds ${text(l.holdsMm, "rain")}`
                      : "holds no water for roots"}
                  </span>
                </li>
              ))}
            </ul>
          </div>
        )}
      </div>
      <Wide label="Layers of the pit" className="mt-4">
        <table className="tbl">
          <thead>
            <tr>
              <th>to</th>
              <th>texture</th>
              <th>sand, silt, clay %</th>
              <th>organic</th>
              <th>stones</th>
              <th>structure</th>
              <th>hardness</th>
              <th>roots</th>
              <th>colour</th>
              <th>density</th>
              <th>signs of water</th>
              <th>
                <span className="sr-only">split or take out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {pit.layers.map((l, i) => {
              const name = `Layer ${i + 1}`;
              return (
                <tr key={i}>
                  <td>
                    <NumberField
                      hidden
                      label={`${name}, bottom`}
                      quantity="depth"
                      value={l.bottomCm}
                      width="w-16"
                      keep={(v) => v !== undefined && bottom(i, v)}
                    />
                  </td>
                  <td>
                    <Pick
                      hidden
                      label={`${name}, texture`}
                      value={l.class}
                      options={lists.data?.textures ?? [l.class]}
                      keep={(v) => change(i, { class: v })}
                    />
                  </td>
                  <td>
                    <TextField
                      hidden
                      label={`${name}, sand, silt and clay`}
                      width="w-24"
                      value={l.measured ? `${l.measured.sandPct}/${l.measured.siltPct}/${l.measured.clayPct}` : ""}
                      keep={(v) => {
                        const n = v.split(/[/ ,;]+/).map(Number);
                        change(i, {
                          measured: v === "" ? undefined : { sandPct: n[0] ?? NaN, siltPct: n[1] ?? NaN, clayPct: n[2] ?? NaN },
                        });
                      }}
                    />
                  </td>
                  <td>
                    <NumberField
                      hidden
                      label={`${name}, organic matter`}
                      quantity="percent"
                      width="w-14"
                      value={l.omPct}
                      keep={(v) => change(i, { omPct: v ?? 0 })}
                    />
                  </td>
                  <td>
                    <NumberField
                      hidden
                      label={`${name}, stones`}
                      quantity="percent"
                      width="w-14"
                      value={l.stonesPct}
                      keep={(v) => change(i, { stonesPct: v ?? 0 })}
                    />
                  </td>
                  <td>
                    <Pick
                      hidden
                      label={`${name}, structure`}
                      value={l.structure}
                      options={["", ...(lists.data?.structures ?? [])]}
                      keep={(v) => change(i, { structure: v })}
                    />
                  </td>
                  <td>
                    <Pick
                      hidden
                      label={`${name}, hardness`}
                      value={l.hardness}
                      options={lists.data?.hardnesses ?? [l.hardness]}
                      keep={(v) => change(i, { hardness: v })}
                    />
                  </td>
                  <td>
                    <Pick
                      hidden
                      label={`${name}, roots seen`}
                      value={l.roots}
                      options={["", ...(lists.data?.roots ?? [])]}
                      keep={(v) => change(i, { roots: v })}
                    />
                  </td>
                  <td>
                    <TextField
                      hidden
                      label={`${name}, colour`}
                      width="w-32"
                      value={l.colour}
                      keep={(v) => change(i, { colour: v })}
                    />
                  </td>
                  <td>
                    <NumberField
                      hidden
                      label={`${name}, bulk density`}
                      quantity="density"
                      width="w-16"
                      value={l.densityGCm3 || undefined}
                      keep={(v) => change(i, { densityGCm3: v ?? 0 })}
                    />
                  </td>
                  <td className="min-w-52">
                    <details>
                      <summary className="cursor-pointer text-sm">{signs(l.signs).join(", ") || "none"}</summary>
                      {lists.data?.layerSigns.map((s) => (
                        <label key={s} className="block text-sm">
                          <input
                            type="checkbox"
                            checked={signs(l.signs).includes(s)}
                            onChange={(e) =>
                              change(i, {
                                signs: e.target.checked ? [...signs(l.signs), s] : signs(l.signs).filter((x) => x !== s),
                              })
                            }
                          />{" "}
                          {s}
                        </label>
                      ))}
                      <label className="block text-sm">
                        <input
                          type="checkbox"
                          checked={l.strongFizz}
                          onChange={(e) => change(i, { strongFizz: e.target.checked })}
                        />{" "}
                        foams strongly with acid
                      </label>
                    </details>
                  </td>
                  <td className="whitespace-nowrap">
                    <button className="act" onClick={() => split(i)}>
                      Split<span className="sr-only"> layer {i + 1}</span>
                    </button>{" "}
                    <button className="act" disabled={pit.layers.length === 1} onClick={() => join(i)}>
                      Take out<span className="sr-only"> layer {i + 1}</span>
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </Wide>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <TextField label="Name of the pit" value={pit.name} keep={(v) => v && put({ name: v })} />
        <TextField label="Stands for" value={pit.zone} keep={(v) => put({ zone: v })} />
        <DayField label="Dug on" value={pit.on} keep={(v) => put({ on: v })} />
        <NumberField
          label="Water in the pit at"
          quantity="depth"
          value={pit.waterCm || undefined}
          keep={(v) => put({ waterCm: v ?? 0 })}
        />
        <NumberField
          label="Highest in the wet season"
          quantity="depth"
          value={pit.wetCm || undefined}
          keep={(v) => put({ wetCm: v ?? 0 })}
        />
        <Pick
          label="Soil at tillage depth"
          value={pit.moisture}
          options={["", ...(lists.data?.moistures ?? [])]}
          keep={(v) => put({ moisture: v })}
        />
        {lists.data?.surfaceSigns.map((s) => (
          <label key={s} className="text-sm">
            <input
              type="checkbox"
              checked={signs(pit.surface).includes(s)}
              onChange={(e) =>
                put({
                  surface: e.target.checked ? [...signs(pit.surface), s] : signs(pit.surface).filter((x) => x !== s),
                })
              }
            />{" "}
            {s}
          </label>
        ))}
        <label className="text-sm">
          <input type="checkbox" checked={pit.relict} onChange={(e) => put({ relict: e.target.checked })} /> drained since
        </label>
        <button
          className="act"
          onClick={() => {
            setAt(0);
            void draft.commit({ pits: pits.filter((_, i) => i !== k) }, `${pit.name} is taken out; undo brings it back`);
          }}
        >
          Take this pit out
        </button>
      </div>
    </div>
  );
}
