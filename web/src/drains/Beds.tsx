import { NumberField, Pick } from "../shell/Fields";
import type { StepProps } from "../block/stepProps";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";

/** Raised beds: their shape to scale, the soil that makes them, what covers them and the root room they give. */
export function Beds({ plan, doc, draft }: StepProps) {
  const { text, number } = useReading();
  const b = plan.drains.bed;
  const w = doc.block.drains?.bed ?? {};
  const keep = (part: Record<string, unknown>) => void draft.commit({ drains: { bed: part } });
  if (!b)
    return (
      <div>
        <p className="max-w-prose text-faint">
          No beds are planned. They lift roots out of the wet where no pipe can lie, and they can be added to drains.
        </p>
        <button className="act act-first mt-2" onClick={() => keep({ settlePct: 15 })}>
          Plan beds
        </button>
      </div>
    );
  const m = (label: string, f: string, v: number | undefined, usual: number) => (
    <NumberField label={label} quantity="spacing" width="w-16" value={v || usual} keep={(x) => keep({ [f]: x ?? null })} />
  );
  return (
    <div>
      <div className="mb-2 flex flex-wrap items-end gap-3">
        {m("Base", "baseM", w.baseM, b.bed.baseM)}
        {m("Top", "topM", w.topM, b.bed.topM)}
        {m("Height, settled", "heightM", w.heightM, b.bed.heightM)}
        {m("Crown", "crownM", w.crownM, b.bed.crownM)}
        {m("Bed to bed", "centreM", w.centreM, b.bed.centreM)}
        <NumberField
          label="Settles by"
          quantity="percent"
          width="w-16"
          value={b.settlePct}
          keep={(x) => keep({ settlePct: x ?? null })}
        />
        <Pick
          label="Covered with"
          value={w.cover ?? ""}
          options={[
            { id: "", words: "nothing" },
            { id: "film", words: "film" },
            { id: "fabric", words: "woven fabric" },
          ]}
          keep={(v) => keep({ cover: v || null })}
        />
        <NumberField
          label="Drip lines a bed"
          quantity="count"
          width="w-14"
          value={w.dripLines ?? 0}
          keep={(x) => keep({ dripLines: x ?? null })}
        />
        {doc.block.drains?.bed && (
          <button className="act" onClick={() => void draft.commit({ drains: { bed: null } }, "Back to the usual bed")}>
            The usual shape
          </button>
        )}
      </div>
      {b.refused ? (
        <p className="text-decide">{b.refused}.</p>
      ) : (
        <>
          <BedSection plan={plan} />
          <dl className="mt-3 grid gap-x-8 sm:grid-cols-2">
            {(
              [
                [
                  text(b.metres, "distance"),
                  `of bed${b.estimated ? ", from the area: no rows are laid out for them" : ", along the rows"}`,
                ],
                [
                  text(b.movedM3, "earth"),
                  `of soil dug from furrows ${text(b.furrowM, "spacing")} below the old surface; the beds hold ${text(b.soilM3, "earth")} above the furrow floor`,
                ],
                [
                  text(b.freshM, "spacing"),
                  `high when shaped; stands ${text(b.bed.heightM, "spacing")} after it has settled by ${number(b.settlePct, "count")} %`,
                ],
                b.nowKnown
                  ? [`${text(b.nowCm, "depth")} → ${text(b.thenCm, "depth")}`, "of root room above the water or what stops roots"]
                  : [text(100 * b.riseM, "depth"), "of root room gained; how much there is now no pit has shown"],
                b.fallKnown
                  ? [
                      `${b.fallPct.toFixed(2)} %`,
                      `fall of the furrows along the rows; the longest runs ${text(b.longestM, "distance")}`,
                    ]
                  : ["?", "fall of the furrows: lay out rows to see it"],
                [text(b.takesMm, "drained"), "drawn from the beds by the furrows"],
                b.coverM > 0 && [
                  `${text(b.coverM, "distance")}`,
                  `${w.cover} of ${text(b.coverBuyM, "spacing")} width (${text(b.coverNeedM, "spacing")} needed with its edges buried), ${b.rolls} rolls; lasts ${b.life}`,
                ],
                b.dripM > 0 && [text(b.dripM, "distance"), "of drip line, ends included"],
                [text(b.machineH, "hours"), `of shaping by machine, passes over each bed: ${b.passes}; the rate is from memory`],
              ] as ([string, string] | false)[]
            )
              .filter((r): r is [string, string] => !!r)
              .map(([v, words]) => (
                <div key={words} className="flex gap-3 border-b border-line py-1">
                  <dt className="w-36 shrink-0 text-right font-semibold">{v}</dt>
                  <dd>{words}</dd>
                </div>
              ))}
          </dl>
        </>
      )}
    </div>
  );
}

