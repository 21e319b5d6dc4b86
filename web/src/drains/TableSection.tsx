import type { StepProps } from "../block/stepProps";
import { NumberField, Pick } from "../shell/Fields";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { Section } from "./SeasonSection";

export const left = 62;
export const width = 640;
export const height = 300;
export const top = 30;

export const ticks = (to: number, step: number) => Array.from({ length: Math.floor(to / step + 1e-9) + 1 }, (_, i) => i * step);

/** The water table between two drains through the year, on the soil of the pit that decides; the drain can be dragged. */
export function TableSection({ plan, doc, draft }: StepProps) {
  const { text, number } = useReading();
  const d = plan.drains;
  const w = doc.block.drains ?? {};
  const keep = (part: Record<string, unknown>, done?: string) => void draft.commit({ drains: part }, done);
  const pit = d.soil && doc.block.pits?.[d.soil.pitAt];
  if (!pit || !d.soil)
    return (
      <p className="max-w-prose text-faint">Describe a pit first: how deep a drain may lie, and how far apart, follow from it.</p>
    );
  return (
    <div>
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <NumberField
          label="Drain depth"
          quantity="spacing"
          value={w.depthM || (d.refused ? undefined : d.depthM)}
          keep={(v) => keep({ depthM: v ?? null })}
        />
        <NumberField
          label="Spacing"
          quantity="spacing"
          value={w.spacingM || d.spacingM || undefined}
          keep={(v) => keep({ spacingM: v ?? null })}
        />
        {doc.block.pits!.length > 1 && (
          <Pick
            label="On the soil of"
            value={w.pit ?? ""}
            options={[
              { id: "", words: w.pit ? "the pit that stops water soonest" : `${d.soil.pit}, which stops water soonest` },
              ...doc.block.pits!.map((p) => ({ id: p.name, words: p.name })),
            ]}
            keep={(v) => keep({ pit: v || null })}
          />
        )}
        <Pick
          label="Designed for"
          value={d.discharges.find((x) => x.taken)?.id ?? "practice"}
          options={d.discharges.map((x) => ({ id: x.id, words: `${x.name}: ${text(x.mmDay, "drained")}` }))}
          keep={(v) => keep({ dischargeBy: v })}
        />
        <NumberField
          label="Or set"
          quantity="drained"
          value={w.dischargeMm || undefined}
          keep={(v) => keep({ dischargeMm: v ?? null, dischargeBy: v ? "set" : null })}
        />
        <NumberField
          label="Irrigation"
          quantity="rain"
          width="w-16"
          value={w.irrigationMm || undefined}
          keep={(v) => keep({ irrigationMm: v ?? null })}
        />
        <NumberField
          label="every"
          quantity="days"
          width="w-16"
          value={w.irrigationDays || undefined}
          keep={(v) => keep({ irrigationDays: v ?? null })}
        />
      </div>
      <Section plan={plan} doc={doc} draft={draft} />
      <p className="mt-1 max-w-prose text-sm text-faint">
        {d.season.length > 0
          ? "Each line is the water table of a month, from its mean rain less what a grown stand uses; storms stand higher for a while. Broken: by the design discharge. "
          : "The water table of each month is drawn once climate normals are known and a spacing can be worked out. "}
        Heights are drawn larger than widths. Discharge: {d.discharges.find((x) => x.taken)?.why}.
      </p>
      {d.depths.length > 1 && (
        <>
          <h2 className="mt-4">At other depths</h2>
          <p className="text-sm text-faint">
            Deeper drains lie wider apart. Laterals of one hectare: pipe, stone and trench; collectors come to it.
          </p>
          <Wide label="Drains at other depths">
            <table className="tbl mt-1 max-w-[40rem]">
              <thead>
                <tr>
                  <th className="num">depth</th>
                  <th className="num">spacing</th>
                  <th className="num">metres a hectare</th>
                  <th className="num">roots free after</th>
                  <th className="num">cost a hectare</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {d.depths.map((t) => (
                  <tr key={t.depthM} className={t.taken ? "font-semibold" : ""}>
                    <td className="num whitespace-nowrap">{text(t.depthM, "spacing")}</td>
                    <td className="num whitespace-nowrap">{text(t.spacingM, "spacing")}</td>
                    <td className="num whitespace-nowrap">{text(t.metresPerHa, "distance")}</td>
                    <td className="num whitespace-nowrap">{text(t.hours, "hours")}</td>
                    <td className="num whitespace-nowrap">{t.costText}</td>
                    <td>
                      {t.taken ? (
                        <span className="text-sm font-normal text-input">taken</span>
                      ) : (
                        <button
                          className="act"
                          onClick={() => keep({ depthM: t.depthM, spacingM: null }, `Drains at ${text(t.depthM, "spacing")}`)}
                        >
                          Lay them so<span className="sr-only">: {text(t.depthM, "spacing")} deep</span>
                        </button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Wide>
        </>
      )}
      {d.refused && <p className="mt-2 font-semibold">No pipe is laid here: {d.refused}.</p>}
      <dl className="mt-2 grid max-w-prose grid-cols-[auto_1fr] gap-x-4 text-sm">
        {d.limits.map((l) => (
          <div key={l.name} className="col-span-2 grid grid-cols-subgrid border-b border-line py-0.5">
            <dt className="font-semibold">{text(l.depthM, "spacing")}</dt>
            <dd>
              {l.name}
              {l.name === d.binding && <b> decides</b>}
            </dd>
          </div>
        ))}
        <div className="col-span-2 grid grid-cols-subgrid py-0.5">
          <dt className="font-semibold">
            {d.soil.atLeast ? "≥ " : ""}
            {text(d.soil.thickM, "spacing")}
          </dt>
          <dd>
            from drain level to what stops the water; {d.soil.school === "ernst" ? "two layers, by Ernst" : "by Hooghoudt"}
            {d.spacingM > 0 &&
              `; spacing ${number(d.spacings[0]!, "spacing")} to ${text(d.spacings[2]!, "spacing")} over the range of the permeability`}
          </dd>
        </div>
      </dl>
    </div>
  );
}
