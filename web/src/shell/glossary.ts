/** Unusual words of this program and of the trade, and codes, each in one sentence. */
export const glossary = {
  fork: "A place where practice divides: two or more ways that are all sound, with what each would mean here.",
  settled: "Everything this step needs is there and no fork of it is open.",
  open: "A fork of this step is not decided, or something it needs is missing.",
  untouched: "Nothing has been put in at this step.",
  considered: "The ground is judged for this crop and prepared for it; nothing is planned or ordered.",
  planting: "One crop on this ground, from the day it is thought of to its end. A block has several, one after another.",
  adopted: "A person took this plan; its dates are kept, and later ones are compared with them.",
  station: "A place in a row where a plant stands, or two where the crop is planted so.",
  margin: "What the plan has to say beside your work: what stops it, what to mend, what to watch.",
  "plumb line": "The upright line on the ground line: the season that everything else on the page shows.",
  "ground line": "The years of a block from left to right: what grows above it, what is done below.",
  "keep, note why": "Leaves what is there and writes your reason beside it; the remark goes.",
  borne: "The range in which the crop still lives and bears, with less; outside it the ground is not for it.",
  ideal: "The range in which this takes nothing from the crop.",
  S1: "Suits: nothing holds the crop back.",
  S2: "Suits with a moderate limit.",
  S3: "Marginal: the limit takes much of the crop.",
  N1: "Not now: works could mend it.",
  N2: "Not here: nothing mends it for good.",
  letters:
    "The letters after a class name what limits: c climate, m moisture, w wetness, d depth, f fertility and acidity, s salt, t slope.",
} as const;

export type Known = keyof typeof glossary;
