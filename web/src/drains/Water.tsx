import { useState } from "react";
import { useLists, type Schema } from "../api/client";
import type { StepProps } from "../block/stepProps";
import { NumberField, Pick, TextField } from "../shell/Fields";
import { Table } from "../shell/Table";
import { useReading } from "../shell/reading";
import { day } from "../units";
import { AugerHoles } from "./AugerHoles";
import { NewReading, WellSeries } from "./WellSeries";

type Well = Schema["Well"];
type Hole = Schema["Hole"];

/** At the head of a sentence a word begins with a capital. */
const sentence = (words: string, head: boolean) => (head ? words.charAt(0).toUpperCase() + words.slice(1) : words);

/** The record of the field inspection: where the water comes from, dip wells through the year, auger holes. */
export function Water({ plan, doc, draft }: StepProps) {
  const lists = useLists();
  const { text, number } = useReading();
  const [at, setAt] = useState(0);
  const d = plan.drains;
  const w = doc.block.drains ?? {};
  const keep = (part: Record<string, unknown>, done?: string) => void draft.commit({ drains: part }, done);
  const wells = w.wells ?? [];
  const holes = w.holes ?? [];
  const k = Math.min(at, wells.length - 1);
  const well = wells[k];
  const changeWells = (make: (now: Well[]) => Well[], done?: string) =>
    void draft.commit((b) => ({ drains: { wells: make(b.drains?.wells ?? []) } }), done);
  const makeWell = (make: (now: Well) => Partial<Well>, done?: string) =>
    changeWells((now) => now.map((x, i) => (i === k ? { ...x, ...make(x) } : x)), done);
  const putWell = (part: Partial<Well>, done?: string) => makeWell(() => part, done);
  const changeHoles = (make: (now: Hole[]) => Hole[], done?: string) =>
    void draft.commit((b) => ({ drains: { holes: make(b.drains?.holes ?? []) } }), done);
  const c = d.criterion;
  const seen = plan.soil.pits.filter((p) => !p.draft);
  return (
    <div>
      <p className="text-lg">
        {d.wetFrom ? (
          <>
            Water stands at <b>{text(d.wetM, "spacing")}</b> in the wet season, by the {d.wetFrom};{" "}
          </>
        ) : (
          <>
            {seen.length === 0
              ? "Nobody has looked yet: no pit is described and no dip well is read. "
              : "No sign of standing water was found in the pits. "}
          </>
        )}
        {sentence(
          plan.cropName && !c.assumed ? plan.cropName.toLowerCase() : "an orchard crop of middling sensitivity",
          !d.wetFrom,
        )}{" "}
        {c.said ? "is to have, as it was said," : "asks for"} <b>{text(c.steadyM, "spacing")}</b>
        {c.said ? ", and " : ", and for "}
        {text(c.backM, "spacing")} within {number(c.hours, "hours")} h of a wet spell.
        {d.needed ? " It needs drains or beds." : d.wetFrom ? " That is kept without drains." : ""}
      </p>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <Pick
          label="Where the water comes from"
          value={w.source ?? ""}
          options={[{ id: "", words: "not said" }, ...(lists.data?.waterSources ?? [])]}
          keep={(v) => keep({ source: v || null })}
        />
        <NumberField
          label="Wet share of the block"
          quantity="percent"
          value={w.wetPct || undefined}
          keep={(v) => keep({ wetPct: v ?? null })}
        />
        <NumberField
          label="Keep the water table below"
          quantity="spacing"
          value={w.waterM || c.steadyM}
          keep={(v) => keep({ waterM: v ?? null })}
        />
        <NumberField
          label="Ditch water below the ground at the outlet"
          quantity="spacing"
          value={w.ditchM ?? undefined}
          keep={(v) => keep({ ditchM: v ?? null })}
        />
        <Pick
          label="Over the pipes"
          value={w.traffic || "tractor"}
          options={[
            { id: "foot", words: "people on foot" },
            { id: "tractor", words: "tractors" },
            { id: "truck", words: "loaded trucks" },
          ]}
          keep={(v) => keep({ traffic: v })}
        />
        <NumberField
          label="Trench machine reaches"
          quantity="spacing"
          value={w.reachM || 1.8}
          keep={(v) => keep({ reachM: v ?? null })}
        />
      </div>
      <label className="mt-3 flex max-w-prose flex-col text-sm">
        What was seen, and when
        <textarea
          key={w.evidence ?? ""}
          className="field"
          rows={2}
          defaultValue={w.evidence ?? ""}
          onBlur={(e) => {
            if (e.target.value.trim() !== (w.evidence ?? "")) keep({ evidence: e.target.value.trim() || null });
          }}
        />
      </label>

      {seen.some((p) => p.wetness.seen) && (
        <>
          <h2 className="mt-5">What the pits show</h2>
          <ul className="max-w-prose">
            {seen
              .filter((p) => p.wetness.seen)
              .map((p) => (
                <li key={p.name} className="border-b border-line py-0.5">
                  <b>{p.name}</b>, from {text(p.wetness.depthCm, "depth")}: {p.wetness.signs.join(", ")}
                  {p.restrictive && `; ${p.restrictive.what} stops the water at ${text(p.restrictive.topCm, "depth")}`}{" "}
                  <span className="text-sm text-faint">confidence {p.wetness.confidence}</span>
                </li>
              ))}
          </ul>
        </>
      )}

      <h2 className="mt-5">Dip wells</h2>
      <div className="no-print mt-1 mb-2 flex flex-wrap gap-2">
        {wells.map((x, i) => (
          <button key={i} aria-pressed={i === k} className={`act ${i === k ? "act-first" : ""}`} onClick={() => setAt(i)}>
            {x.name}
          </button>
        ))}
        <button
          className="act"
          onClick={() => {
            setAt(wells.length);
            changeWells((now) => [...now, { name: `Well ${now.length + 1}`, depthCm: 150, readings: [] }], "A dip well is added");
          }}
        >
          Add a dip well
        </button>
      </div>
      {!well && (
        <p className="max-w-prose text-sm text-faint">
          A perforated tube to below the roots, read every week or two in the wet months, tells more than any mark in a pit. Three
          readings or more outweigh the marks.
        </p>
      )}
      {well && (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-5 sm:grid-cols-[minmax(0,1fr)_17rem]">
          <WellSeries well={well} criterionM={c.steadyM} />
          <div>
            <div className="flex flex-wrap items-end gap-2">
              <TextField label="Name of the well" value={well.name} width="w-32" keep={(v) => v && putWell({ name: v })} />
              <NumberField
                label="Depth of the well"
                quantity="depth"
                width="w-16"
                value={well.depthCm}
                keep={(v) => v && putWell({ depthCm: v })}
              />
            </div>
            <Table
              label={`Readings of ${well.name} as a list`}
              className="mt-2"
              rows={well.readings}
              id={(r) => r.on}
              columns={[
                { head: "on", cell: (r) => day(r.on) },
                {
                  head: "water at",
                  num: true,
                  cell: (r) => (r.waterCm >= well.depthCm ? "dry" : text(r.waterCm, "depth")),
                },
              ]}
              takeOut={{
                what: (r) => `the reading of ${day(r.on)}`,
                done: (r) =>
                  makeWell((now) => ({ readings: now.readings.filter((x) => x.on !== r.on) }), "The reading is taken out"),
              }}
            />
            <NewReading
              today={plan.today}
              add={(r) =>
                makeWell(
                  (now) => ({ readings: [...now.readings, r].sort((a, b) => (a.on < b.on ? -1 : 1)) }),
                  `${day(r.on)}: ${text(r.waterCm, "depth")} is kept`,
                )
              }
            />
            <button
              className="act mt-2"
              onClick={() => {
                setAt(0);
                changeWells((now) => now.filter((_, i) => i !== k), `${well.name} is taken out; undo brings it back`);
              }}
            >
              Take this well out
            </button>
          </div>
        </div>
      )}

      <h2 className="mt-5">Auger holes</h2>
      <p className="text-sm text-faint">
        Bail a hole below the rested water and time its rise: the only cheap measure of how fast soil lets water through. One for
        every {text(2e4, "area")} to {text(4e4, "area")}, five in each soil.
      </p>
      {holes.length > 0 && <AugerHoles plan={plan} holes={holes} change={changeHoles} />}
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <button
          className="act"
          onClick={() =>
            changeHoles(
              (now) => [
                ...now,
                {
                  name: `Hole ${now.length + 1}`,
                  on: plan.today,
                  radiusCm: 4,
                  depthCm: 60,
                  firstCm: 40,
                  riseCm: 8,
                  seconds: 60,
                  onLayer: false,
                },
              ],
              "A hole is added; enter its reading",
            )
          }
        >
          Add an auger hole
        </button>
        <NumberField
          label="Or permeability as it is known"
          quantity="seep"
          value={w.kMDay || undefined}
          keep={(v) => keep({ kMDay: v ?? null })}
        />
        {d.soil && (
          <p className="text-sm text-faint">
            Designed with {text(d.soil.above, "seep")} above drain level and{" "}
            {d.soil.below > 0 ? `${text(d.soil.below, "seep")} below it` : "nothing below it, on the layer"}, by {d.soil.from}; it
            may be {d.soil.low.toFixed(1)} to {d.soil.high.toFixed(1)} times that.
          </p>
        )}
      </div>
    </div>
  );
}
