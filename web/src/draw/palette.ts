/** The colours of a drawn plan, as the theme has them: a canvas reads no style sheet. */
export const palette = {
  ink: "#2a251f",
  soil: "#efe7d7",
  leaf: "#c9d3b0",
  growth: "#436330",
  sand: "#ddc48f",
  straw: "#7a5a0c",
  faint: "#8a7f6e",
  contour: "#a9835a",
  water: "#2f6187",
  decide: "#9c2218",
};
