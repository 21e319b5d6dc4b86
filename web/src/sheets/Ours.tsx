import { useState } from "react";
import { useNavigate } from "react-router";
import { changeSheets, useLists, write, type Schema } from "../api/client";
import { Pick, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Part } from "./Part";

type Doc = Schema["SheetDoc"];

/** A sheet made the estate's own: copied under a name, changed value by value, a school put beside another. */
export function Ours({ s, doc }: { s: Schema["Sheet"]; doc: Doc }) {
  return (
    <>
      <Copy s={s} />
      {doc.own && <Values s={s} doc={doc} />}
    </>
  );
}

function Copy({ s }: { s: Schema["Sheet"] }) {
  const [name, setName] = useState("");
  const go = useNavigate();
  return (
    <form
      className="mt-4 flex flex-wrap items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void changeSheets(() => write.copySheet(s.id, name)).then((d) => {
          say(`“${name}” is a sheet of your own; its values can be changed`);
          void go(`/sheets/${d.id}`);
        }, sayError);
      }}
    >
      <label className="flex flex-col text-sm">
        A copy under a name of its own
        <input
          className="field w-72"
          required
          maxLength={80}
          placeholder={`${s.name}, our way`}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <button className="act">Copy it</button>
      <p className="w-full text-sm text-faint">
        A copy is yours to change; this sheet stays as it is. For a crop nobody has a sheet for, copy the nearest and change what
        differs.
      </p>
    </form>
  );
}

function Values({ s, doc }: { s: Schema["Sheet"]; doc: Doc }) {
  const sections = [...new Set(doc.values.map((v) => v.section))];
  const [section, turn] = useState(sections.includes("life") ? "life" : (sections[0] ?? ""));
  const [find, search] = useState("");
  const go = useNavigate();
  const edit = (edits: Schema["SheetEdit"][], done: string) =>
    void changeSheets(() => write.editSheet(doc, edits)).then(() => say(done), sayError);
  const shown = doc.values.filter((v) =>
    find ? `${v.section} ${v.entry} ${v.field} ${v.value}`.toLowerCase().includes(find.toLowerCase()) : v.section === section,
  );
  const changedPaths = new Map(doc.differences.map((d) => [d.path, d.was]));
  return (
    <>
      <div className="mt-4 flex flex-wrap items-end gap-3">
        <Pick label="Section" value={section} options={sections} keep={turn} />
        <label className="flex flex-col text-sm">
          or find a value
          <input className="field w-56" type="search" value={find} onChange={(e) => search(e.target.value)} />
        </label>
        <School s={s} edit={edit} />
        <button
          className="act"
          onClick={() =>
            void changeSheets(() => write.removeSheet(doc)).then(() => {
              say("The sheet is taken out; undo brings it back");
              void go(`/sheets/${s.from ?? ""}`);
            }, sayError)
          }
        >
          Take this sheet out
        </button>
      </div>
      <Part title={find ? `Values with “${find}”` : section}>
        <thead>
          <tr>
            <th>value</th>
            <th>as it is</th>
            <th>as it was</th>
          </tr>
        </thead>
        <tbody>
          {shown.slice(0, 150).map((v) => (
            <tr key={v.path}>
              <td>
                {find && `${v.section} `}
                <b>{v.entry}</b> {v.field === v.section ? "" : v.field}
              </td>
              <td>
                {v.field === "origin" || v.field.endsWith(".origin") ? (
                  <Origin
                    label={v.path}
                    value={v.value}
                    keep={(value) => edit([{ path: v.path, value }], "Where it is from is kept")}
                  />
                ) : (
                  <TextField
                    label={v.path}
                    hidden
                    width={v.value.length > 24 ? "w-[34rem] max-w-full" : "w-40"}
                    value={v.value}
                    keep={(value) => edit([{ path: v.path, value }], "The value is kept; say where it is from beside it")}
                  />
                )}
              </td>
              <td className="text-sm text-faint">
                {changedPaths.has(v.path) && (
                  <>
                    {changedPaths.get(v.path) || "–"}{" "}
                    {changedPaths.get(v.path) && (
                      <button
                        className="underline"
                        onClick={() => edit([{ path: v.path, value: changedPaths.get(v.path) ?? "" }], "Back to what it was")}
                      >
                        back to that
                      </button>
                    )}
                  </>
                )}
              </td>
            </tr>
          ))}
          {shown.length > 150 && (
            <tr>
              <td colSpan={3} className="text-faint">
                and {shown.length - 150} more: find the one you want
              </td>
            </tr>
          )}
        </tbody>
      </Part>
    </>
  );
}

/** Origin is where an entry is from: one of the marks, or a published source in words. */
function Origin({ label, value, keep }: { label: string; value: string; keep: (v: string) => void }) {
  const lists = useLists();
  const marks = lists.data?.origins ?? [];
  return (
    <Pick
      label={label}
      hidden
      value={value}
      options={[...marks, ...(marks.some((m) => m.id === value) ? [] : [{ id: value, words: value }])]}
      keep={keep}
    />
  );
}

/** A school beside another: one of the layouts once more, to be changed. */
function School({ s, edit }: { s: Schema["Sheet"]; edit: (edits: Schema["SheetEdit"][], done: string) => void }) {
  const [of, choose] = useState(s.layouts[0]?.id ?? "");
  if (s.layouts.length === 0) return null;
  const free = () => {
    for (let n = 2; ; n++) if (!s.layouts.some((l) => l.id === `${of}-${n}`)) return `${of}-${n}`;
  };
  return (
    <div className="flex items-end gap-2">
      <Pick label="Another layout like" value={of} options={s.layouts.map((l) => ({ id: l.id, words: l.name }))} keep={choose} />
      <button
        className="act"
        onClick={() => {
          const id = free();
          const name = s.layouts.find((l) => l.id === of)?.name ?? of;
          edit(
            [
              { path: `layouts[${of}]`, copyAs: id },
              { path: `layouts[${id}].name`, value: `${name}, another` },
            ],
            "The layout stands beside it; change what differs under layouts",
          );
        }}
      >
        Add it
      </button>
    </div>
  );
}
