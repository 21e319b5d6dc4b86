import { useState } from "react";
import { Figures } from "../block/Figures";
import type { StepProps } from "../block/stepProps";
import { Tabs } from "../shell/Fields";
import { Beds } from "./Beds";
import { Bill } from "./Bill";
import { DrainPlan } from "./DrainPlan";
import { TableSection } from "./TableSection";
import { Water } from "./Water";

/** Air for the roots: what was seen of the water, and the drains or beds that follow from it. */
export function DrainsStep(props: StepProps) {
  const { plan, press } = props;
  const d = plan.drains;
  // what is there decides where one begins; afterwards only the reader turns
  const [tab, turn] = useState<"water" | "section" | "plan" | "beds" | "bill">(
    d.taken === "beds" ? "beds" : d.network || d.cut ? "plan" : "water",
  );
  return (
    <div className="py-2">
      <Figures plan={plan} step="drains" press={press} across />
      <p className="mb-2 text-sm text-faint">
        {d.taken
          ? d.remedies.find((r) => r.id === d.taken)?.name
          : d.needed
            ? "No way is taken yet"
            : "Nothing is asked for here so far"}
        {d.network && !d.bed && `; how deep is decided by ${d.binding}`}.
      </p>
      <Tabs
        label="Of the water and the drains"
        on={tab}
        turn={turn}
        tabs={[
          ["water", "What was seen"],
          ["section", "Water table"],
          ["plan", "Plan and levels"],
          ["beds", "Beds"],
          ["bill", "Bill and files"],
        ]}
      />
      {tab === "water" && <Water {...props} />}
      {tab === "section" && <TableSection {...props} />}
      {tab === "plan" && <DrainPlan {...props} />}
      {tab === "beds" && <Beds {...props} />}
      {tab === "bill" && <Bill {...props} />}
    </div>
  );
}
