import type { BlockDoc, Plan } from "../api/client";
import type { Draft } from "./draft";

/** What every step of a block is given. */
export interface StepProps {
  plan: Plan;
  doc: BlockDoc;
  draft: Draft;
  press: (figure: string) => void;
  season: number;
  setSeason: (s: number) => void;
}
