/** The letters a name ends with where they are its unit. */
const unit = /(CmolcKg|MgL|MSm|KMDay|MmH|MmDay|GCm3|LS|MS|M2|M3|Deg|Pct|Cm|Mm|Ha|Kg|Kpa|KPa|M|C|H|G|T)$/;

/** words turns plantSpacingM into "plant spacing". */
const words = (name: string) =>
  name
    .replace(unit, "")
    .replace(/([a-z0-9])([A-Z])/g, "$1 $2")
    .toLowerCase();

/** The lists of a block and of an estate, one of each. */
const one: Record<string, string> = {
  pits: "pit",
  layers: "layer",
  tests: "soil test",
  history: "crop before",
  wells: "well",
  holes: "auger hole",
  features: "feature",
  prices: "price",
  materials: "material",
  people: "person",
  climate: "month",
  seasons: "season",
  boundary: "boundary",
  outer: "corner",
  rows: "row",
  years: "year",
  companions: "companion",
  strips: "strip",
  obstacles: "obstacle",
  fittings: "fitting",
  jobs: "job",
  crews: "crew",
  headlands: "headland",
};

/**
 * fieldWords turns the place of a value in a document into words: pits[0].layers[1].bottomCm is "Bottom, layer 2, pit 1",
 * planting.layout.plantSpacingM is "Plant spacing".
 */
export function fieldWords(field: string): string {
  const parts = field.split(".").filter(Boolean);
  const said: string[] = [];
  parts.reverse().forEach((p, i) => {
    const at = /^(\w+)\[(\d+)\]$/.exec(p) ?? (/^\d+$/.test(p) ? undefined : null);
    if (at) said.push(`${one[at[1]!] ?? words(at[1]!)} ${Number(at[2]) + 1}`);
    else if (i === 0) said.push(p === "rings" ? "boundary" : words(p));
  });
  const all = said.join(", ") || "A value";
  return all.charAt(0).toUpperCase() + all.slice(1);
}

/** sayField is one sentence of what is wrong with a value. */
export const sayField = (p: { field?: string; value?: string; rule?: string; accepted?: string }) =>
  `${fieldWords(p.field ?? "")}${p.value ? ` (${p.value})` : ""}: ${p.rule ?? ""}. Accepted: ${p.accepted ?? ""}.`;

/** A label inside a line: its first letter small, and what is written large in it, pH or N, left so. */
export const inLine = (label: string) => label.charAt(0).toLowerCase() + label.slice(1);
