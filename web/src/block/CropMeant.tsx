import { useSheets } from "../api/client";
import { DayField, Pick } from "../shell/Fields";
import { Word } from "../shell/Word";
import { day } from "../units";
import { considering } from "./paths";
import type { StepProps } from "./stepProps";

/** The crop the ground is judged for: the planting's, or one that is only considered. */
export function CropMeant({ plan, doc, draft }: StepProps) {
  const sheets = useSheets();
  const planting = doc.block.planting;
  if (planting && !planting.considered)
    return (
      <p className="text-sm text-faint">
        for {plan.cropName.toLowerCase()}, planting {day(plan.cropDate)}
      </p>
    );
  return (
    <div className="flex flex-wrap items-end gap-3">
      <Pick
        label="Crop considered"
        value={planting?.sheet ?? ""}
        options={[{ id: "", words: "none yet" }, ...(sheets.data ?? []).map((s) => ({ id: s.id, words: s.name }))]}
        keep={(v) =>
          void draft.commit({ planting: v ? considering(v) : null }, v ? "The ground is judged for it" : "No crop is considered")
        }
      />
      {planting && <Word is="considered" />}
      {planting && (
        <DayField
          label="To be planted on"
          value={planting.date}
          keep={(v) => v && void draft.commit({ planting: { date: v } })}
        />
      )}
    </div>
  );
}
