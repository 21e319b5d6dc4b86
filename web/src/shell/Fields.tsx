import { Select, Tab, TabGroup, TabList } from "@headlessui/react";
import { useState, type ReactNode } from "react";
import { useReading } from "./reading";
import { fromSI, toSI } from "../units";

/** A number in the reader's units, kept when it is left or Enter is pressed. Empty keeps undefined. */
export function NumberField({
  label,
  value,
  quantity,
  keep,
  unit,
  width = "w-20",
  hidden,
}: {
  label: string;
  value?: number;
  quantity: string;
  keep: (v: number | undefined) => void;
  unit?: string;
  width?: string;
  hidden?: boolean; // the label is said, not shown
}) {
  const { system, unit: unitOf } = useReading();
  const [typed, setTyped] = useState<string>();
  const shown = value === undefined ? "" : String(fromSI(value, quantity, system));
  const u = unit ?? unitOf(quantity);
  return (
    <label className="flex flex-col text-sm">
      <span className={hidden ? "sr-only" : ""}>
        {label} {u && <span className="unit">{u}</span>}
      </span>
      <input
        className={`field text-right ${width}`}
        inputMode="decimal"
        value={typed ?? shown}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => {
          if (typed !== undefined && typed.trim() !== shown) {
            const v = Number(typed.replace(",", ".").replace("−", "-"));
            keep(typed.trim() === "" || Number.isNaN(v) ? undefined : toSI(v, quantity, system));
          }
          setTyped(undefined);
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter") e.currentTarget.blur();
          if (e.key === "Escape") setTyped(undefined);
        }}
      />
    </label>
  );
}

/** A line of text, kept when it is left. */
export function TextField({
  label,
  value,
  keep,
  width = "w-40",
  hidden,
}: {
  label: string;
  value: string;
  keep: (v: string) => void;
  width?: string;
  hidden?: boolean;
}) {
  const [typed, setTyped] = useState<string>();
  return (
    <label className="flex flex-col text-sm">
      <span className={hidden ? "sr-only" : ""}>{label}</span>
      <input
        className={`field ${width}`}
        value={typed ?? value}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => {
          if (typed !== undefined && typed.trim() !== value) keep(typed.trim());
          setTyped(undefined);
        }}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      />
    </label>
  );
}

/** One of a few words. */
export function Pick({
  label,
  value,
  options,
  keep,
  hidden,
  width = "",
}: {
  label: string;
  value: string;
  options: readonly (string | { id: string; words: string })[];
  keep: (v: string) => void;
  hidden?: boolean;
  width?: string;
}) {
  return (
    <label className="flex flex-col text-sm">
      <span className={hidden ? "sr-only" : ""}>{label}</span>
      <Select className={`field ${width}`} value={value} onChange={(e) => keep(e.target.value)}>
        {options.map((o) => {
          const id = typeof o === "string" ? o : o.id;
          return (
            <option key={id} value={id}>
              {typeof o === "string" ? o || "–" : o.words}
            </option>
          );
        })}
      </Select>
    </label>
  );
}

/** A day, kept when it is left. */
export function DayField({
  label,
  value,
  keep,
  hidden,
}: {
  label: string;
  value: string;
  keep: (v: string) => void;
  hidden?: boolean;
}) {
  const [typed, setTyped] = useState<string>();
  return (
    <label className="flex flex-col text-sm">
      <span className={hidden ? "sr-only" : ""}>{label}</span>
      <input
        type="date"
        className="field"
        min="1900-01-01"
        max="2200-12-31"
        value={typed ?? value}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => {
          if (typed !== undefined && typed !== value) keep(typed);
          setTyped(undefined);
        }}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      />
    </label>
  );
}

/** Words to press, one of which holds; bare ones stand in a line with other things. */
export function Tabs<K extends string>({
  tabs,
  on,
  turn,
  label,
  bare,
}: {
  tabs: readonly (readonly [K, ReactNode])[];
  on: K;
  turn: (k: K) => void;
  label: string;
  bare?: boolean;
}) {
  const at = tabs.findIndex(([k]) => k === on);
  return (
    <TabGroup manual selectedIndex={at} onChange={(i) => turn(tabs[i]![0])}>
      <TabList
        aria-label={label}
        className={`no-print flex flex-wrap gap-y-1 ${bare ? "gap-x-3" : "mb-3 gap-x-5 border-b border-line"}`}
      >
        {tabs.map(([k, words]) => (
          <Tab
            key={k}
            className={`${bare ? "" : "pb-1"} text-faint hover:text-ink data-selected:border-b-2 data-selected:border-ink data-selected:font-semibold data-selected:text-ink`}
          >
            {words}
          </Tab>
        ))}
      </TabList>
    </TabGroup>
  );
}

/** A button that opens the file chooser and hands over the text. */
export function FileButton({
  label,
  accept,
  most,
  take,
  refuse,
}: {
  label: string;
  accept: string;
  most: number; // MB
  take: (name: string, text: string) => void;
  refuse: (e: Error) => void;
}) {
  return (
    <label className="act inline-block cursor-pointer focus-within:outline-2 focus-within:outline-decide">
      {label}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        onChange={(e) => {
          const f = e.target.files?.[0];
          e.target.value = "";
          if (!f) return;
          if (f.size > most * 1048576) {
            refuse(new Error(`${f.name} holds ${(f.size / 1048576).toFixed(1)} MB; at most ${most} MB are read.`));
            return;
          }
          f.text().then((t) => take(f.name, t), refuse);
        }}
      />
    </label>
  );
}
