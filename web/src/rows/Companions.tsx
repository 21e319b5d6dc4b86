import { useLists, useSheets, type Schema } from "../api/client";
import { NumberField, Pick, TextField } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { stands } from "../block/paths";
import type { StepProps } from "../block/stepProps";
import { roleColours } from "../draw/rowsDraw";

type Companion = Schema["Companion"];

const roles = ["companion", "nurse", "shade", "temporary", "pollinizer", "windbreak"];
const places = [
  { id: "strip", words: "in a strip" },
  { id: "over", words: "on a lattice over the rows" },
  { id: "belt", words: "in a belt along the boundary" },
  { id: "aisles", words: "in the aisles between blocks" },
];
const over = { pattern: "square" as const, rowSpacingM: 9, plantSpacingM: 9 };
const belt = { towardDeg: 270, rows: 1, rowSpacingM: 2.5, spacingM: 1.65, insetM: 2, setbackM: 6, heightM: 8 };

/** The crops that stand on the ground beside the main one, each with its role, its place and its years. */
export function Companions({ plan, doc, draft }: StepProps) {
  const sheets = useSheets();
  const lists = useLists();
  const usual = lists.data?.mixtures.filter((m) => m.for.includes(plan.sheet)) ?? [];
  const { text } = useReading();
  const list = doc.block.planting?.companions ?? [];
  const put = (make: (now: Companion[]) => Companion[], done?: string) =>
    void draft.commit((b) => ({ planting: { companions: make(b.planting?.companions ?? []) } }), done);
  const change = (id: string, part: Partial<Companion>) => put((now) => now.map((c) => (c.id === id ? { ...c, ...part } : c)));
  const add = (role: string) =>
    put(
      (now) => [
        ...now,
        {
          id: Math.random().toString(36).slice(2, 8),
          role,
          name: role === "windbreak" ? "Windbreak" : role === "shade" ? "Shade trees" : `Companion ${now.length + 1}`,
          ...(role === "shade" ? { over } : role === "windbreak" ? { belt } : {}),
        },
      ],
      "It is added; say what it is and where it stands",
    );
  return (
    <div className="py-2">
      {list.length === 0 && (
        <p className="max-w-prose text-sm text-faint">
          Nothing stands beside {plan.sheetName.toLowerCase()} yet. The ground is prepared for the main crop; what a companion
          cannot stand of it is said beside the plan.
        </p>
      )}
      {list.map((c) => {
        const b = plan.beside.find((x) => x.id === c.id);
        const order = plan.orderBeside.find((x) => x.id === c.id);
        const name = c.name || b?.name || c.role;
        const where = c.over ? "over" : c.belt ? "belt" : c.aislesM ? "aisles" : "strip";
        return (
          <section key={c.id} aria-label={name} className="mb-3 border-b border-line pb-3">
            <div className="flex flex-wrap items-end gap-3">
              <span
                aria-hidden
                className="mb-2 inline-block h-3.5 w-3.5 rounded-full border"
                style={{ background: roleColours[c.role]?.[0], borderColor: roleColours[c.role]?.[1] }}
              />
              <Pick label="Role" value={c.role} options={roles} keep={(role) => change(c.id, { role })} />
              <Pick
                label="Sheet"
                value={c.sheet ?? ""}
                options={[
                  { id: "", words: "none, only a name" },
                  ...(sheets.data ?? []).map((s) => ({ id: s.id, words: s.name })),
                ]}
                keep={(sheet) =>
                  change(c.id, { sheet, name: sheet && /^(Companion|Shade trees|Windbreak)/.test(c.name) ? "" : c.name || name })
                }
              />
              <TextField label="Called" value={c.name} keep={(v) => change(c.id, { name: v })} />
              <Pick
                label="Where"
                value={where}
                options={places}
                keep={(w) =>
                  put((now) =>
                    now.map((x) => {
                      if (x.id !== c.id) return x;
                      const rest = { ...x };
                      delete rest.over;
                      delete rest.belt;
                      delete rest.aislesM;
                      return {
                        ...rest,
                        ...(w === "over" ? { over } : w === "belt" ? { belt } : w === "aisles" ? { aislesM: 3 } : {}),
                      };
                    }),
                  )
                }
              />
              <button
                className="act"
                onClick={() => put((now) => now.filter((x) => x.id !== c.id), `${name} is taken off; undo brings it back`)}
              >
                Take it off
              </button>
            </div>
            <div className="mt-2 flex flex-wrap items-end gap-3">
              {c.aislesM && (
                <NumberField
                  label="Between plants in the aisles"
                  quantity="spacing"
                  value={c.aislesM}
                  keep={(v) => v !== undefined && change(c.id, { aislesM: v })}
                />
              )}
              {c.over && (
                <>
                  <Pick
                    label="Pattern"
                    value={c.over.pattern}
                    options={["square", "rectangle", "triangle"]}
                    keep={(p) => change(c.id, { over: { ...c.over!, pattern: p as "square" } })}
                  />
                  {c.over.pattern === "rectangle" && (
                    <NumberField
                      label="Between rows"
                      quantity="spacing"
                      value={c.over.rowSpacingM}
                      keep={(v) => v !== undefined && change(c.id, { over: { ...c.over!, rowSpacingM: v } })}
                    />
                  )}
                  <NumberField
                    label={c.over.pattern === "rectangle" ? "In the row" : "Between plants"}
                    quantity="spacing"
                    value={c.over.plantSpacingM}
                    keep={(v) => v !== undefined && change(c.id, { over: { ...c.over!, plantSpacingM: v } })}
                  />
                  <NumberField
                    label="Shift along"
                    quantity="spacing"
                    value={c.over.shiftAlongM ?? 0}
                    keep={(v) => change(c.id, { over: { ...c.over!, shiftAlongM: v ?? 0 } })}
                  />
                  <NumberField
                    label="Shift across"
                    quantity="spacing"
                    value={c.over.shiftAcrossM ?? 0}
                    keep={(v) => change(c.id, { over: { ...c.over!, shiftAcrossM: v ?? 0 } })}
                  />
                  <label className="flex items-center gap-1 pb-1 text-sm">
                    <input
                      type="checkbox"
                      checked={c.over.takes ?? false}
                      onChange={(e) => change(c.id, { over: { ...c.over!, takes: e.target.checked } })}
                    />
                    it takes the stations it stands on
                  </label>
                </>
              )}
              {c.belt &&
                (
                  [
                    ["towardDeg", "Wind comes from", "angle"],
                    ["rows", "Rows", "count"],
                    ["rowSpacingM", "Between rows", "spacing"],
                    ["spacingM", "In the row", "spacing"],
                    ["insetM", "From the boundary", "spacing"],
                    ["setbackM", "To the first crop row", "spacing"],
                    ["heightM", "Grows to", "spacing"],
                  ] as const
                ).map(([k, label, q]) => (
                  <NumberField
                    key={k}
                    label={label}
                    quantity={q}
                    value={c.belt![k]}
                    keep={(v) => v !== undefined && change(c.id, { belt: { ...c.belt!, [k]: v } })}
                  />
                ))}
              <NumberField
                label="Plants a station"
                quantity="count"
                value={c.each ?? 1}
                keep={(v) => change(c.id, { each: v ?? 0 })}
              />
              <NumberField
                label="Share that establishes"
                quantity="fraction"
                value={order?.survival || undefined}
                keep={(v) => change(c.id, { survival: v ?? 0 })}
              />
              <NumberField
                label="From year"
                quantity="count"
                value={c.fromYear || undefined}
                keep={(v) => change(c.id, { fromYear: v ?? 0 })}
              />
              <NumberField
                label="To year"
                quantity="count"
                value={c.toYear || undefined}
                keep={(v) => change(c.id, { toYear: v ?? 0 })}
              />
            </div>
            {b && b.stations > 0 && (
              <p className="mt-1 text-sm">
                <b>{text(b.stations, "count")}</b> stations {b.where}
                {b.perHa > 0 && <span className="text-faint">, {text(b.perHa, "perArea")} by spacing alone</span>}; order{" "}
                <b>{text(order?.plants ?? 0, "count")}</b> {order?.kind}
              </p>
            )}
          </section>
        );
      })}
      {usual.length > 0 && !stands(plan) && (
        <details className="mb-3" open={list.length === 0}>
          <summary className="cursor-pointer font-semibold">Usual mixtures with {plan.sheetName.toLowerCase()}</summary>
          <ul>
            {usual.map((m) => (
              <li key={m.id} className="border-b border-line py-1">
                <b>{m.name}</b>{" "}
                <button
                  className="act px-2"
                  onClick={() =>
                    void draft.commit(
                      { planting: { companions: m.companions, strips: m.strips ?? [], layout: { plots: m.plots ?? null } } },
                      `${m.name}: it stands in place of what was beside the rows; undo brings that back`,
                    )
                  }
                >
                  Take it over
                </button>
                <span className="block text-sm text-faint">
                  {m.says} {lists.data?.origins.find((o) => o.id === m.origin)?.words}.
                </span>
              </li>
            ))}
          </ul>
        </details>
      )}
      <div className="flex flex-wrap gap-2">
        <button className="act" onClick={() => add("companion")}>
          Add a companion
        </button>
        <button className="act" onClick={() => add("shade")}>
          Add shade over the rows
        </button>
        <button className="act" onClick={() => add("windbreak")}>
          Add a windbreak
        </button>
      </div>
    </div>
  );
}
