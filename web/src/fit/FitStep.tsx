import { useFit } from "../api/client";
import { considering } from "../block/paths";
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
  const unsure = fits.data.filter((f) => f.verdict === "not sure");
  const findOut = [...new Set(unsure.flatMap((f) => f.findOut))];
  return (
    <div className="py-2">
      <p className="max-w-prose">
        {here ? here.sentence : `${good} of ${fits.data.length} crops would do here, as it is or with works.`}
        {!here &&
          unsure.length > 0 &&
          ` Of ${unsure.length} more it is not sure while something that decides is not known: ${findOut.join("; ")}.`}
      </p>
      {(!doc.block.planting || doc.block.planting.considered) && (
        <p className="no-print mt-1 mb-2 flex flex-wrap gap-2 text-sm">
          {fits.data
            .filter((f) => ["fit", "fit with works", "not sure"].includes(f.verdict) && f.sheet !== plan.crop)
            .map((f) => (
              <button
                key={f.sheet}
                className="underline"
                onClick={() =>
                  void draft.commit({ planting: considering(f.sheet) }, `The ground is judged for ${f.name.toLowerCase()}`)
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
