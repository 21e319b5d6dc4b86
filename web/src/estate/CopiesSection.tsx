import { useState } from "react";
import { api, changed, queryClient, take, useCopies } from "../api/client";
import { say, sayError } from "../shell/Notices";
import { Panel } from "../shell/Sheet";
import { Busy, ErrorText } from "../shell/States";

const size = (bytes: number) =>
  `${(bytes / 1048576).toLocaleString("en-GB", { maximumFractionDigits: 1, minimumFractionDigits: 1 })} MB`;
const when = (t: string) => new Date(t).toLocaleString("en-GB", { dateStyle: "long", timeStyle: "short" });

/** Copies of the estate: those kept in its folder, a fresh one to take away, and putting one back. */
export function CopiesSection() {
  const copies = useCopies();
  const [busy, setBusy] = useState("");
  const [back, setBack] = useState<{ name: string; file?: File }>();
  const [error, setError] = useState<unknown>();
  const make = async () => {
    setBusy("Making a copy and reading it back");
    try {
      await take(api.POST("/copies"));
      await queryClient.invalidateQueries({ queryKey: ["copies"] });
      say("A copy is made and was read back");
    } catch (e) {
      sayError(e);
    } finally {
      setBusy("");
    }
  };
  const restore = async () => {
    const b = back!;
    setBack(undefined);
    setError(undefined);
    setBusy(`Reading ${b.name} whole before anything is touched`);
    try {
      const done = b.file
        ? await take(
            api.POST("/restore", {
              body: b.file as never,
              bodySerializer: (f) => f as unknown as File,
              headers: { "Content-Type": "application/octet-stream" },
            }),
          )
        : await take(api.POST("/copies/{name}/restore", { params: { path: { name: b.name } } }));
      say(
        `${done.estate} is in place with ${done.blocks} ${done.blocks === 1 ? "block" : "blocks"}; what stood before is kept as ${done.kept}`,
      );
    } catch (e) {
      setError(e);
    } finally {
      setBusy("");
      await queryClient.invalidateQueries({ queryKey: ["status"] });
      await changed();
    }
  };
  return (
    <section id="copies" className="mt-6">
      <h2>Copies</h2>
      {copies.error && <ErrorText error={copies.error} />}
      {copies.data && (
        <>
          {copies.data.trouble && (
            <p className="border-l-4 border-decide pl-3">
              <b>The estate's file is damaged:</b> {copies.data.trouble}. Nothing is written until a good copy is put back.
            </p>
          )}
          <p className={copies.data.remind ? "text-decide" : "text-faint"}>
            {copies.data.taken
              ? `A copy last left this computer's folder on ${when(copies.data.taken)}.`
              : "No copy has left this computer's folder yet."}
            {copies.data.remind && " More than seven days of work lie in one place: take a copy to another disk."}
          </p>
          <p className="mt-2 flex flex-wrap gap-2">
            <a
              className="act act-first"
              href="/api/v1/copies/fresh"
              download
              onClick={() => setTimeout(() => void queryClient.invalidateQueries({ queryKey: ["copies"] }), 1500)}
            >
              Take a copy away
            </a>
            <a
              className="act"
              href="/api/v1/archive"
              download
              onClick={() => setTimeout(() => void queryClient.invalidateQueries({ queryKey: ["copies"] }), 1500)}
            >
              Take everything as an open archive
            </a>
            <button className="act" disabled={!!busy} onClick={() => void make()}>
              Make one here
            </button>
            <label className="act cursor-pointer focus-within:outline-2 focus-within:outline-decide">
              Put back a copy or an archive
              <input
                type="file"
                className="sr-only"
                accept=".db,.sqlite,.slowroot,.zip"
                onChange={(e) => {
                  const f = e.target.files?.[0];
                  e.target.value = "";
                  if (f) setBack({ name: f.name, file: f });
                }}
              />
            </label>
          </p>
          {busy && <Busy what={busy} />}
          {error !== undefined && <ErrorText error={error} />}
          <p className="mt-2 text-sm text-faint">
            While the program runs it makes one a day by itself; those of seven days, four weeks and twelve months are kept in the
            folder copies of {copies.data.folder}.
          </p>
          <ul>
            {copies.data.copies.map((c) => (
              <li key={c.name} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1">
                <b>{when(c.at)}</b> <span className="text-sm text-faint">{size(c.bytes)}</span>
                <span className="ml-auto flex gap-2">
                  <a className="text-faint underline" href={`/api/v1/copies/${encodeURIComponent(c.name)}/file`} download>
                    take away<span className="sr-only"> the copy of {when(c.at)}</span>
                  </a>
                  <button className="text-faint underline" onClick={() => setBack({ name: c.name })}>
                    put back<span className="sr-only"> the copy of {when(c.at)}</span>
                  </button>
                </span>
              </li>
            ))}
          </ul>
          {copies.data.copies.length === 0 && <p className="text-faint">None yet.</p>}
        </>
      )}
      {back && (
        <Panel title="Put this copy back?" close={() => setBack(undefined)}>
          <p>
            <b>{back.name}</b> takes the place of the whole estate as it stands now: every block, record and price. The copy is
            read whole first; if anything in it is wrong, nothing is touched. What stands now is kept beside it.
          </p>
          <div className="mt-3 flex gap-2">
            <button className="act act-first" onClick={() => void restore()}>
              Put it back
            </button>
            <button className="act" onClick={() => setBack(undefined)}>
              Leave everything as it is
            </button>
          </div>
        </Panel>
      )}
    </section>
  );
}
