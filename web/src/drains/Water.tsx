import { useState } from "react";
import { useLists, type Schema } from "../api/client";
import type { StepProps } from "../block/stepProps";
import { DayField, NumberField, Pick, TextField } from "../shell/Fields";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { day, dayNumber } from "../units";

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
  const putWell = (part: Partial<Well>, done?: string) =>
    void draft.commit(
      (b) => ({ drains: { wells: (b.drains?.wells ?? []).map((x, i) => (i === k ? { ...x, ...part } : x)) } }),
      done,
    );
  const putHole = (i: number, part: Partial<Hole>) =>
    void draft.commit((b) => ({ drains: { holes: (b.drains?.holes ?? []).map((x, j) => (j === i ? { ...x, ...part } : x)) } }));
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
            keep({ wells: [...wells, { name: `Well ${wells.length + 1}`, depthCm: 150, readings: [] }] }, "A dip well is added");
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
            <table className="tbl mt-2">
              <tbody>
                {well.readings.map((r, i) => (
                  <tr key={i}>
                    <td>{day(r.on)}</td>
                    <td className="num">{r.waterCm >= well.depthCm ? "dry" : text(r.waterCm, "depth")}</td>
                    <td>
                      <button
                        className="act"
                        onClick={() => putWell({ readings: well.readings.filter((_, j) => j !== i) }, "The reading is taken out")}
                      >
                        Take out<span className="sr-only">: reading of {day(r.on)}</span>
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <NewReading
              today={plan.today}
              add={(r) =>
                putWell(
                  { readings: [...well.readings, r].sort((a, b) => (a.on < b.on ? -1 : 1)) },
                  `${day(r.on)}: ${text(r.waterCm, "depth")} is kept`,
                )
              }
            />
            <button
              className="act mt-2"
              onClick={() => {
                setAt(0);
                keep({ wells: wells.filter((_, i) => i !== k) }, `${well.name} is taken out; undo brings it back`);
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
      {holes.length > 0 && (
        <Wide label="Auger holes">
          <table className="tbl mt-1">
            <thead>
              <tr>
                <th>hole</th>
                <th>on</th>
                <th className="num">radius</th>
                <th className="num">below rested water</th>
                <th className="num">bailed down</th>
                <th className="num">rose</th>
                <th className="num">in, s</th>
                <th>ends on the layer</th>
                <th className="num">permeability</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {holes.map((h, i) => {
                const view = d.holes[i];
                const cm = (label: string, v: number, f: keyof Hole) => (
                  <NumberField
                    hidden
                    label={`${h.name}, ${label}`}
                    quantity="depth"
                    width="w-16"
                    value={v}
                    keep={(x) => x && putHole(i, { [f]: x })}
                  />
                );
                return (
                  <tr key={i}>
                    <td>
                      <TextField
                        hidden
                        label={`Name of hole ${i + 1}`}
                        value={h.name}
                        width="w-28"
                        keep={(v) => v && putHole(i, { name: v })}
                      />
                    </td>
                    <td>
                      <DayField hidden label={`${h.name}, on`} value={h.on} keep={(v) => putHole(i, { on: v })} />
                    </td>
                    <td className="num">{cm("radius", h.radiusCm, "radiusCm")}</td>
                    <td className="num">{cm("below rested water", h.depthCm, "depthCm")}</td>
                    <td className="num">{cm("bailed down", h.firstCm, "firstCm")}</td>
                    <td className="num">{cm("rose", h.riseCm, "riseCm")}</td>
                    <td className="num">
                      <NumberField
                        hidden
                        label={`${h.name}, seconds`}
                        quantity="count"
                        width="w-16"
                        value={h.seconds}
                        keep={(x) => x && putHole(i, { seconds: x })}
                      />
                    </td>
                    <td>
                      <input
                        type="checkbox"
                        aria-label={`${h.name} ends on the layer that stops water`}
                        checked={h.onLayer}
                        onChange={(e) => putHole(i, { onLayer: e.target.checked })}
                      />
                    </td>
                    <td className="num whitespace-nowrap">
                      {view?.dropped ? <span className="text-decide">does not count</span> : view && text(view.kMDay, "seep")}
                    </td>
                    <td>
                      <button
                        className="act"
                        onClick={() =>
                          keep({ holes: holes.filter((_, j) => j !== i) }, `${h.name} is taken out; undo brings it back`)
                        }
                      >
                        Take out<span className="sr-only"> {h.name}</span>
                      </button>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </Wide>
      )}
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <button
          className="act"
          onClick={() =>
            keep(
              {
                holes: [
                  ...holes,
                  {
                    name: `Hole ${holes.length + 1}`,
                    on: plan.today,
                    radiusCm: 4,
                    depthCm: 60,
                    firstCm: 40,
                    riseCm: 8,
                    seconds: 60,
                    onLayer: false,
                  },
                ],
              },
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

function NewReading({ today, add }: { today: string; add: (r: { on: string; waterCm: number }) => void }) {
  const [on, setOn] = useState(today);
  return (
    <div className="mt-2 flex flex-wrap items-end gap-2">
      <DayField label="Read on" value={on} keep={setOn} />
      <NumberField
        key={on}
        label="Water at"
        quantity="depth"
        width="w-16"
        value={undefined}
        keep={(v) => v !== undefined && add({ on, waterCm: v })}
      />
    </div>
  );
}

/** The readings of a well through time, the surface on top. */
function WellSeries({ well, criterionM }: { well: Well; criterionM: number }) {
  const { text } = useReading();
  const r = well.readings;
  if (r.length === 0) return <p className="text-sm text-faint">No reading yet.</p>;
  const a = dayNumber(r[0]!.on);
  const b = Math.max(a + 30, dayNumber(r.at(-1)!.on));
  const x = (on: string) => 60 + ((dayNumber(on) - a) / (b - a)) * 500;
  const y = (cm: number) => 22 + (cm / well.depthCm) * 150;
  const ticks = [0, 0.25, 0.5, 0.75, 1].map((f) => f * well.depthCm);
  return (
    <Wide label={`Readings of ${well.name}`}>
      <svg
        viewBox="0 0 600 205"
        className="block w-full min-w-[32rem]"
        role="img"
        aria-label={`Water in ${well.name} through the year, ${r.length} readings`}
      >
        <rect x="60" y={y(0)} width="500" height={150} fill="var(--color-soil)" />
        {ticks.map((cm) => (
          <g key={cm}>
            <path d={`M54 ${y(cm)}H60`} stroke="var(--color-ink)" />
            <text x="50" y={y(cm) + 4} textAnchor="end" fontSize="12.5" fill="var(--color-faint)">
              {text(cm, "depth")}
            </text>
          </g>
        ))}
        <path d="M60 22H560" stroke="var(--color-ink)" strokeWidth="2" />
        {criterionM * 100 < well.depthCm && (
          <g>
            <path d={`M60 ${y(criterionM * 100)}H560`} stroke="var(--color-growth)" strokeWidth="1.4" strokeDasharray="7 5" />
            <text x="556" y={y(criterionM * 100) - 4} textAnchor="end" fontSize="12.5" fill="var(--color-growth)">
              asked for
            </text>
          </g>
        )}
        <path
          d={r.map((p, i) => `${i ? "L" : "M"}${x(p.on)} ${y(p.waterCm)}`).join("")}
          fill="none"
          stroke="var(--color-water)"
          strokeWidth="2"
        />
        {r.map((p) => (
          <g key={p.on}>
            <circle
              cx={x(p.on)}
              cy={y(p.waterCm)}
              r="4"
              fill={p.waterCm >= well.depthCm ? "var(--color-paper)" : "var(--color-water)"}
              stroke="var(--color-water)"
              strokeWidth="1.6"
            />
            <title>{`${day(p.on)}: ${p.waterCm >= well.depthCm ? "dry" : text(p.waterCm, "depth")}`}</title>
          </g>
        ))}
        <text x="60" y="198" fontSize="12.5" fill="var(--color-ink)">
          {day(r[0]!.on)}
        </text>
        {r.length > 1 && (
          <text x="560" y="198" fontSize="12.5" textAnchor="end" fill="var(--color-ink)">
            {day(r.at(-1)!.on)}
          </text>
        )}
      </svg>
    </Wide>
  );
}
