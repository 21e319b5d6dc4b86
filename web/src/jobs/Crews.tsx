import { Table } from "../shell/Table";
import { patchEstate, useEstate, type Schema } from "../api/client";
import { NumberField, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";

type Crew = Schema["Crew"];

const numbers = [
  ["people", "people"],
  ["hoursDay", "hours a day"],
  ["daysWeek", "days a week"],
  ["wage", "wage an hour"],
] as const;

const works = ["ground", "planting", "care", "pruning", "feeding", "harvest"] as const;

/** The crews of the estate and what they can do in a week. */
export function Crews() {
  const estate = useEstate();
  const list = estate.data?.estate.crews ?? [];
  const put = (make: (now: Crew[]) => Crew[], done: string) =>
    void patchEstate((e) => ({ crews: make(e.crews ?? []) })).then(() => say(done), sayError);
  const change = (id: string, part: Partial<Crew>) =>
    put((now) => now.map((c) => (c.id === id ? { ...c, ...part } : c)), "The crew is kept");
  return (
    <section>
      {list.length > 0 && (
        <Table
          label="Crews"
          rows={list}
          id={(c) => c.id}
          columns={[
            {
              head: "crew",
              cell: (c) => (
                <TextField label="Name of the crew" hidden value={c.name} keep={(name) => name && change(c.id, { name })} />
              ),
            },
            ...numbers.map(([k, head]) => ({
              head,
              num: true,
              cell: (c: Crew) => (
                <NumberField
                  label={`${c.name}, ${head}`}
                  hidden
                  quantity="plain"
                  width="w-16"
                  value={c[k] || undefined}
                  keep={(v) => (v !== undefined || k === "wage") && change(c.id, { [k]: v ?? 0 })}
                />
              ),
            })),
            {
              head: "machines",
              cell: (c) => (
                <input
                  type="checkbox"
                  aria-label={`${c.name} is machines, each with its driver`}
                  checked={c.machine ?? false}
                  onChange={(e) => change(c.id, { machine: e.target.checked })}
                />
              ),
            },
            {
              head: "kept for",
              cell: (c) => (
                <details>
                  <summary className="cursor-pointer" aria-label={`Work ${c.name} is kept for`}>
                    {c.does?.length ? c.does.join(", ") : "every work"}
                  </summary>
                  {works.map((w) => (
                    <label key={w} className="flex items-center gap-1 text-sm">
                      <input
                        type="checkbox"
                        checked={c.does?.includes(w) ?? false}
                        onChange={(e) =>
                          change(c.id, {
                            does: e.target.checked ? [...(c.does ?? []), w] : (c.does ?? []).filter((x) => x !== w),
                          })
                        }
                      />
                      {w}
                    </label>
                  ))}
                </details>
              ),
            },
          ]}
          takeOut={{
            what: (c) => c.name,
            done: (c) => put((now) => now.filter((x) => x.id !== c.id), `${c.name} is taken out; undo brings it back`),
          }}
        />
      )}
      <button
        className="act mt-2"
        onClick={() =>
          put(
            (now) => [
              ...now,
              { id: Math.random().toString(36).slice(2, 8), name: `Crew ${now.length + 1}`, people: 2, hoursDay: 8, daysWeek: 5 },
            ],
            "A crew is added",
          )
        }
      >
        Add a crew
      </button>
    </section>
  );
}
