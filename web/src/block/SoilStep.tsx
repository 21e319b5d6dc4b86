import { useState } from "react";
import { Tabs } from "../shell/Fields";
import { Amendments } from "./Amendments";
import { CropMeant } from "./CropMeant";
import { Figures } from "./Figures";
import { Pits } from "./Pits";
import { SoilTests } from "./SoilTests";
import type { StepProps } from "./stepProps";

/** The soil: its pits, its tests and what it is given before planting. */
export function SoilStep(props: StepProps) {
  const { plan, doc, press } = props;
  const [tab, setTab] = useState<"pits" | "tests" | "works">("pits");
  const b = doc.block;
  return (
    <div className="py-2">
      <div className="mb-2 flex flex-wrap items-start justify-between gap-x-8 gap-y-2">
        <div className="flex-1">
          <Figures plan={plan} step="soil" press={press} across />
        </div>
        <CropMeant {...props} />
      </div>
      <Tabs
        label="Of the soil"
        on={tab}
        turn={setTab}
        tabs={[
          ["pits", `Pits ${b.pits?.length ?? 0}`],
          ["tests", `Tests ${b.tests?.length ?? 0}`],
          ["works", `Amendments ${plan.works.items.length}`],
        ]}
      />
      {tab === "pits" && <Pits {...props} />}
      {tab === "tests" && <SoilTests {...props} />}
      {tab === "works" && <Amendments {...props} />}
    </div>
  );
}
