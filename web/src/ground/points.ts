import { Failed, read, type Schema } from "../api/client";

/** A ring of a boundary, degrees; its first point is not repeated. */
export type Points = { lon: number; lat: number }[];

/** boundariesIn is what a file of boundaries holds; one that is too large is refused before it is sent. */
export async function boundariesIn(file: File) {
  if (file.size > 8 * 1024 * 1024)
    throw new Failed({
      type: "too-large",
      title: "The file cannot be used",
      status: 413,
      detail: `${file.name} holds ${(file.size / 1048576).toFixed(1)} MB; at most 8 MB are read. Simplify the lines or split it.`,
    });
  return read.boundaries(file);
}

/** newBlock is the block a boundary in a file becomes, with pits, tests, drains and whatever else the file says of it. */
export const newBlock = (c: Schema["Candidate"]) =>
  ({
    ...c.found,
    name: c.name,
    number: c.number,
    boundary: c.boundary,
    surveyed: c.surveyed,
    accuracyM: c.accuracyM,
    notes: c.notes,
    plantings: c.plantings,
    records: c.records,
  }) as Schema["NewBlock"];
