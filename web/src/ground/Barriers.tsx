import { useLists, type Patch, type Schema } from "../api/client";
import { NumberField, Pick, TextField } from "../shell/Fields";

/** The hedges, banks, walls and waters that dam or turn cold air, each a form of its own. */
export function Barriers({
  barriers,
  put,
}: {
  barriers: Schema["Barrier"][];
  put: (make: (now: Schema["Estate"]) => Patch, done: string) => void;
}) {
  const lists = useLists();
  const change = (i: number, part: Partial<Schema["Barrier"]>) =>
    put(
      (now) => ({ barriers: (now.barriers ?? []).map((b, j) => (j === i ? { ...b, ...part } : b)) }),
      `${barriers[i]!.name} is kept`,
    );
  return (
    <>
      <h2 className="mt-6">What dams or turns cold air</h2>
      <ul>
        {barriers.map((b, i) => (
          <li key={i} className="border-b border-line py-2">
            <div className="flex flex-wrap items-end gap-2">
              <TextField label="Name" width="w-32" value={b.name} keep={(v) => v && change(i, { name: v })} />
              <Pick label="Kind" value={b.kind} options={lists.data?.barriers ?? [b.kind]} keep={(v) => change(i, { kind: v })} />
              {b.kind !== "water" && (
                <>
                  <NumberField
                    label="High"
                    width="w-16"
                    quantity="spacing"
                    value={b.heightM}
                    keep={(v) => v && change(i, { heightM: v })}
                  />
                  <NumberField
                    label="Open share"
                    width="w-16"
                    quantity="fraction"
                    value={b.porosity}
                    keep={(v) => change(i, { porosity: v ?? 0 })}
                  />
                  <label className="pb-1 text-sm">
                    <input type="checkbox" checked={b.gap} onChange={(ev) => change(i, { gap: ev.target.checked })} /> gap at its
                    low end
                  </label>
                </>
              )}
              <button
                className="act"
                onClick={() =>
                  put(
                    (now) => ({ barriers: (now.barriers ?? []).filter((_, j) => j !== i) }),
                    "It is taken off; undo brings it back",
                  )
                }
              >
                Take off<span className="sr-only"> {b.name}</span>
              </button>
            </div>
            <details>
              <summary className="cursor-pointer text-sm text-faint">{b.line.length} points</summary>
              <TextField
                label="longitude latitude, one point after another, with commas between"
                width="w-full"
                value={b.line.map((p) => `${p.lon} ${p.lat}`).join(", ")}
                keep={(v) =>
                  change(i, {
                    line: v.split(",").map((p) => {
                      const [lon, lat] = p.trim().split(/\s+/).map(Number);
                      return { lon: lon ?? NaN, lat: lat ?? NaN };
                    }),
                  })
                }
              />
            </details>
          </li>
        ))}
      </ul>
    </>
  );
}
