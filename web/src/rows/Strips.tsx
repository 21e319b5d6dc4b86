import type { Schema } from "../api/client";
import { NumberField, Pick, TextField } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { Wide } from "../shell/Wide";
import type { StepProps } from "../block/stepProps";
import { nameOf, Profile } from "./StripProfile";

export type Strip = Schema["Strip"];
type Row = NonNullable<Strip["rows"]>[number];

const kinds = ["tree row", "bed", "path", "companion rows", "cover"];
const fresh = () => Math.random().toString(36).slice(2, 8);

/** The alley: a sequence of strips across the rows that repeats over the field. */
export function Strips({ plan, doc, draft }: StepProps) {
  const { text } = useReading();
  const strips = doc.block.planting?.strips ?? [];
  const companions = doc.block.planting?.companions ?? [];
  const put = (make: (now: Strip[]) => Strip[], done?: string) =>
    void draft.commit((b) => ({ planting: { strips: make(b.planting?.strips ?? []) } }), done);
  const change = (id: string, part: Partial<Strip>) => put((now) => now.map((s) => (s.id === id ? { ...s, ...part } : s)));
  const row = (id: string, k: number, part: Partial<Row> | null) =>
    put((now) =>
      now.map((s) =>
        s.id !== id
          ? s
          : {
              ...s,
              rows: part
                ? (s.rows ?? []).map((r, i) => (i === k ? { ...r, ...part } : r))
                : (s.rows ?? []).filter((_, i) => i !== k),
            },
      ),
    );
  const move = (i: number, by: number) =>
    put((now) => {
      const next = [...now];
      const [s] = next.splice(i, 1);
      next.splice(i + by, 0, s!);
      return next;
    });
  if (strips.length === 0)
    return (
      <div className="py-2">
        <p className="max-w-prose text-sm text-faint">
          Rows of {plan.sheetName.toLowerCase()} alone, {text(plan.spec.rowSpacingM, "spacing")} apart. Strips put something
          between them: beds, paths, rows of another crop, a cover. Their widths add up to the distance from tree row to tree row.
        </p>
        <button
          className="act mt-2"
          onClick={() => {
            const w = Math.max(1, Math.round(plan.spec.rowSpacingM * 10) / 20);
            put(
              () => [
                {
                  id: fresh(),
                  kind: "tree row",
                  name: "",
                  widthM: w,
                  rows: [{ spacingM: plan.spec.plantSpacingM, of: ["main"] }],
                },
                { id: fresh(), kind: "cover", name: "", widthM: w },
              ],
              "Strips begin; widths and rows are yours to change",
            );
          }}
        >
          Begin strips
        </button>
      </div>
    );
  const total = strips.reduce((n, s) => n + s.widthM, 0);
  const crops = [
    { id: "main", words: plan.sheetName || "main crop" },
    ...companions.filter((c) => !c.over && !c.belt).map((c) => ({ id: c.id, words: nameOf(plan, c) })),
  ];
  return (
    <div className="py-2">
      <Profile plan={plan} strips={strips} />
      <Wide label="Strips">
        <table className="tbl">
          <caption className="sr-only">Strips across the rows, in their order</caption>
          <thead>
            <tr>
              <th>strip</th>
              <th>called</th>
              <th className="num">width</th>
              <th className="num">of the ground</th>
              <th>rows in it: crop and spacing in the row</th>
              <th>
                <span className="sr-only">order</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {strips.map((s, i) => (
              <tr key={s.id} className="align-top">
                <td>
                  <Pick label="Kind of strip" hidden value={s.kind} options={kinds} keep={(kind) => change(s.id, { kind })} />
                </td>
                <td>
                  <TextField
                    label="Name of the strip"
                    hidden
                    width="w-28"
                    value={s.name}
                    keep={(name) => change(s.id, { name })}
                  />
                </td>
                <td className="num">
                  <NumberField
                    label={`Width of strip ${i + 1}`}
                    hidden
                    width="w-16"
                    quantity="spacing"
                    value={s.widthM}
                    keep={(v) => v !== undefined && change(s.id, { widthM: v })}
                  />
                </td>
                <td className="num">{text(plan.strips.find((x) => x.id === s.id)?.share ?? s.widthM / total, "fraction")}</td>
                <td>
                  {(s.rows ?? []).map((r, k) => (
                    <div key={k} className="mb-1 flex flex-wrap items-end gap-1">
                      {r.of.map((of, n) => (
                        <Pick
                          key={n}
                          label={`Crop ${n + 1} of row ${k + 1}`}
                          hidden
                          value={of}
                          options={crops}
                          keep={(v) => row(s.id, k, { of: r.of.map((o, m) => (m === n ? v : o)) })}
                        />
                      ))}
                      <NumberField
                        label={`Spacing in row ${k + 1} of strip ${i + 1}`}
                        hidden
                        width="w-16"
                        quantity="spacing"
                        value={r.spacingM}
                        keep={(v) => v !== undefined && row(s.id, k, { spacingM: v })}
                      />
                      <button
                        className="act px-1.5"
                        title="Another plant in turn"
                        aria-label={`Another plant in turn in row ${k + 1} of strip ${i + 1}`}
                        onClick={() => row(s.id, k, { of: [...r.of, crops.at(-1)!.id] })}
                      >
                        in turn +
                      </button>
                      {r.of.length > 1 && (
                        <button
                          className="act px-1.5"
                          aria-label={`One plant less in turn in row ${k + 1} of strip ${i + 1}`}
                          onClick={() => row(s.id, k, { of: r.of.slice(0, -1) })}
                        >
                          −
                        </button>
                      )}
                      <button
                        className="act px-1.5"
                        aria-label={`Take away row ${k + 1} of strip ${i + 1}`}
                        onClick={() => row(s.id, k, null)}
                      >
                        ×
                      </button>
                    </div>
                  ))}
                  {s.kind !== "path" && (
                    <button
                      className="text-sm text-input underline"
                      onClick={() =>
                        change(s.id, {
                          rows: [...(s.rows ?? []), { spacingM: s.rows?.at(-1)?.spacingM ?? 1, of: [crops.at(-1)!.id] }],
                        })
                      }
                    >
                      add a row
                    </button>
                  )}
                </td>
                <td className="whitespace-nowrap">
                  <button
                    className="act px-1.5"
                    disabled={i === 0}
                    aria-label={`Strip ${i + 1} further left`}
                    onClick={() => move(i, -1)}
                  >
                    ←
                  </button>{" "}
                  <button
                    className="act px-1.5"
                    disabled={i === strips.length - 1}
                    aria-label={`Strip ${i + 1} further right`}
                    onClick={() => move(i, 1)}
                  >
                    →
                  </button>{" "}
                  <button
                    className="act px-1.5"
                    aria-label={`Take away strip ${i + 1}`}
                    onClick={() => put((now) => now.filter((x) => x.id !== s.id))}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <th colSpan={2}>from tree row to tree row</th>
              <td className="num font-semibold">{text(total, "spacing")}</td>
              <td className="num">{text(1, "fraction")}</td>
              <td colSpan={2} />
            </tr>
          </tfoot>
        </table>
      </Wide>
      <div className="mt-2 flex flex-wrap gap-2">
        {(["bed", "path", "companion rows", "cover"] as const).map((kind) => (
          <button
            key={kind}
            className="act"
            onClick={() =>
              put((now) => [
                ...now,
                {
                  id: fresh(),
                  kind,
                  name: "",
                  widthM: kind === "path" ? 0.5 : 1,
                  ...(kind === "companion rows" && crops.length > 1 ? { rows: [{ spacingM: 1, of: [crops.at(-1)!.id] }] } : {}),
                },
              ])
            }
          >
            Add a {kind === "companion rows" ? "strip of companion rows" : kind}
          </button>
        ))}
        <button className="act" onClick={() => put(() => [], "Rows of the main crop alone; undo brings the strips back")}>
          Take all strips away
        </button>
      </div>
    </div>
  );
}
