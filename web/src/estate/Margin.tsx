import { useState } from "react";
import { Link } from "react-router";
import type { Schema } from "../api/client";
import { weightTone, weightWords } from "../block/weights";
import { Pick } from "../shell/Fields";

type Block = Schema["BlockInShort"];
type Finding = Schema["Finding"];

/** The same finding of one or more blocks. */
interface Note {
  rule: string;
  weight: Finding["weight"];
  subject: string;
  said: { block: Block; finding: Finding }[];
}

/** gathered puts the same finding of many blocks together, the weightiest first. */
function gathered(blocks: Block[]): Note[] {
  const order = Object.keys(weightWords);
  const notes = new Map<string, Note>();
  for (const block of blocks)
    for (const finding of block.findings) {
      if (finding.weight === "inform") continue;
      const key = finding.weight + finding.rule + (finding.about?.kind === "job" ? finding.about.id : "");
      const n = notes.get(key) ?? { rule: finding.rule, weight: finding.weight, subject: finding.subject, said: [] };
      n.said.push({ block, finding });
      notes.set(key, n);
    }
  return [...notes.values()].sort((x, y) => order.indexOf(x.weight) - order.indexOf(y.weight));
}

/** What the plans of all blocks have to say, each thing once, by weight and block. */
export function Margin({ blocks }: { blocks: Block[] }) {
  const [weight, setWeight] = useState("");
  const [only, setOnly] = useState("");
  const seen = blocks.filter((b) => !only || b.id === only);
  const notes = gathered(seen).filter((n) => !weight || n.weight === weight);
  const broken = seen.filter((b) => b.problem);
  return (
    <div className="mt-5 border-t border-line pt-3">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <h2>In the margin</h2>
        <div className="no-print flex gap-2">
          <Pick
            label="Weight"
            value={weight}
            options={[
              { id: "", words: "all" },
              ...(["stops", "mend", "watch"] as const).map((w) => ({ id: w, words: weightWords[w].toLowerCase() })),
            ]}
            keep={setWeight}
          />
          <Pick
            label="Block"
            value={only}
            width="max-w-36"
            options={[{ id: "", words: "all" }, ...blocks.map((b) => ({ id: b.id, words: `${b.number} ${b.name}` }))]}
            keep={setOnly}
          />
        </div>
      </div>
      {broken.map((b) => (
        <p key={b.id} className="mt-2 border-l-4 border-decide pl-3">
          <b>
            {b.number} {b.name}:
          </b>{" "}
          {b.problem}
        </p>
      ))}
      {notes.length === 0 && broken.length === 0 && (
        <p className="mt-1 text-faint">{weight || only ? "Nothing of that kind." : "Nothing asks for a decision."}</p>
      )}
      <ul className="mt-1 space-y-2">
        {notes.map((n) => (
          <NoteView key={n.weight + n.rule} note={n} />
        ))}
      </ul>
    </div>
  );
}

function NoteView({ note }: { note: Note }) {
  const first = note.said[0]!;
  const same = note.said.every((s) => s.finding.sentence === first.finding.sentence);
  const at = (s: Note["said"][number]) => `/blocks/${s.block.id}/${s.finding.step}`;
  const names = note.said.map((s, i) => (
    <span key={s.block.id}>
      {i > 0 && ", "}
      <Link to={at(s)} className="font-semibold hover:underline">
        {s.block.number} {s.block.name}
      </Link>
    </span>
  ));
  return (
    <li>
      <span className={`font-semibold ${weightTone[note.weight]}`}>{weightWords[note.weight]}</span>
      <br />
      {same ? (
        <>
          {names}: {first.finding.sentence}
        </>
      ) : (
        <>
          {note.subject && <>{note.subject}, in </>}
          {names}
          <details>
            <summary className="cursor-pointer text-sm text-faint">what it is in each</summary>
            <ul>
              {note.said.map((s) => (
                <li key={s.block.id} className="mt-1">
                  <Link to={at(s)} className="hover:underline">
                    <b>
                      {s.block.number} {s.block.name}:
                    </b>{" "}
                    {s.finding.sentence}
                  </Link>
                </li>
              ))}
            </ul>
          </details>
        </>
      )}
    </li>
  );
}
