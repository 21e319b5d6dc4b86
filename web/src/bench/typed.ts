import type { Schema } from "../api/client";
import { fromSI, showOf, toSI, type System } from "../units";

type Field = Schema["CalculatorField"];

/** What stands in one field: text, or the rows of a table as text by column. */
export type Typed = string | Record<string, string>[];

const sampleRings = "[[[172.0, -38.0], [172.003, -38.0], [172.003, -37.998], [172.0, -37.998]]]";

/** A field's quantity where the reader has units of their own; a calculator's own units are metric ones. */
const own = (f: Field, system: System) => (system === "us" && f.quantity ? f.quantity : undefined);

/** unitOf is the unit a field is typed or read in. */
export const unitOf = (f: Field, system: System) => {
  const q = own(f, system);
  return q ? showOf(q, system).unit : f.unit;
};

/** seen is a value in the reader's units, to six digits. */
export function seen(v: number, f: Field, system: System) {
  const q = own(f, system);
  if (!q) return v;
  const { factor } = showOf(q, system);
  return Number((v * factor + (fromSI(0, q, system) || 0)).toPrecision(6));
}

const back = (v: number, f: Field, system: System) => {
  const q = own(f, system);
  return q ? Number(toSI(v, q, system).toPrecision(12)) : v;
};

/** opening is what a field opens with. */
export function opening(f: Field, system: System): Typed {
  const d = f.default;
  if (f.kind === "rings") return sampleRings;
  if (d === undefined || d === null) return f.kind === "table" ? [] : (f.options?.[0] ?? "");
  if (f.kind === "numbers") return (d as number[]).map((x) => seen(x, f, system)).join(", ");
  if (f.kind === "table")
    return (d as Record<string, unknown>[]).map((row) =>
      Object.fromEntries((f.columns ?? []).map((c) => [c.name, row[c.name] === undefined ? "" : cell(row[c.name], c, system)])),
    );
  return cell(d, f, system);
}

const cell = (v: unknown, f: Field, system: System) => String(typeof v === "number" ? seen(v, f, system) : v);

const one = (t: string, f: Field, system: System): unknown => {
  if (f.kind !== "number" && f.kind !== "integer") return t;
  const v = Number(t.replace(",", ".").replace("−", "-"));
  return Number.isNaN(v) ? t : back(v, f, system);
};

/** asInput is what a field sends; undefined leaves it out. Words that are no number are sent as they are, to be refused by name. */
export function asInput(t: Typed, f: Field, system: System): unknown {
  if (typeof t !== "string")
    return t.map((row) =>
      Object.fromEntries(
        (f.columns ?? [])
          .filter((c) => (row[c.name] ?? "").trim() !== "")
          .map((c) => [c.name, one((row[c.name] ?? "").trim(), c, system)]),
      ),
    );
  const s = t.trim();
  if (s === "") return undefined;
  if (f.kind === "rings") return JSON.parse(s) as unknown;
  if (f.kind === "numbers")
    return s.split(/[\s,;]+/).map((x) => (x === "" || Number.isNaN(Number(x)) ? x : back(Number(x), f, system)));
  return one(s, f, system);
}

const key = (name: string, system: System) => `bench ${name} ${system}`;

/** remembered is what was last typed into a calculator on this machine, field by field. */
export function remembered(name: string, system: System): Record<string, Typed> {
  try {
    return JSON.parse(localStorage.getItem(key(name, system)) ?? "{}") as Record<string, Typed>;
  } catch {
    return {};
  }
}

export function remember(name: string, system: System, typed: Record<string, Typed>) {
  try {
    localStorage.setItem(key(name, system), JSON.stringify(typed));
  } catch {
    // Without room to remember, nothing is lost but the convenience.
  }
}

export function forget(name: string, system: System) {
  localStorage.removeItem(key(name, system));
}
