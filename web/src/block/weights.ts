export const weightWords: Record<string, string> = {
  stops: "Stops the plan",
  mend: "Must be mended",
  watch: "Watch",
  inform: "Good to know",
};
export const weightTone: Record<string, string> = {
  stops: "text-decide",
  mend: "text-decide",
  watch: "text-straw",
  inform: "text-growth",
};

/** The colour a crop is drawn in, always with its name or number beside it. */
export const cropTone: Record<string, string> = {
  tea: "#436330",
  hazelnut: "#7a5a0c",
  persimmon: "#934c28",
  willow: "#2f6187",
};
