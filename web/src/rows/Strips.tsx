import type { Plan, Schema } from "../api/client";
import { NumberField, Pick, TextField } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { useWidth } from "../shell/useWidth";
import { Wide } from "../shell/Wide";
import type { StepProps } from "../block/stepProps";
import { palette } from "../draw/palette";
import { roleColours } from "../draw/rowsDraw";

type Strip = Schema["Strip"];
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

const nameOf = (plan: Plan, c: Schema["Companion"]) =>
  c.name || plan.beside.find((b) => b.id === c.id)?.name || c.sheet || c.role;

/** The strips as one stands before them: twice, to scale across, plants at their places. */
function Profile({ plan, strips }: { plan: Plan; strips: Strip[] }) {
  const [box, width] = useWidth(200);
  const { text } = useReading();
  const total = strips.reduce((n, s) => n + s.widthM, 0);
  const k = (width - 8) / (total * 1.5);
  const h = 150;
  const ground = h - 34;
  const roles = new Map(plan.beside.map((b) => [b.id, b]));
  const year = plan.years[Math.min(9, plan.years.length - 1)];
  const main = Math.max(0.4, year?.spreadM ?? 1);
  const tall = Math.max(0.4, year?.heightM ?? main);
  const up = Math.min(k, (ground - 10) / Math.max(tall, 1.5));
  const parts = [-1, 0, 1].flatMap((n) => {
    let left = n * total;
    return strips.map((s) => {
      const at = left;
      left += s.widthM;
      return { ...s, at, again: n !== 0 };
    });
  });
  return (
    <div ref={box} className="mb-2 min-w-0 overflow-hidden">
      <svg
        width={width}
        height={h}
        role="img"
        aria-label={`Strips across the rows: ${strips.map((s) => `${s.name || s.kind} ${text(s.widthM, "spacing")}`).join(", ")}`}
      >
        {parts.map((s, i) => {
          const x = 4 + (s.at + total / 4) * k;
          const w = s.widthM * k;
          const raised = s.kind === "bed" ? 7 : 0;
          const fill = s.kind === "path" ? palette.soil : s.kind === "cover" ? "#dfe3c0" : palette.sand;
          return (
            <g key={i} opacity={s.again ? 0.55 : 1}>
              <path
                d={`M${x} ${ground} L${x + Math.min(4, w / 6)} ${ground - raised} H${x + w - Math.min(4, w / 6)} L${x + w} ${ground} V${ground + 8} H${x} Z`}
                fill={fill}
                stroke={palette.soil}
              />
              {s.kind === "cover" &&
                Array.from({ length: Math.max(1, Math.floor(w / 7)) }, (_, j) => (
                  <path key={j} d={`M${x + 4 + j * 7} ${ground} l-1.5 -5 M${x + 4 + j * 7} ${ground} l1.5 -5`} stroke="#7d8a4e" />
                ))}
              {(s.rows ?? []).map((r, j) => {
                const across = r.acrossM ?? (s.widthM * (j + 0.5)) / s.rows!.length;
                const cx = x + across * k;
                const isMain = r.of.includes("main");
                const b = isMain ? undefined : roles.get(r.of[0]!);
                const d = (isMain ? main : b?.spreadM.length ? Math.max(...b.spreadM) : 0.45) * k;
                const top = isMain ? tall * up : Math.min(ground - 12, Math.max(10, d * 0.9));
                const [cf, cl] = isMain ? [palette.leaf, palette.growth] : (roleColours[b?.role ?? "companion"] ?? []);
                return (
                  <g key={j}>
                    <path
                      d={`M${cx} ${ground - raised} V${ground - raised - top * 0.5}`}
                      stroke={cl}
                      strokeWidth={isMain ? 2 : 1.2}
                    />
                    <ellipse
                      cx={cx}
                      cy={ground - raised - top * 0.62}
                      rx={Math.max(2.5, d / 2)}
                      ry={Math.max(3, top * 0.38)}
                      fill={cf}
                      stroke={cl}
                      fillOpacity={0.9}
                    />
                  </g>
                );
              })}
              {!s.again && (
                <>
                  <path
                    d={`M${x} ${ground + 12} v4 M${x} ${ground + 14} H${x + w} M${x + w} ${ground + 12} v4`}
                    stroke={palette.ink}
                  />
                  {w > 34 && (
                    <text x={x + w / 2} y={ground + 28} textAnchor="middle" fontSize="12" fill={palette.ink}>
                      {text(s.widthM, "spacing")}
                    </text>
                  )}
                </>
              )}
            </g>
          );
        })}
      </svg>
    </div>
  );
}
