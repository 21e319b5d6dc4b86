import { useState, type Dispatch, type SetStateAction } from "react";
import { useNavigate } from "react-router";
import { changed, write, type Schema } from "../api/client";
import { Pick, TextField } from "../shell/Fields";
import { say } from "../shell/Notices";
import { PlaceField } from "../shell/PlaceField";
import { ErrorText } from "../shell/States";

type Point = Schema["Point"];
export interface CutLine {
  from?: Point;
  to?: Point;
}

/** Cutting a block in two, joining another to it, and making one like it. */
export function Reshape({
  doc,
  others,
  line,
  setLine,
}: {
  doc: Schema["BlockDoc"];
  others: Schema["BlockInShort"][];
  line?: CutLine;
  setLine: Dispatch<SetStateAction<CutLine | undefined>>;
}) {
  const go = useNavigate();
  const [other, setOther] = useState("");
  const [name, setName] = useState("");
  const [error, setError] = useState<unknown>();
  const make = async (what: () => Promise<string>) => {
    setError(undefined);
    try {
      const to = await what();
      await changed();
      void go(to);
    } catch (e) {
      setError(e);
      await changed();
    }
  };
  return (
    <section className="mt-4 border-t border-line pt-2">
      <h2>Cut, join, copy</h2>
      {error !== undefined && <ErrorText error={error} />}
      {line ? (
        <div className="mt-1 flex flex-col gap-2">
          <p className="text-sm text-faint">
            Click the two ends of the cut on the map, or type them. The largest part keeps the name, the record and what stands on
            it; rows keep their numbers on both sides.
          </p>
          <PlaceField label="From" value={line.from} keep={(from) => setLine((l) => ({ ...l, from }))} />
          <PlaceField label="To" value={line.to} keep={(to) => setLine((l) => ({ ...l, to }))} />
          <div className="flex gap-2">
            <button
              className="act act-first"
              disabled={!line.from || !line.to}
              onClick={() =>
                void make(async () => {
                  const made = await write.split(doc, line.from!, line.to!);
                  say(`${doc.block.name} is cut into ${made.length} blocks`);
                  setLine(undefined);
                  return `/blocks/${doc.id}/ground`;
                })
              }
            >
              Cut the block
            </button>
            <button className="act" onClick={() => setLine(undefined)}>
              Leave it whole
            </button>
          </div>
        </div>
      ) : (
        <button className="act mt-1" onClick={() => setLine({})}>
          Cut it along a line …
        </button>
      )}
      {others.length > 0 && (
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <Pick
            label="Join to it"
            value={other}
            options={[{ id: "", words: "a block beside it" }, ...others.map((b) => ({ id: b.id, words: b.name }))]}
            keep={setOther}
          />
          <button
            className="act"
            disabled={!other}
            onClick={() =>
              void make(async () => {
                const made = await write.merge(doc, other);
                say(`Joined to ${made.block.name}; undo parts them again`);
                return `/blocks/${doc.id}/ground`;
              })
            }
          >
            Join
          </button>
        </div>
      )}
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <TextField label="A block like it, named" value={name} keep={setName} />
        <button
          className="act"
          onClick={() =>
            void make(async () => {
              const made = await write.duplicate(doc, name);
              say(`${made.block.name} lies beside ${doc.block.name}`);
              return `/blocks/${made.id}/draw`;
            })
          }
        >
          Make a copy
        </button>
      </div>
    </section>
  );
}
