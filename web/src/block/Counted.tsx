import { useState } from "react";
import { record, type BlockDoc, type Plan } from "../api/client";
import { say, sayError } from "../shell/Notices";

/** What was counted or measured on the block: a number of something, or a quantity with its unit. */
export function Counted({ doc, plan }: { doc: BlockDoc; plan: Plan }) {
  const [what, setWhat] = useState("");
  const [value, setValue] = useState("");
  const [unit, setUnit] = useState("");
  const [on, setOn] = useState(plan.today);
  return (
    <section>
      <h2>Counted and measured</h2>
      <form
        className="mt-1 flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          const told = { planting: plan.planting, day: on, what: what.trim(), value: Number(value.replace(",", ".")) };
          setValue(""); // at once: the next number may be typed before this one is kept
          void record(doc.id, unit.trim() ? { ...told, kind: "measured", unit: unit.trim() } : { ...told, kind: "counted" }).then(
            () => say("Recorded"),
            (error: unknown) => {
              setValue(value);
              sayError(error);
            },
          );
        }}
      >
        <label className="flex flex-col text-sm">
          What
          <input
            className="field w-44"
            required
            maxLength={120}
            placeholder="living plants"
            value={what}
            onChange={(e) => setWhat(e.target.value)}
          />
        </label>
        <label className="flex flex-col text-sm">
          Number
          <input
            className="field w-28 text-right"
            inputMode="decimal"
            required
            pattern="-?[0-9]+([.,][0-9]+)?"
            value={value}
            onChange={(e) => setValue(e.target.value)}
          />
        </label>
        <label className="flex flex-col text-sm">
          Unit, left empty for a count
          <input className="field w-28" maxLength={40} placeholder="cm" value={unit} onChange={(e) => setUnit(e.target.value)} />
        </label>
        <label className="flex flex-col text-sm">
          On
          <input
            className="field"
            type="date"
            required
            min="1900-01-01"
            max={plan.today}
            value={on}
            onChange={(e) => setOn(e.target.value)}
          />
        </label>
        <button className="act">Record it</button>
      </form>
    </section>
  );
}
