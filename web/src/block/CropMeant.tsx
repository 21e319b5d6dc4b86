import { useSheets } from "../api/client";
import { DayField, Pick } from "../shell/Fields";
import { Word } from "../shell/Word";
import { day } from "../units";
import type { StepProps } from "./stepProps";

/** The crop the ground is judged for: the planting's, or one that is only considered. */
export function CropMeant({ plan, doc, draft }: StepProps) {
  const sheets = useSheets();
  if (doc.block.planting)
    return (
      <p className="text-sm text-faint">
        for {plan.cropName.toLowerCase()}, planting {day(plan.cropDate)}
      </p>
    );
  const intent = doc.block.intent;
  return (
    <div className="flex flex-wrap items-end gap-3">
      <Pick
        label="Crop considered"
        value={intent?.sheet ?? ""}
        options={[{ id: "", words: "none yet" }, ...(sheets.data ?? []).map((s) => ({ id: s.id, words: s.name }))]}
        keep={(v) =>
          void draft.commit(
            { intent: v ? { sheet: v, date: "" } : null },
            v ? "The ground is judged for it" : "No crop is considered",
          )
        }
      />
      {intent && <Word is="considered" />}
      {intent && (
        <DayField label="To be planted on" value={intent.date} keep={(v) => v && void draft.commit({ intent: { date: v } })} />
      )}
    </div>
  );
}
