import { useLists, type Schema } from "../api/client";
import { NumberField, Pick, TextField } from "../shell/Fields";
import { Table, type Column } from "../shell/Table";

type Pit = Schema["Pit"];
type Layer = Schema["Layer"];

export const signs = (v: unknown) => (v as string[] | null) ?? [];

/** The layers of a pit as a table: the same as its wall, without a pointer. */
export function PitLayers({ pit, make }: { pit: Pit; make: (f: (now: Pit) => Pit, done?: string) => void }) {
  const lists = useLists();
  const change = (i: number, part: Partial<Layer>) =>
    make((now) => ({ ...now, layers: now.layers.map((l, j) => (j === i ? { ...l, ...part } : l)) }));
  const split = (i: number) =>
    make((now) => {
      const l = now.layers[i]!;
      const mid = Math.round((l.topCm + l.bottomCm) / 2);
      return {
        ...now,
        layers: now.layers.flatMap((x, j) =>
          j === i
            ? [
                { ...x, bottomCm: mid },
                { ...x, topCm: mid },
              ]
            : [x],
        ),
      };
    }, "The layer is split");
  const join = (i: number) =>
    make((now) => {
      const rest = now.layers.filter((_, j) => j !== i).map((l) => ({ ...l }));
      if (i > 0) rest[i - 1]!.bottomCm = now.layers[i]!.bottomCm;
      else rest[0]!.topCm = 0;
      return { ...now, layers: rest };
    }, "The layer is taken out");
  const bottom = (i: number, cm: number) =>
    make((now) => {
      const layers = now.layers.map((x) => ({ ...x }));
      layers[i]!.bottomCm = cm;
      if (layers[i + 1]) layers[i + 1]!.topCm = cm;
      return { ...now, layers };
    });
  const number = (head: string, label: string, quantity: string, width: string, f: keyof Layer): Column<Layer> => ({
    head,
    cell: (l, i) => (
      <NumberField
        hidden
        label={`Layer ${i + 1}, ${label}`}
        quantity={quantity}
        width={width}
        value={(l[f] as number) || (f === "densityGCm3" ? undefined : 0)}
        keep={(v) => change(i, { [f]: v ?? 0 })}
      />
    ),
  });
  const pick = (head: string, label: string, f: keyof Layer, options: string[] | undefined, blank = false): Column<Layer> => ({
    head,
    cell: (l, i) => (
      <Pick
        hidden
        label={`Layer ${i + 1}, ${label}`}
        value={l[f] as string}
        options={options ? (blank ? ["", ...options] : options) : [l[f] as string]}
        keep={(v) => change(i, { [f]: v })}
      />
    ),
  });
  const columns: Column<Layer>[] = [
    {
      head: "to",
      cell: (l, i) => (
        <NumberField
          hidden
          label={`Layer ${i + 1}, bottom`}
          quantity="depth"
          value={l.bottomCm}
          width="w-16"
          keep={(v) => v !== undefined && bottom(i, v)}
        />
      ),
    },
    pick("texture", "texture", "class", lists.data?.textures),
    {
      head: "sand, silt, clay %",
      cell: (l, i) => (
        <TextField
          hidden
          label={`Layer ${i + 1}, sand, silt and clay`}
          width="w-24"
          value={l.measured ? `${l.measured.sandPct}/${l.measured.siltPct}/${l.measured.clayPct}` : ""}
          keep={(v) => {
            const n = v.split(/[/ ,;]+/).map(Number);
            change(i, { measured: v === "" ? undefined : { sandPct: n[0] ?? NaN, siltPct: n[1] ?? NaN, clayPct: n[2] ?? NaN } });
          }}
        />
      ),
    },
    number("organic", "organic matter", "percent", "w-14", "omPct"),
    number("stones", "stones", "percent", "w-14", "stonesPct"),
    pick("structure", "structure", "structure", lists.data?.structures, true),
    pick("hardness", "hardness", "hardness", lists.data?.hardnesses),
    pick("roots", "roots seen", "roots", lists.data?.roots, true),
    {
      head: "colour",
      cell: (l, i) => (
        <TextField hidden label={`Layer ${i + 1}, colour`} width="w-32" value={l.colour} keep={(v) => change(i, { colour: v })} />
      ),
    },
    number("density", "bulk density", "density", "w-16", "densityGCm3"),
    {
      head: "signs of water",
      className: "min-w-52",
      cell: (l, i) => (
        <details>
          <summary className="cursor-pointer text-sm">{signs(l.signs).join(", ") || "none"}</summary>
          {lists.data?.layerSigns.map((s) => (
            <label key={s} className="block text-sm">
              <input
                type="checkbox"
                checked={signs(l.signs).includes(s)}
                onChange={(e) =>
                  change(i, { signs: e.target.checked ? [...signs(l.signs), s] : signs(l.signs).filter((x) => x !== s) })
                }
              />{" "}
              {s}
            </label>
          ))}
          <label className="block text-sm">
            <input type="checkbox" checked={l.strongFizz} onChange={(e) => change(i, { strongFizz: e.target.checked })} /> foams
            strongly with acid
          </label>
        </details>
      ),
    },
    {
      head: <span className="sr-only">split or take out</span>,
      className: "whitespace-nowrap",
      cell: (_, i) => (
        <>
          <button className="act" onClick={() => split(i)}>
            Split<span className="sr-only"> layer {i + 1}</span>
          </button>{" "}
          <button className="act" disabled={pit.layers.length === 1} onClick={() => join(i)}>
            Take out<span className="sr-only"> layer {i + 1}</span>
          </button>
        </>
      ),
    },
  ];
  return <Table label="Layers of the pit" className="mt-4" rows={pit.layers} columns={columns} />;
}
