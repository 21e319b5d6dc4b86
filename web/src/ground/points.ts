/** A ring of a boundary, degrees; its first point is not repeated. */
export type Points = { lon: number; lat: number }[];
