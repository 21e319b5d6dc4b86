import { useState } from "react";
import { useChange, useEstate, useHistory, useOverview, type Schema } from "../api/client";
import { Pick } from "../shell/Fields";
import { Busy, Empty, Trouble } from "../shell/States";

/** Every change of what people said, newest first, with what it read before and after. Records of work stand at the blocks. */
export default function HistoryPage() {
  const [block, setBlock] = useState("");
  const [who, setWho] = useState("");
  const estate = useEstate();
  const overview = useOverview();
  const history = useHistory(block || undefined, who || undefined);
  if (history.isPending) return <Busy what="Reading the history" />;
  if (history.error) return <Trouble error={history.error} retry={() => void history.refetch()} />;
  const changes = history.data.pages.flat();
  const people = estate.data?.estate.people ?? [];
  return (
    <div className="max-w-3xl px-5 py-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <h1>History</h1>
        <div className="flex flex-wrap gap-3">
          <Pick
            label="Block"
            value={block}
            options={[
              { id: "", words: "all" },
              ...(overview.data?.blocks ?? []).map((b) => ({ id: b.id, words: `${b.number} ${b.name}` })),
            ]}
            keep={setBlock}
          />
          <Pick
            label="By"
            value={who}
            options={[{ id: "", words: "everybody" }, ...people.map((p) => ({ id: p.name, words: p.name }))]}
            keep={setWho}
          />
        </div>
      </div>
      {changes.length === 0 && <Empty title="Nothing of that kind was changed" />}
      <ol className="mt-2">
        {changes.map((c) => (
          <Entry key={c.id} change={c} />
        ))}
      </ol>
      {history.hasNextPage && (
        <button className="act mt-3" disabled={history.isFetchingNextPage} onClick={() => void history.fetchNextPage()}>
          Earlier changes
        </button>
      )}
    </div>
  );
}

function Entry({ change }: { change: Schema["Change"] }) {
  const [open, setOpen] = useState(false);
  return (
    <li className="border-b border-line py-1.5">
      <button className="w-full text-left hover:underline" aria-expanded={open} onClick={() => setOpen(!open)}>
        <span className={change.undone ? "line-through" : ""}>{change.what}</span>
        <span className="block text-sm text-faint">
          {change.who || "somebody"}, {new Date(change.at).toLocaleString("en-GB")}
          {change.undone && ", undone"}
        </span>
      </button>
      {open && <Differences change={change.id} />}
    </li>
  );
}

function Differences({ change }: { change: number }) {
  const differences = useChange(change);
  if (differences.isPending) return <Busy what="Comparing" />;
  if (differences.error) return <Trouble error={differences.error} />;
  return (
    <table className="tbl mt-1 mb-2">
      <thead>
        <tr>
          <th>what</th>
          <th>before</th>
          <th>after</th>
        </tr>
      </thead>
      <tbody>
        {differences.data.map((d, i) => (
          <tr key={i}>
            <td>{d.words}</td>
            <td className="break-all">{d.was || "–"}</td>
            <td className="break-all">{d.is || "–"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
