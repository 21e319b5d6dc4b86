import { Failed, read } from "../api/client";
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
