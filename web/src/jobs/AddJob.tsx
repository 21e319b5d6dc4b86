import { Select } from "@headlessui/react";
import { useState, type FormEvent } from "react";
import { api, changed, inTurn, patchBlock, take, type Patch, type Schema } from "../api/client";
import { say, sayError } from "../shell/Notices";

/** changeBlock makes one change of a block that is not on the page, on the latest revision. */
export const changeBlock = (id: string, make: (b: Schema["Block"]) => Patch, done: string) =>
  inTurn(async () => {
    try {
      const now = await take(api.GET("/blocks/{id}", { params: { path: { id } } }));
      await patchBlock(now, make(now.block));
      say(done);
    } catch (e) {
      sayError(e);
    } finally {
      await changed();
    }
  });

/** A job of one's own: what no sheet asks for. */
export function AddJob({ blocks, crews, today }: { blocks: Schema["BlockInShort"][]; crews: Schema["Crew"][]; today: string }) {
  const [open, setOpen] = useState(false);
  const add = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    const f = new FormData(e.currentTarget);
    const said = (k: string) => String(f.get(k) ?? "").trim();
    const hours = said("hours") === "" ? undefined : Number(said("hours").replace(",", "."));
    const job = {
      name: said("name"),
      from: said("from"),
      by: said("by") || said("from"),
      detail: said("detail"),
      crew: said("crew"),
      ...(hours !== undefined && Number.isFinite(hours) ? { hours } : {}),
    };
    void changeBlock(said("block"), (b) => ({ jobs: [...(b.jobs ?? []), job] }), `${job.name} is added`).then(() =>
      setOpen(false),
    );
  };
  if (!open)
    return (
      <button className="act" onClick={() => setOpen(true)} disabled={blocks.length === 0}>
        Add a job
      </button>
    );
  return (
    <form onSubmit={add} className="flex w-full flex-wrap items-end gap-2 border-y border-line py-2">
      <label className="flex flex-col text-sm">
        On block
        <Select name="block" className="field">
          {blocks.map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
        </Select>
      </label>
      <label className="flex flex-col text-sm">
        What is to be done
        <input name="name" required maxLength={120} className="field w-56" />
      </label>
      <label className="flex flex-col text-sm">
        From
        <input name="from" type="date" required defaultValue={today} className="field" />
      </label>
      <label className="flex flex-col text-sm">
        At the latest
        <input name="by" type="date" className="field" />
      </label>
      <label className="flex flex-col text-sm">
        Hours
        <input
          name="hours"
          inputMode="decimal"
          pattern="[0-9]+([.,][0-9]+)?"
          title="a number of hours, such as 7.5; empty where nobody knows"
          className="field w-20 text-right"
        />
      </label>
      {crews.length > 0 && (
        <label className="flex flex-col text-sm">
          Crew
          <Select name="crew" className="field">
            <option value="">whoever is there for such work</option>
            {crews.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Select>
        </label>
      )}
      <label className="flex flex-col text-sm">
        How, with what
        <input name="detail" maxLength={1000} className="field w-72" />
      </label>
      <button className="act act-first">Add the job</button>
      <button type="button" className="act" onClick={() => setOpen(false)}>
        Leave it
      </button>
    </form>
  );
}
