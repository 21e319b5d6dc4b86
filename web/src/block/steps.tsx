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

/** The page of each step; the order, the names and the groups come with the plan. */
export const stepPages: Record<StepKey, ComponentType<StepProps>> = {
  ground: GroundStep,
  soil: SoilStep,
  drains: DrainsStep,
  fit: FitStep,
  prepare: PrepareStep,
  rows: RowsStep,
  plants: PlantsStep,
  care: CareStep,
  yield: YieldStep,
  record: RecordStep,
};
