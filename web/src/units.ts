import table from "./units.gen.json";

/** The one formatter of the front end. Its table is written by the Go package core/units, and its rules are the same. */
export type System = "metric" | "us";

interface Show {
  unit: string;
  factor: number;
  decimals: number;
}
interface Entry {
  si: string;
  metric: Show;
  us: Show;
  usZero?: number;
}
const entries = table as Record<string, Entry>;
const thin = "\u202f"; // thousands
const gap = "\u00a0"; // before a unit

export function showOf(quantity: string, system: System): Show {
  return entries[quantity]?.[system] ?? { unit: "", factor: 1, decimals: 2 };
}

/** number writes an SI value in the reader's units, without the unit. */
export function number(value: number, quantity: string, system: System): string {
  const show = showOf(quantity, system);
  const x = value * show.factor + (system === "us" ? (entries[quantity]?.usZero ?? 0) : 0);
  if (!Number.isFinite(x)) return "–";
  const text = Math.abs(x).toFixed(show.decimals);
  const [whole = "", frac] = text.split(".");
  const grouped = quantity === "year" ? whole : whole.replace(/\B(?=(\d{3})+$)/g, thin);
  const sign = x < 0 && /[1-9]/.test(text) ? "−" : "";
  return sign + grouped + (frac ? "." + frac : "");
}

/** text is number with its unit. */
export function text(value: number, quantity: string, system: System): string {
  const unit = showOf(quantity, system).unit;
  const n = number(value, quantity, system);
  if (!unit) return n;
  return unit === "°" || unit.startsWith("/") ? n + unit : n + gap + unit;
}

const zero = (quantity: string, system: System) => (system === "us" ? (entries[quantity]?.usZero ?? 0) : 0);

/** toSI and fromSI convert what is typed in the reader's units. */
export function toSI(shown: number, quantity: string, system: System): number {
  return (shown - zero(quantity, system)) / showOf(quantity, system).factor;
}
export function fromSI(value: number, quantity: string, system: System): number {
  const show = showOf(quantity, system);
  return Number((value * show.factor + zero(quantity, system)).toFixed(show.decimals));
}

const months = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];

/** day writes YYYY-MM-DD as "5 Jul 2027". */
export function day(date: string, long = false): string {
  const [y, m, d] = date.split("-").map(Number);
  const name = months[(m ?? 1) - 1] ?? "";
  return date ? `${d} ${long ? name : name.slice(0, 3)} ${y}` : "–";
}

/** dayNumber is days since 1970-01-01, for placing a date on a line. */
export function dayNumber(date: string): number {
  return Date.parse(date + "T00:00:00Z") / 86400000;
}
export function fromDayNumber(n: number): string {
  return new Date(Math.round(n) * 86400000).toISOString().slice(0, 10);
}
