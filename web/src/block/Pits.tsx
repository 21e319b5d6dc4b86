import { dug } from "./draft";
import { useState } from "react";
import { useLists, type Schema } from "../api/client";
import { DayField, NumberField, Pick, TextField } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { PitLayers, signs } from "./PitLayers";
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
      <PitLayers pit={pit} make={make} />
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
            void draft.commit(
              (b) => ({ pits: (b.pits ?? []).filter((_, i) => i !== k) }),
              `${pit.name} is taken out; undo brings it back`,
            );
          }}
        >
          Take this pit out
        </button>
      </div>
    </div>
  );
}
