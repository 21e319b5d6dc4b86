import { Figures } from "./Figures";
import { NoCrop } from "./NoCrop";
import type { StepProps } from "./stepProps";
import { YearTable } from "./YearTable";
import { isPlanned } from "./paths";

export function YieldStep({ plan, doc, press, season }: StepProps) {
  if (!isPlanned(plan)) return <NoCrop plan={plan} id={doc.id} />;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-5 py-2 sm:grid-cols-[12rem_minmax(0,1fr)]">
      <div>
        <Figures plan={plan} step="yield" also={["canopy.touch"]} press={press} />
        <a className="act mt-3 inline-block" href={`/api/v1/blocks/${doc.id}/years.csv`} download>
          Year table as CSV
        </a>
      </div>
      <div className="max-h-[27rem] min-w-0 overflow-y-auto">
        <YearTable plan={plan} press={press} season={season} brief />
      </div>
    </div>
  );
}
