import { useEffect, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import {
  changed,
  inTurn,
  useBlock,
  useOptions,
  usePlan,
  useSheets,
  write,
  type BlockDoc,
  type Plan,
  type Schema,
} from "../api/client";
import { considering } from "../block/paths";
import { Pick, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Busy, Trouble } from "../shell/States";
import { Wide } from "../shell/Wide";
import { useReading } from "../shell/reading";
import { fitted, outline, sized } from "../draw/frame";
import { palette } from "../draw/palette";
import { drawBeside, drawObstacles, drawRows } from "../draw/rowsDraw";

type Option = Schema["Option"];

/** Every option of a block side by side: drawn at one scale, compared figure by figure, one taken and the others kept with the reason. */
export default function OptionsPage() {
  const { id = "" } = useParams();
  const block = useBlock(id);
  const plan = usePlan(id);
  const options = useOptions(id);
  if (block.isPending || plan.isPending || options.isPending) return <Busy what="Planning every option" />;
  if (!block.data || !plan.data || !options.data)
    return <Trouble error={block.error ?? plan.error ?? options.error} retry={() => void options.refetch()} />;
  return <Compared doc={block.data} plan={plan.data} options={options.data} />;
}

function Compared({ doc, plan, options }: { doc: BlockDoc; plan: Plan; options: Option[] }) {
  const sheets = useSheets();
  const { text } = useReading();
  const [sheet, setSheet] = useState("");
  const [reasons, setReasons] = useState<Record<string, string>>({});
  const rows = options
    .flatMap((o) => o.figures)
    .reduce<{ path: string; label: string; quantity: string }[]>(
      (list, f) =>
        list.some((x) => same(x, f))
          ? list
          : [
              ...list,
              {
                path: keyOf(f),
                label: f.path.startsWith("with.") ? `${f.label}${f.path.endsWith("order") ? ", to order" : ""}` : f.label,
                quantity: f.quantity,
              },
            ],
      [],
    );
  /** One change after the other, each from what the one before left. */
  const act = (what: () => Promise<unknown>, done: string) =>
    void inTurn(async () => {
      try {
        await what();
        say(done);
      } catch (e) {
        sayError(e);
      } finally {
        await changed();
      }
    });
  const like = () => {
    const p = doc.block.planting;
    const base = p
      ? {
          ...considering(p.sheet, p.date),
          name: `${p.name || plan.sheetName} ${options.length + 1}`,
          choices: p.choices,
          layout: p.layout,
          companions: p.companions,
          strips: p.strips,
        }
      : considering(sheet);
    act(() => write.plan(doc, base as Schema["Planting"]), "Another option begins as a copy; open it to change it");
  };
  return (
    <div className="px-5 py-4">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1>Options for {doc.block.name}</h1>
        <Link className="text-faint hover:text-ink" to={`/blocks/${doc.id}/rows`}>
          Back to its rows
        </Link>
      </div>
      {options.length === 0 && <p className="mt-2 max-w-prose text-faint">Nothing is planned or considered here yet.</p>}
      <Wide label="Options side by side">
        <table className="tbl mt-3">
          <caption className="sr-only">Options of the block, figure by figure</caption>
          <thead>
            <tr>
              <th>
                <span className="sr-only">figure</span>
              </th>
              {options.map((o) => (
                <th key={o.id} className="align-bottom" style={{ minWidth: "14rem" }}>
                  <Link className="press" to={`/blocks/${doc.id}/rows?planting=${o.id}`}>
                    {o.name || o.sheetName}
                  </Link>
                  <span className="block text-sm font-normal text-faint">
                    {o.name && `${o.sheetName}, `}
                    {o.stage}
                  </span>
                  {o.problem ? (
                    <span className="block text-sm font-normal text-decide">{o.problem}</span>
                  ) : (
                    <Drawing plan={plan} option={o} />
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((r) => {
              const values = options.map((o) => o.figures.find((f) => same(r, f)));
              const differs = new Set(values.map((f) => f?.text || f?.value)).size > 1;
              return (
                <tr key={r.path}>
                  <td className={differs ? "font-semibold" : "text-faint"}>{r.label}</td>
                  {values.map((f, i) => (
                    <td key={options[i]!.id} className={`num ${differs ? "font-semibold" : "text-faint"}`}>
                      {f ? f.text || text(f.value, f.quantity) : "–"}
                    </td>
                  ))}
                </tr>
              );
            })}
            <tr className="no-print">
              <td>why not this one</td>
              {options.map((o) => (
                <td key={o.id}>
                  <TextField
                    label={`Why not ${o.name || o.sheetName}`}
                    hidden
                    width="w-full"
                    value={reasons[o.id] ?? o.aside}
                    keep={(v) => setReasons((r) => ({ ...r, [o.id]: v }))}
                  />
                </td>
              ))}
            </tr>
            <tr className="no-print">
              <td />
              {options.map((o) => (
                <td key={o.id}>
                  <button
                    className="act"
                    disabled={!!o.problem}
                    onClick={() =>
                      act(
                        () =>
                          write.choose(
                            doc,
                            o.id,
                            Object.fromEntries(options.filter((x) => x.id !== o.id).map((x) => [x.id, reasons[x.id] ?? x.aside])),
                          ),
                        `${o.name || o.sheetName} is taken; the others stay considered, with the reason`,
                      )
                    }
                  >
                    Take this one
                  </button>
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </Wide>
      <div className="no-print mt-3 flex flex-wrap items-end gap-3">
        {doc.block.planting && (
          <button className="act" onClick={like}>
            Another option like {plan.sheetName ? `the ${plan.sheetName.toLowerCase()} under way` : "it"}
          </button>
        )}
        <Pick
          label="Another crop"
          value={sheet}
          options={[{ id: "", words: "choose" }, ...(sheets.data ?? []).map((s) => ({ id: s.id, words: s.name }))]}
          keep={setSheet}
        />
        <button
          className="act"
          disabled={!sheet}
          onClick={() => act(() => write.plan(doc, considering(sheet) as Schema["Planting"]), "Another option is considered")}
        >
          Add it as an option
        </button>
      </div>
    </div>
  );
}

/** A companion is the same in two options by its name, whatever its id. */
const keyOf = (f: { path: string; label: string }) =>
  f.path.startsWith("with.") ? `${f.label}.${f.path.split(".").at(-1)}` : f.path;
const same = (r: { path: string }, f: { path: string; label: string }) => r.path === keyOf(f);

/** An option as it would stand after ten years, all options at one scale. */
function Drawing({ plan, option }: { plan: Plan; option: Option }) {
  const width = 224;
  const canvas = useRef<HTMLCanvasElement>(null);
  const height = 190;
  useEffect(() => {
    const c = sized(canvas.current, width, height);
    if (!c) return;
    const rings = plan.ground.rings as [number, number][][];
    const v = fitted(rings[0]!, width, height, 6);
    outline(c, rings, v);
    c.fillStyle = palette.soil;
    c.fill("evenodd");
    c.strokeStyle = palette.ink;
    c.stroke();
    drawRows(c, { ...option, outAge: 0, laterAge: 0 }, v, width, height, { age: 10, spreadM: option.spreadM });
    drawBeside(c, option.beside, v, width, height, 10);
    drawObstacles(c, plan.obstacles, v);
  }, [plan, option]);
  return (
    <span className="mt-1 block">
      <canvas
        ref={canvas}
        role="img"
        aria-label={`${option.name || option.sheetName} drawn`}
        style={{ width, height }}
        className="block"
      />
    </span>
  );
}
