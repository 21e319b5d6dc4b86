import { Link } from "react-router";
import { useEstate, useLists } from "../api/client";
import { NumberField, Pick } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { Wide } from "../shell/Wide";
import { day } from "../units";
import type { StepProps } from "./stepProps";

/** What the soil is given before planting: how much of what, by when, and what a late start still reaches. */
export function Amendments({ plan, doc, draft, press }: StepProps) {
  const { text } = useReading();
  const estate = useEstate();
  const lists = useLists();
  const w = doc.block.works ?? {};
  const keep = (part: Record<string, unknown>) => void draft.commit({ works: part });
  const materials = estate.data?.estate.materials ?? [];
  if (!plan.cropName)
    return (
      <p className="max-w-prose text-faint">
        Choose the crop the ground is meant for, above: what it is given depends on what will grow.
      </p>
    );
  if (!plan.soil.tests.some((t) => t.used))
    return <p className="max-w-prose text-faint">Amendments follow from a soil test, and there is none yet.</p>;
  return (
    <div>
      <div className="no-print mb-3 flex flex-wrap items-end gap-3">
        <Pick
          label="Liming material"
          value={w.material ?? ""}
          options={[{ id: "", words: "the first analysed" }, ...materials.map((m) => ({ id: m.id, words: m.name }))]}
          keep={(v) => keep({ material: v || null })}
        />
        <NumberField label="Mixed in to" quantity="depth" value={w.depthCm || 20} keep={(v) => keep({ depthCm: v ?? null })} />
        <NumberField
          label="Treated strip"
          quantity="spacing"
          value={w.stripM || undefined}
          keep={(v) => keep({ stripM: v ?? null })}
        />
        {!doc.block.planting && (w.stripM || w.rowM) && (
          <NumberField
            label="Rows apart"
            quantity="spacing"
            value={w.rowM || plan.works.rowM || undefined}
            keep={(v) => keep({ rowM: v ?? null })}
          />
        )}
        <Pick
          label="Organic material"
          value={w.organic ?? "compost"}
          options={(lists.data?.organics ?? []).map((o) => ({ id: o.id, words: o.name }))}
          keep={(v) => keep({ organic: v })}
        />
        <NumberField
          label="Organic matter wanted"
          quantity="percent"
          value={w.omTarget || undefined}
          keep={(v) => keep({ omTarget: v ?? null })}
        />
        <NumberField
          label="Buffer capacity"
          unit="cmolc/kg per pH"
          quantity="plain"
          value={w.bufferCap || undefined}
          keep={(v) => keep({ bufferCap: v ?? null })}
        />
        <Link className="act" to="/stores">
          Materials and prices
        </Link>
      </div>
      <p className="text-sm text-faint">
        {text(plan.works.treatedHa * 1e4, "area")} treated of {text(plan.works.areaHa * 1e4, "area")}, mixed to{" "}
        {text(plan.works.depthCm, "depth")}, soil of {text(plan.works.densityGCm3, "density")}
        {plan.works.estimated && " (estimated)"}.
      </p>
      {plan.works.lime && !plan.works.lime.wanted && (
        <p className="mt-1">Lime: {plan.works.lime.refused ?? plan.works.lime.why}.</p>
      )}
      {plan.works.items.length === 0 && (
        <p className="mt-2 text-faint">By the soil test nothing has to be given for {plan.cropName.toLowerCase()}.</p>
      )}
      {plan.works.items.length > 0 && (
        <Wide label="Amendments">
          <table className="tbl mt-2">
            <thead>
              <tr>
                <th>what</th>
                <th className="num">for the block</th>
                <th className="num">on treated ground</th>
                <th>when</th>
                <th>acts</th>
                <th className="num">cost</th>
              </tr>
            </thead>
            <tbody>
              {plan.works.items.map((a) => (
                <tr key={a.key}>
                  <td>
                    <b>{a.name}</b>, {a.product}
                    <span className="block text-sm text-faint">{a.why}</span>
                    {a.blocked && <span className="block text-decide">{a.blocked}</span>}
                    {a.guess && <span className="block text-straw">the analysis is a guess</span>}
                    <span className="block text-sm">
                      <b>Caution:</b> {a.caution}
                    </span>
                  </td>
                  <td className="num whitespace-nowrap">
                    {a.blocked ? (
                      a.pureT > 0 ? (
                        <>
                          {text(a.pureT * 1000, "massT")}
                          <span className="block text-sm text-faint">pure CaCO₃</span>
                        </>
                      ) : (
                        "–"
                      )
                    ) : (
                      <button className="press" data-figure={`works.${a.key}`} onClick={() => press(`works.${a.key}`)}>
                        {text(a.totalKg, "massT")}
                      </button>
                    )}
                    {a.m3 > 0 && <span className="block text-sm text-faint">{text(a.m3, "earth")}</span>}
                  </td>
                  <td className="num whitespace-nowrap">{a.blocked ? "–" : text(a.perHaKg, "yieldT")}</td>
                  <td className="whitespace-nowrap">
                    {a.doses.map((d, i) => (
                      <span key={i} className="block">
                        {text(d.kg, "massT")} {day(d.from)}
                        <span className="text-faint"> to {day(d.by)}</span>
                      </span>
                    ))}
                  </td>
                  <td>
                    {a.doses.length > 0 && (
                      <>
                        <span aria-hidden className="mt-1 block h-2 w-28 border border-ink">
                          <span className="block h-full bg-growth" style={{ width: `${100 * a.reached}%` }} />
                        </span>
                        <span className="block max-w-56 text-sm">{a.effect}</span>
                      </>
                    )}
                    {a.doses.length === 0 && a.effect}
                  </td>
                  <td className="num whitespace-nowrap">{a.costText}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      )}
    </div>
  );
}
