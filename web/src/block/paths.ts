import { seenFrom, type Plan } from "../api/client";

/** toBlock is the address of a page of a block, seen from the planting it is seen from now. */
export const toBlock = (id: string, rest = "") => {
  const planting = seenFrom();
  return `/blocks/${id}${rest && `/${rest}`}${planting && `?planting=${planting}`}`;
};

/** isPlanned tells whether more than a thought of a crop is there: rows, plants, care and crop can be shown. */
export const isPlanned = (plan: Plan) => plan.stage !== "empty" && plan.stage !== "considered";

/** stands tells whether plants stand, or stood, in the ground. */
export const stands = (plan: Plan) => plan.stage === "planted" || plan.stage === "ended";

/** planning is a planting as it begins: planned, in its own season where no day is said. */
export const planning = (sheet: string, date = "") => ({ sheet, date, layout: {}, adoptedOn: "", baseDate: "", planted: "" });

/** considering is a crop that is only thought of: the ground is judged and prepared for it. */
export const considering = (sheet: string, date = "") => ({ ...planning(sheet, date), considered: true });
