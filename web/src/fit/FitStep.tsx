import { useFit } from "../api/client";
import type { StepProps } from "../block/stepProps";
import { Busy, ErrorText } from "../shell/States";
import { FitTable } from "./FitTable";

/** Every crop of the library on this block: fit, fit with works, or not here, and why. */
export function FitStep({ plan, doc, draft }: StepProps) {
  const fits = useFit(doc.id);
  if (fits.isPending) return <Busy what="Judging every crop" />;
  if (fits.error) return <ErrorText error={fits.error} />;
  const here = fits.data.find((f) => f.sheet === plan.crop);
  const good = fits.data.filter((f) => f.verdict === "fit" || f.verdict === "fit with works").length;
  return (
    <div className="py-2">
      <p className="max-w-prose">
        {here ? here.sentence : `${good} of ${fits.data.length} crops would do here, as it is or with works.`}
      </p>
      {!doc.block.planting && (
        <p className="no-print mt-1 mb-2 flex flex-wrap gap-2 text-sm">
          {fits.data
            .filter((f) => (f.verdict === "fit" || f.verdict === "fit with works") && f.sheet !== plan.crop)
            .map((f) => (
              <button
                key={f.sheet}
                className="underline"
                onClick={() =>
                  void draft.commit(
                    { intent: { sheet: f.sheet, date: doc.block.intent?.date ?? `${Number(plan.today.slice(0, 4)) + 2}-07-01` } },
                    `The ground is judged for ${f.name.toLowerCase()}`,
                  )
                }
              >
                consider {f.name.toLowerCase()}
              </button>
            ))}
        </p>
      )}
      <FitTable fits={fits.data} by="crop" />
    </div>
  );
}
