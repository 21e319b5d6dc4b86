import { laid } from "./draft";
import { useState } from "react";
import { NumberField, Pick } from "../shell/Fields";
import type { Plan } from "../api/client";
import { useReading } from "../shell/reading";
import { fromSI, toSI } from "../units";
import type { Draft } from "./draft";
import type { StepProps } from "./stepProps";
import { stands } from "./paths";

export const patterns = [
  { id: "", words: "as the layout has it" },
  { id: "square", words: "square" },
  { id: "rectangle", words: "rows" },
  { id: "triangle", words: "triangle, equal sides" },
  { id: "quincunx", words: "square with a centre" },
  { id: "twin", words: "rows in groups" },
  { id: "contour", words: "rows that follow the slope" },
];

/** How far apart rows and plants stand, and by which pattern. */
export function Spacing({ plan, doc, draft }: StepProps) {
  const s = plan.spec;
  const derived = !["rectangle", "twin", "contour"].includes(s.pattern);
  const own = doc.block.planting?.layout;
  if (stands(plan))
    return (
      <p className="py-2 text-sm text-faint">
        These rows stand in the ground with permanent numbers; nothing planned later moves them.
      </p>
    );
  const lay = (layout: Record<string, unknown>) => void draft.commit({ planting: { layout } });
  return (
    <>
      <div className="flex flex-wrap items-end gap-3 pt-2">
        {!s.strips && (
          <Pick
            label="Pattern"
            value={own?.pattern ?? ""}
            options={patterns}
            keep={(p) =>
              lay(p === "twin" ? { pattern: p, twinGapM: s.twinGapM || Math.min(1, s.rowSpacingM / 4) } : { pattern: p || null })
            }
          />
        )}
        {s.pattern === "contour" && (
          <NumberField
            label="Fall along the rows"
            quantity="percent"
            value={s.gradePct ?? 0}
            keep={(v) => lay({ gradePct: v ?? null })}
          />
        )}
        {(s.pattern === "twin" || s.pattern === "contour") && (
          <>
            <NumberField
              label="Rows in a group"
              quantity="count"
              value={s.groupRows || (s.pattern === "twin" ? 2 : 1)}
              keep={(v) => lay(v && v > 1 ? { groupRows: v, twinGapM: s.twinGapM || 0.7 } : { groupRows: null })}
            />
            <NumberField
              label="Between the rows of a group"
              quantity="spacing"
              value={s.twinGapM}
              keep={(v) => lay({ twinGapM: v ?? null })}
            />
          </>
        )}
        <NumberField
          label="Plants at a station"
          quantity="count"
          width="w-16"
          value={own?.each ?? undefined}
          keep={(v) => lay({ each: v ?? null })}
        />
        {(s.pattern === "twin" || s.pattern === "rectangle") && !s.strips && (
          <label className="flex items-center gap-1 pb-1 text-sm">
            <input type="checkbox" checked={s.stagger ?? false} onChange={(e) => lay({ stagger: e.target.checked })} />
            every other row shifted half a spacing
          </label>
        )}
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-6 gap-y-1 py-2 sm:grid-cols-2">
        {!derived && !s.strips && (
          <Setting
            plan={plan}
            draft={draft}
            field="rowSpacingM"
            label={s.pattern === "twin" ? "Between group centres" : "Between rows"}
            value={s.rowSpacingM}
            quantity="spacing"
            min={s.pattern === "twin" ? s.twinGapM * ((s.groupRows || 2) - 1) + 0.2 : 0.5}
            max={12}
            step={0.05}
          />
        )}
        {!s.strips && (
          <Setting
            plan={plan}
            draft={draft}
            field="plantSpacingM"
            label={derived ? "Between plants, all ways" : "Between plants in the row"}
            value={s.plantSpacingM}
            quantity="spacing"
            min={0.3}
            max={12}
            step={0.05}
          />
        )}
        {s.pattern !== "contour" && (
          <Setting
            plan={plan}
            draft={draft}
            field="bearingDeg"
            label="Bearing of the rows"
            value={s.bearingDeg}
            quantity="angle"
            min={0}
            max={179}
            step={1}
          />
        )}
        <Setting
          plan={plan}
          draft={draft}
          field="edgeBandM"
          label="Edge band"
          value={s.edgeBandM}
          quantity="spacing"
          min={0}
          max={20}
          step={0.5}
        />
        <Setting
          plan={plan}
          draft={draft}
          field="rowEndSetbackM"
          label="Row-end setback"
          value={s.rowEndSetbackM}
          quantity="spacing"
          min={0}
          max={20}
          step={0.5}
        />
        <Setting
          plan={plan}
          draft={draft}
          field="offsetM"
          label="Shift of the rows"
          value={s.offsetM}
          quantity="spacing"
          min={-6}
          max={6}
          step={0.1}
        />
      </div>
      {s.strips && (
        <p className="text-sm text-faint">Rows follow the strips: their spacing is set under “Between and over the rows”.</p>
      )}
    </>
  );
}

/** A slider and a field that answer through the preview and make one change when let go. */
export function Setting(p: {
  plan: Plan;
  draft: Draft;
  field: string;
  label: string;
  value: number;
  quantity: string;
  min: number;
  max: number;
  step: number;
}) {
  const { system, unit } = useReading();
  const [typed, setTyped] = useState<string>();
  const [held, setHeld] = useState<number>();
  const patch = (v: number) => ({ planting: { layout: { [p.field]: v } } });
  const value = held ?? p.value;
  const finish = () => {
    if (held === undefined) return;
    void p.draft.commit(patch(held)).finally(() => setHeld(undefined));
  };
  return (
    <div className="flex items-center gap-2">
      <label className="min-w-0 flex-1 text-sm text-faint">
        {p.label}
        <input
          type="range"
          className="block w-full accent-input"
          aria-label={`${p.label}, slider`}
          min={p.min}
          max={p.max}
          step={p.step}
          value={value}
          onChange={(e) => {
            const v = Number(e.target.value);
            setHeld(v);
            void p.draft.ask(patch(v), laid);
          }}
          onPointerUp={finish}
          onKeyUp={finish}
          onBlur={finish}
        />
      </label>
      <input
        className="field w-20 text-right"
        inputMode="decimal"
        aria-label={`${p.label}, ${unit(p.quantity)}`}
        value={typed ?? String(fromSI(value, p.quantity, system))}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => {
          const v = typed === undefined ? NaN : Number(typed.replace(",", "."));
          setTyped(undefined);
          if (typed !== undefined && typed.trim() !== "" && v !== fromSI(p.value, p.quantity, system))
            void p.draft.commit(patch(toSI(v, p.quantity, system)));
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter") e.currentTarget.blur();
          if (e.key === "Escape") setTyped(undefined);
        }}
      />
      <span className="unit w-5 text-sm">{unit(p.quantity)}</span>
    </div>
  );
}
