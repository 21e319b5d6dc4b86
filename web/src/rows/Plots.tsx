import { NumberField, TextField } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { Table } from "../shell/Table";
import type { StepProps } from "../block/stepProps";

/** Rows cut into blocks with aisles between them both ways, and the clones that are kept apart in them. */
export function Plots({ plan, doc, draft }: StepProps) {
  const { number } = useReading();
  const own = doc.block.planting?.layout;
  const plots = own?.plots;
  if (plan.spec.strips || !["rectangle", "square"].includes(plan.spec.pattern)) return null;
  const lay = (layout: Record<string, unknown>, done?: string) => void draft.commit({ planting: { layout } }, done);
  const side = (label: string, field: "alongM" | "acrossM" | "aisleM") =>
    plots && (
      <NumberField
        label={label}
        quantity="spacing"
        value={plots[field]}
        keep={(v) => v !== undefined && lay({ plots: { ...plots, [field]: v } })}
      />
    );
  return (
    <section aria-label="Blocks and aisles" className="border-t border-line py-2">
      <label className="flex items-center gap-1 text-sm">
        <input
          type="checkbox"
          checked={!!plots}
          onChange={(e) =>
            lay(
              e.target.checked ? { plots: { alongM: 10, acrossM: 10, aisleM: 2 } } : { plots: null, clones: null },
              e.target.checked
                ? "Rows are cut into blocks; say how large"
                : "One piece of ground again; undo brings the blocks back",
            )
          }
        />
        in blocks with aisles between them, as a mother garden keeps its clones apart
      </label>
      {plots && (
        <>
          <div className="mt-1 flex flex-wrap items-end gap-3">
            {side("A block along its rows", "alongM")}
            {side("And across them", "acrossM")}
            {side("Aisle", "aisleM")}
            <TextField
              label="Clones, by name, with commas between"
              width="w-64"
              value={(own?.clones ?? []).join(", ")}
              keep={(v) => {
                const clones = v
                  .split(",")
                  .map((x) => x.trim())
                  .filter(Boolean);
                lay({ clones: clones.length ? clones : null });
              }}
            />
          </div>
          {plan.clones.length > 0 && (
            <Table
              label="What each clone takes"
              className="mt-2"
              rows={plan.clones}
              id={(c) => c.name}
              columns={[
                { head: "clone", cell: (c) => c.name },
                { head: "blocks", num: true, cell: (c) => number(c.plots, "count") },
                { head: "stations", num: true, cell: (c) => number(c.stations, "count") },
              ]}
            />
          )}
        </>
      )}
    </section>
  );
}
