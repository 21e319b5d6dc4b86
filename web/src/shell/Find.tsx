import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useJobs, useOverview, useSheets } from "../api/client";
import { day } from "../units";
import { Panel } from "./Sheet";

interface Found {
  to: string;
  name: string;
  kind: string;
}

export function Find({ close }: { close: () => void }) {
  const go = useNavigate();
  const [query, setQuery] = useState("");
  const overview = useOverview();
  const sheets = useSheets();
  const today = overview.data?.today ?? "";
  const jobs = useJobs(today, today && `${Number(today.slice(0, 4)) + 1}${today.slice(4).replace("-02-29", "-02-28")}`);
  const all: Found[] = [
    ...(overview.data?.blocks ?? []).map((b) => ({ to: `/blocks/${b.id}`, name: `${b.number} ${b.name}`, kind: b.headline })),
    ...(sheets.data ?? []).map((s) => ({ to: `/sheets/${s.id}`, name: s.name, kind: "practice sheet" })),
    ...(jobs.data ?? []).map((j) => ({
      to: `/blocks/${j.block}/care`,
      name: j.job.name,
      kind: `${j.blockName}, ${day(j.job.from)}`,
    })),
  ];
  const words = query
    .replace(/^\//, "")
    .toLowerCase() // the key that opens this may be typed into it
    .split(/\s+/)
    .filter(Boolean);
  const hits = all.filter((f) => words.every((w) => (f.name + " " + f.kind).toLowerCase().includes(w))).slice(0, 30);
  return (
    <Panel title="Find" close={close}>
      <Combobox<Found | null>
        value={null}
        onChange={(f) => {
          if (f) {
            close();
            void go(f.to);
          }
        }}
      >
        <ComboboxInput
          autoFocus
          aria-label="Find a block, a sheet or a job"
          className="field w-full"
          placeholder="a block, a sheet or a job"
          onChange={(e) => setQuery(e.target.value)}
        />
        <ComboboxOptions static className="mt-2 max-h-80 overflow-auto">
          {hits.map((f, i) => (
            <ComboboxOption
              key={f.to + f.name + i}
              value={f}
              className="flex cursor-pointer justify-between gap-4 px-2 py-1 data-focus:bg-soil"
            >
              <span className="font-semibold">{f.name}</span>
              <span className="text-right text-faint">{f.kind}</span>
            </ComboboxOption>
          ))}
        </ComboboxOptions>
      </Combobox>
      {hits.length === 0 && <p className="mt-2 text-faint">Nothing here is called that.</p>}
    </Panel>
  );
}
