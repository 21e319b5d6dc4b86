import type { Plan, Schema } from "../api/client";
import { DayField, NumberField, TextField } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { Table, type Column } from "../shell/Table";

type Hole = Schema["Hole"];

/** Auger holes with their readings, and the permeability that follows from each. */
export function AugerHoles({
  plan,
  holes,
  change,
}: {
  plan: Plan;
  holes: Hole[];
  change: (make: (now: Hole[]) => Hole[], done?: string) => void;
}) {
  const { text } = useReading();
  const put = (i: number, part: Partial<Hole>) => change((now) => now.map((x, j) => (j === i ? { ...x, ...part } : x)));
  const measured = (head: string, label: string, f: keyof Hole, quantity = "depth"): Column<Hole> => ({
    head,
    num: true,
    cell: (h, i) => (
      <NumberField
        hidden
        label={`${h.name}, ${label}`}
        quantity={quantity}
        width="w-16"
        value={h[f] as number}
        keep={(x) => x && put(i, { [f]: x })}
      />
    ),
  });
  return (
    <Table
      label="Auger holes"
      className="mt-1"
      rows={holes}
      columns={[
        {
          head: "hole",
          cell: (h, i) => (
            <TextField
              hidden
              label={`Name of hole ${i + 1}`}
              value={h.name}
              width="w-28"
              keep={(v) => v && put(i, { name: v })}
            />
          ),
        },
        {
          head: "on",
          cell: (h, i) => <DayField hidden label={`${h.name}, on`} value={h.on} keep={(v) => put(i, { on: v })} />,
        },
        measured("radius", "radius", "radiusCm"),
        measured("below rested water", "below rested water", "depthCm"),
        measured("bailed down", "bailed down", "firstCm"),
        measured("rose", "rose", "riseCm"),
        measured("in, s", "seconds", "seconds", "count"),
        {
          head: "ends on the layer",
          cell: (h, i) => (
            <input
              type="checkbox"
              aria-label={`${h.name} ends on the layer that stops water`}
              checked={h.onLayer}
              onChange={(e) => put(i, { onLayer: e.target.checked })}
            />
          ),
        },
        {
          head: "permeability",
          num: true,
          className: "whitespace-nowrap",
          cell: (_, i) => {
            const view = plan.drains.holes[i];
            return view?.dropped ? <span className="text-decide">does not count</span> : view && text(view.kMDay, "seep");
          },
        },
      ]}
      takeOut={{
        what: (h) => h.name,
        done: (h, i) => change((now) => now.filter((_, j) => j !== i), `${h.name} is taken out; undo brings it back`),
      }}
    />
  );
}
