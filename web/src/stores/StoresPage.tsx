import { useState } from "react";
import { patchEstate, useEstate, useLists, useStatus, type Patch, type Schema } from "../api/client";
import { DayField, NumberField, Pick, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Busy, Trouble } from "../shell/States";
import { useReading } from "../shell/reading";
import { Table, type Column } from "../shell/Table";
import { day } from "../units";
import { Orders } from "./Orders";

type Estate = Schema["Estate"];
type Material = Schema["Material"];

/** What is at hand and what it costs: liming materials with their analysis, and dated prices. */
export default function StoresPage() {
  const estate = useEstate();
  const lists = useLists();
  const status = useStatus();
  const { number } = useReading();
  const [edit, setEdit] = useState(""); // the material that is changed
  const [item, setItem] = useState("");
  const [each, setEach] = useState<number>();
  const [on, setOn] = useState("");
  const [source, setSource] = useState("");
  if (estate.isPending || lists.isPending || status.isPending) return <Busy what="Opening the stores" />;
  if (estate.error || lists.error) return <Trouble error={estate.error ?? lists.error} />;
  const { estate: e } = estate.data;
  const materials = e.materials ?? [];
  const prices = e.prices ?? [];
  const put = (make: (now: Estate) => Patch, done: string) => void patchEstate(make).then(() => say(done), sayError);
  const change = (m: Material, part: Partial<Material>) =>
    put((now) => ({ materials: (now.materials ?? []).map((x) => (x.id === m.id ? { ...x, ...part } : x)) }), `${m.name} is kept`);
  const priced = lists.data.priced;
  const chosen = priced.find((p) => p.item === item) ?? priced[0];
  const percent = (f: keyof Material, head: string, label: string): Column<Material> => ({
    head,
    num: true,
    cell: (m) =>
      m.id === edit ? (
        <NumberField
          hidden
          label={`${m.name}, ${label}`}
          quantity="percent"
          width="w-16"
          value={(m[f] as number) || undefined}
          keep={(v) => change(m, { [f]: v ?? 0 })}
        />
      ) : (
        (m[f] as number) > 0 && number(m[f] as number, "percent")
      ),
  });
  const sieves = ["over2Mm", "to084Mm", "to030Mm", "below030Mm"] as const;
  return (
    <div className="px-5 py-4">
      <h1>Stores</h1>
      <Orders today={status.data!.today} />
      <h2 className="mt-3">Liming materials</h2>
      <p className="max-w-prose text-sm text-faint">
        A rate can only be given for a material whose neutralising value and fineness are known. Of a by-product nobody has
        analysed the plan gives the need in pure lime and stops, until it is analysed or marked as a guess. Have heavy metals
        tested too.
      </p>
      <Table
        label="Liming materials"
        className="mt-2"
        rows={materials}
        id={(m) => m.id}
        columns={[
          {
            head: "material",
            cell: (m) =>
              m.id === edit ? (
                <TextField hidden label="Name of the material" value={m.name} keep={(v) => v && change(m, { name: v })} />
              ) : (
                <b>{m.name}</b>
              ),
          },
          percent("neutralisingPct", "neutralising %", "neutralising value"),
          percent("caoPct", "CaO %", "CaO"),
          percent("mgoPct", "MgO %", "MgO"),
          percent("reactivityPct", "reactivity %", "reactivity"),
          {
            head: "sieves: over 2, 0.84–2, 0.3–0.84, below 0.3 mm, %",
            cell: (m) => {
              const shares = sieves.some((k) => m.sieves[k] > 0) ? sieves.map((k) => m.sieves[k]).join("/") : "";
              if (m.id !== edit) return shares;
              return (
                <TextField
                  hidden
                  label={`${m.name}, sieves`}
                  width="w-32"
                  value={shares}
                  keep={(v) => {
                    const n = v.split(/[/ ,;]+/).map(Number);
                    change(m, { sieves: { over2Mm: n[0] || 0, to084Mm: n[1] || 0, to030Mm: n[2] || 0, below030Mm: n[3] || 0 } });
                  }}
                />
              );
            },
          },
          percent("moisturePct", "moisture %", "moisture"),
          percent("effectivePct", "label’s effective %", "effective value by its label"),
          {
            head: "analysis from",
            cell: (m) =>
              m.id === edit ? (
                <TextField
                  hidden
                  label={`${m.name}, source of the analysis`}
                  value={m.source}
                  keep={(v) => change(m, { source: v })}
                />
              ) : (
                <span className="text-faint">{m.source}</span>
              ),
          },
          {
            head: "state",
            cell: (m) => {
              const known = lists.data.materials.find((x) => x.id === m.id);
              return (
                <>
                  {known?.analysed ? (
                    <>
                      {known.kind}, <span className="whitespace-nowrap">{number(known.effectivePct, "percent")} % effective</span>
                    </>
                  ) : (
                    <b className="text-decide">unanalysed</b>
                  )}
                  {m.id === edit ? (
                    <label className="block text-sm whitespace-nowrap">
                      <input type="checkbox" checked={m.guess} onChange={(ev) => change(m, { guess: ev.target.checked })} /> a
                      guess
                    </label>
                  ) : (
                    m.guess && <span className="block text-sm text-straw">a guess</span>
                  )}
                </>
              );
            },
          },
          {
            head: <span className="sr-only">change</span>,
            className: "no-print",
            cell: (m) => (
              <button className="act" onClick={() => setEdit(m.id === edit ? "" : m.id)}>
                {m.id === edit ? "Done" : "Change"}
                <span className="sr-only"> {m.name}</span>
              </button>
            ),
          },
        ]}
      />
      <button
        className="act mt-2"
        onClick={() => {
          const blank: Material = {
            id: crypto.randomUUID().slice(0, 8),
            name: `Material ${materials.length + 1}`,
            neutralisingPct: 0,
            caoPct: 0,
            mgoPct: 0,
            reactivityPct: 0,
            sieves: { over2Mm: 0, to084Mm: 0, to030Mm: 0, below030Mm: 0 },
            moisturePct: 0,
            effectivePct: 0,
            guess: false,
            source: "",
          };
          setEdit(blank.id);
          put((now) => ({ materials: [...(now.materials ?? []), blank] }), "A material is added; enter its analysis");
        }}
      >
        Add a material
      </button>

      <h2 className="mt-8">Prices</h2>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        <TextField
          label="Currency, as written before a price"
          width="w-24"
          value={e.currency ?? ""}
          keep={(v) => put(() => ({ currency: v }), "The currency is kept")}
        />
      </div>
      <form
        className="mt-2 flex flex-wrap items-end gap-3"
        onSubmit={(ev) => {
          ev.preventDefault();
          if (!chosen || each === undefined) return;
          put(
            (now) => ({
              prices: [
                ...(now.prices ?? []),
                { item: chosen.item, unit: chosen.unit, each, on: on || status.data!.today, source },
              ],
            }),
            `The price of ${chosen.name} is kept`,
          );
          setEach(undefined);
          setSource("");
        }}
      >
        <Pick
          label="Of"
          value={chosen?.item ?? ""}
          options={priced.map((p) => ({ id: p.item, words: `${p.name}, a ${p.unit}` }))}
          keep={setItem}
        />
        <NumberField
          label={`${e.currency || "money"} for one`}
          unit={chosen?.unit ?? ""}
          quantity="plain"
          value={each}
          keep={setEach}
        />
        <DayField label="From" value={on || status.data!.today} keep={setOn} />
        <TextField label="Where it is from" value={source} keep={setSource} />
        <button className="act act-first">Keep this price</button>
      </form>
      <Table
        label="Prices"
        className="mt-3 max-w-3xl"
        rows={[...prices].sort((a, b) => a.item.localeCompare(b.item) || b.on.localeCompare(a.on))}
        columns={[
          { head: "of", cell: (p) => priced.find((x) => x.item === p.item)?.name ?? p.item },
          {
            head: "price",
            num: true,
            className: "whitespace-nowrap",
            cell: (p) => `${e.currency ?? ""} ${number(p.each, "plain")}`,
          },
          { head: "unit", cell: (p) => p.unit },
          { head: "from", className: "whitespace-nowrap", cell: (p) => day(p.on) },
          { head: "source", className: "text-faint", cell: (p) => p.source },
        ]}
        takeOut={{
          what: (p) => `the price of ${p.item}`,
          done: (p) =>
            put(
              (now) => ({ prices: (now.prices ?? []).filter((x) => !(x.item === p.item && x.on === p.on && x.each === p.each)) }),
              "The price is taken out; undo brings it back",
            ),
        }}
      />
      <p className="mt-2 text-sm text-faint">
        The latest price on or before the day the plan is seen from counts. A thing without one shows its quantity and “no price”.
      </p>
    </div>
  );
}
