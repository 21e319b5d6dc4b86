import { useState } from "react";
import { changed, useEstate, useLists, useStatus, write, type Patch, type Schema } from "../api/client";
import { DayField, NumberField, Pick, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Busy, Trouble } from "../shell/States";
import { useReading } from "../shell/reading";
import { Wide } from "../shell/Wide";
import { day } from "../units";
import { Orders } from "./Orders";

type Material = Schema["Material"];

/** What is at hand and what it costs: liming materials with their analysis, and dated prices. */
export default function StoresPage() {
  const estate = useEstate();
  const lists = useLists();
  const status = useStatus();
  const { number } = useReading();
  const [item, setItem] = useState("");
  const [each, setEach] = useState<number>();
  const [on, setOn] = useState("");
  const [source, setSource] = useState("");
  if (estate.isPending || lists.isPending || status.isPending) return <Busy what="Opening the stores" />;
  if (estate.error || lists.error) return <Trouble error={estate.error ?? lists.error} />;
  const { estate: e, revision } = estate.data;
  const materials = e.materials ?? [];
  const prices = e.prices ?? [];
  const put = (patch: Patch, done: string) =>
    void write
      .estate(revision, patch)
      .then(() => say(done), sayError)
      .finally(() => void changed());
  const change = (i: number, part: Partial<Material>) =>
    put({ materials: materials.map((m, j) => (j === i ? { ...m, ...part } : m)) }, `${materials[i]!.name} is kept`);
  const priced = lists.data.priced;
  const chosen = priced.find((p) => p.item === item) ?? priced[0];
  const cell = (i: number, m: Material, f: keyof Material, label: string) => (
    <td className="num">
      <NumberField
        hidden
        label={`${m.name}, ${label}`}
        quantity="percent"
        width="w-16"
        value={(m[f] as number) || undefined}
        keep={(v) => change(i, { [f]: v ?? 0 })}
      />
    </td>
  );
  return (
    <div className="px-5 py-4">
      <h1>Stores</h1>
      <Orders />
      <h2 className="mt-3">Liming materials</h2>
      <p className="max-w-prose text-sm text-faint">
        A rate can only be given for a material whose neutralising value and fineness are known. Of a by-product nobody has
        analysed the plan gives the need in pure lime and stops, until it is analysed or marked as a guess. Have heavy metals
        tested too.
      </p>
      <Wide label="Liming materials" className="mt-2">
        <table className="tbl">
          <thead>
            <tr>
              <th>material</th>
              <th className="num">neutralising %</th>
              <th className="num">CaO %</th>
              <th className="num">MgO %</th>
              <th className="num">reactivity %</th>
              <th>sieves: over 2, 0.84–2, 0.3–0.84, below 0.3 mm, %</th>
              <th className="num">moisture %</th>
              <th className="num">label&apos;s effective %</th>
              <th>analysis from</th>
              <th>state</th>
            </tr>
          </thead>
          <tbody>
            {materials.map((m, i) => (
              <tr key={m.id}>
                <td>
                  <TextField hidden label="Name of the material" value={m.name} keep={(v) => v && change(i, { name: v })} />
                </td>
                {cell(i, m, "neutralisingPct", "neutralising value")}
                {cell(i, m, "caoPct", "CaO")}
                {cell(i, m, "mgoPct", "MgO")}
                {cell(i, m, "reactivityPct", "reactivity")}
                <td>
                  <TextField
                    hidden
                    label={`${m.name}, sieves`}
                    width="w-32"
                    value={
                      m.sieves.over2Mm + m.sieves.to084Mm + m.sieves.to030Mm + m.sieves.below030Mm > 0
                        ? `${m.sieves.over2Mm}/${m.sieves.to084Mm}/${m.sieves.to030Mm}/${m.sieves.below030Mm}`
                        : ""
                    }
                    keep={(v) => {
                      const n = v.split(/[/ ,;]+/).map(Number);
                      change(i, {
                        sieves: { over2Mm: n[0] || 0, to084Mm: n[1] || 0, to030Mm: n[2] || 0, below030Mm: n[3] || 0 },
                      });
                    }}
                  />
                </td>
                {cell(i, m, "moisturePct", "moisture")}
                {cell(i, m, "effectivePct", "effective value by its label")}
                <td>
                  <TextField
                    hidden
                    label={`${m.name}, source of the analysis`}
                    value={m.source}
                    keep={(v) => change(i, { source: v })}
                  />
                </td>
                <td>
                  {lists.data.materials.find((x) => x.id === m.id)?.analysed ? (
                    <>
                      {lists.data.materials.find((x) => x.id === m.id)!.kind},{" "}
                      <span className="whitespace-nowrap">
                        {number(lists.data.materials.find((x) => x.id === m.id)!.effectivePct, "percent")} % effective
                      </span>
                    </>
                  ) : (
                    <b className="text-decide">unanalysed</b>
                  )}
                  <label className="block text-sm whitespace-nowrap">
                    <input type="checkbox" checked={m.guess} onChange={(ev) => change(i, { guess: ev.target.checked })} /> a guess
                  </label>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
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
          put({ materials: [...materials, blank] }, "A material is added; enter its analysis");
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
          keep={(v) => put({ currency: v }, "The currency is kept")}
        />
      </div>
      <form
        className="mt-2 flex flex-wrap items-end gap-3"
        onSubmit={(ev) => {
          ev.preventDefault();
          if (!chosen || each === undefined) return;
          put(
            { prices: [...prices, { item: chosen.item, unit: chosen.unit, each, on: on || status.data!.today, source }] },
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
      <Wide label="Prices" className="mt-3 max-w-3xl">
        <table className="tbl">
          <thead>
            <tr>
              <th>of</th>
              <th className="num">price</th>
              <th>unit</th>
              <th>from</th>
              <th>source</th>
              <th>
                <span className="sr-only">take out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {prices
              .map((p, i) => ({ p, i }))
              .sort((a, b) => a.p.item.localeCompare(b.p.item) || b.p.on.localeCompare(a.p.on))
              .map(({ p, i }) => (
                <tr key={i}>
                  <td>{priced.find((x) => x.item === p.item)?.name ?? p.item}</td>
                  <td className="num whitespace-nowrap">
                    {e.currency} {number(p.each, "plain")}
                  </td>
                  <td>{p.unit}</td>
                  <td>{day(p.on)}</td>
                  <td className="text-faint">{p.source}</td>
                  <td>
                    <button
                      className="act"
                      onClick={() =>
                        put({ prices: prices.filter((_, j) => j !== i) }, "The price is taken out; undo brings it back")
                      }
                    >
                      Take out<span className="sr-only"> the price of {p.item}</span>
                    </button>
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      </Wide>
      <p className="mt-2 text-sm text-faint">
        The latest price on or before the day the plan is seen from counts. A thing without one shows its quantity and “no price”.
      </p>
    </div>
  );
}
