import type { ComponentType } from "react";
import type { StepProps } from "./stepProps";
import { DrainsStep } from "../drains/DrainsStep";
import { CareStep } from "./CareStep";
import { GroundStep } from "./GroundStep";
import { FitStep } from "../fit/FitStep";
import { PrepareStep } from "./PrepareStep";
import { SoilStep } from "./SoilStep";
import { PlantsStep } from "./PlantsStep";
import { RecordStep } from "./RecordStep";
import { RowsStep } from "./RowsStep";
import { YieldStep } from "./YieldStep";

export type StepKey = "ground" | "soil" | "drains" | "fit" | "prepare" | "rows" | "plants" | "care" | "yield" | "record";

/** The steps in the order the work is done. */
export const stepPages: Record<StepKey, { name: string; page: ComponentType<StepProps> }> = {
  ground: { name: "Ground", page: GroundStep },
  soil: { name: "Soil", page: SoilStep },
  drains: { name: "Drains", page: DrainsStep },
  fit: { name: "Fit", page: FitStep },
  prepare: { name: "Prepare", page: PrepareStep },
  rows: { name: "Rows", page: RowsStep },
  plants: { name: "Plants", page: PlantsStep },
  care: { name: "Care", page: CareStep },
  yield: { name: "Yield", page: YieldStep },
  record: { name: "Record", page: RecordStep },
};
