/** Tones and hatches of the pit wall: soil as it is described, the hatch by how coarse it is. */
const tones: [RegExp, string][] = [
  [/very dark/, "#8f7657"],
  [/dark/, "#a98e68"],
  [/reddish yellow|strong brown/, "#d3a877"],
  [/red/, "#c48f6b"],
  [/blu|grey|gray/, "#b3ac9a"],
  [/pale|yellow/, "#dcc394"],
  [/brown/, "#c6a679"],
];

export function soilTone(colour: string, top: number, rock: boolean): string {
  if (rock) return "#b5a28b";
  for (const [re, c] of tones) if (re.test(colour)) return c;
  return top === 0 ? "#b59a72" : top < 40 ? "#cbb084" : "#d5bf97";
}

export type Hatch = "dots" | "dashes" | "strokes" | "stones";

export function hatchOf(texture: string, hardness: string): Hatch {
  if (hardness === "rock" || hardness === "cemented") return "stones";
  if (/^(sand|loamy sand|sandy loam)$/.test(texture)) return "dots";
  if (/clay/.test(texture) && !/loam/.test(texture)) return "strokes";
  return "dashes";
}