/** Two beds and a half across, to scale, over the old surface. */
function BedSection({ plan }: { plan: StepProps["plan"] }) {
  const { text } = useReading();
  const d = plan.drains;
  const b = d.bed!;
  const width = 760;
  const beds = 2;
  const k = (width - 40) / (beds * b.bed.centreM); // one scale both ways
  const up = b.aboveM + b.bed.crownM + 0.15;
  const down = Math.min(1.4, Math.max(0.5, d.soil?.layerM ?? 0, d.wetM) + 0.3);
  const height = (up + down) * k + 34;
  const y = (z: number) => 8 + (up - z) * k;
  const x = (i: number, bx: number) => 20 + (i + 0.5) * b.bed.centreM * k + bx * k;
  const outline = Array.from({ length: beds }, (_, i) => b.outline.map(([bx, bz]) => [x(i, bx!), y(bz!)] as const)).flat();
  return (
    <Wide label="Beds across">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="block w-full max-w-[56rem] min-w-[40rem]"
        role="img"
        aria-label="Beds across, to scale"
      >
        <path
          d={`M${outline.map((p) => p.join(" ")).join("L")}L${width - 20} ${y(-down)}L20 ${y(-down)}Z`}
          fill="#cbb084"
          stroke="none"
        />
        {d.soil && d.soil.layerM > 0 && d.soil.layerM < down && (
          <>
            <rect x="20" y={y(-d.soil.layerM)} width={width - 40} height={y(-down) - y(-d.soil.layerM)} fill="#b3ac9a" />
            <text x="28" y={y(-d.soil.layerM) + 15} fontSize="13" fill="var(--color-ink)">
              {d.soil.layer} that stops the water, {text(d.soil.layerM, "spacing")}
            </text>
          </>
        )}
        {d.wetFrom && d.wetM < down && (
          <>
            <path d={`M20 ${y(-d.wetM)}H${width - 20}`} stroke="var(--color-water)" strokeWidth="1.6" strokeDasharray="7 5" />
            <text x={width - 26} y={y(-d.wetM) - 4} textAnchor="end" fontSize="13" fontWeight="600" fill="#1d4a6d">
              water in the wet season, {text(d.wetM, "spacing")}
            </text>
          </>
        )}
        <path d={`M20 ${y(0)}H${width - 20}`} stroke="var(--color-faint)" strokeWidth="1.2" strokeDasharray="3 4" />
        <text x="26" y={y(0) - 4} fontSize="12.5" fill="var(--color-ink)">
          old surface
        </text>
        <path d={`M${outline.map((p) => p.join(" ")).join("L")}`} fill="none" stroke="var(--color-ink)" strokeWidth="2" />
        {Array.from({ length: beds }, (_, i) => (
          <g key={i} stroke="var(--color-input)" fill="none">
            {[-3, -2, -1, 0, 1, 2, 3].map((q) => (
              <path
                key={q}
                d={`M${x(i, 0)} ${y(b.aboveM)}q${q * 5} ${0.3 * k * (b.thenCm / 100)} ${q * 0.12 * k} ${(b.thenCm / 100) * k * (1 - 0.1 * Math.abs(q))}`}
              />
            ))}
          </g>
        ))}
        <g stroke="var(--color-ink)" strokeWidth="1.2">
          <path d={`M${x(0, 0)} ${height - 14}H${x(1, 0)}m0 -5v10M${x(0, 0)} ${height - 19}v10`} fill="none" />
        </g>
        <text x={(x(0, 0) + x(1, 0)) / 2} y={height - 18} textAnchor="middle" fontSize="13" fill="var(--color-ink)">
          {text(b.bed.centreM, "spacing")} from bed to bed
        </text>
      </svg>
    </Wide>
  );
}
