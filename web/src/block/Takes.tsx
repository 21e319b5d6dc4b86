import { useState } from "react";
import { patchEstate, useLists, type Plan, type Schema } from "../api/client";
import { NumberField, Pick } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { BillTable } from "../shell/BillTable";
import type { Column } from "../shell/Table";
import type { StepProps } from "./stepProps";

type Fitting = Schema["Fitting"];
type Line = Plan["bill"][number];

/** What establishing the planting takes, priced: plants, what its work takes, and the fittings that are chosen here. */
export function Takes({ plan, doc, draft }: StepProps) {
  const lists = useLists();
  const [kind, setKind] = useState("trellis");
  const kinds = lists.data?.fittingKinds ?? [];
  const list = doc.block.planting?.fittings ?? [];
  const put = (make: (now: Fitting[]) => Fitting[], done?: string) =>
    void draft.commit((b) => ({ planting: { fittings: make(b.planting?.fittings ?? []) } }), done);
  return (
    <section className="mt-5">
      <h2>What it takes</h2>
      {list.map((f) => {
        const k = kinds.find((x) => x.id === f.kind);
        if (!k) return null;
        return (
          <div key={f.id} role="group" aria-label={k.name} className="border-b border-line py-2">
            <p>
              <b>{k.name}</b> <span className="text-faint">{k.says}</span>{" "}
              <button
                className="act px-1.5"
                aria-label={`Take ${k.name.toLowerCase()} off`}
                onClick={() => put((now) => now.filter((x) => x.id !== f.id), `${k.name} is taken off; undo brings it back`)}
              >
                ×
              </button>
            </p>
            <div className="mt-1 flex flex-wrap items-end gap-3">
              {k.fields.map((x) => (
                <NumberField
                  key={x.name}
                  label={x.label}
                  quantity={x.quantity}
                  width="w-16"
                  value={f.values?.[x.name] ?? x.usual}
                  keep={(v) =>
                    put((now) =>
                      now.map((y) => {
                        if (y.id !== f.id) return y;
                        const values = { ...y.values };
                        if (v === undefined) delete values[x.name];
                        else values[x.name] = v;
                        return { ...y, values };
                      }),
                    )
                  }
                />
              ))}
              <NumberField
                label="Hours to put it up"
                unit="h"
                quantity="plain"
                width="w-20"
                value={f.hours}
                keep={(v) =>
                  put((now) =>
                    now.map((y) => {
                      if (y.id !== f.id) return y;
                      const rest = { ...y };
                      delete rest.hours;
                      return v === undefined ? rest : { ...rest, hours: v };
                    }),
                  )
                }
              />
            </div>
            <p className="mt-1 text-sm text-faint">{k.source}</p>
          </div>
        );
      })}
      <div className="no-print mt-2 flex flex-wrap items-end gap-2">
        <Pick label="Fitting" value={kind} options={kinds.map((k) => ({ id: k.id, words: k.name }))} keep={setKind} />
        <button
          className="act"
          onClick={() =>
            put(
              (now) => [...now, { id: Math.random().toString(36).slice(2, 8), kind }],
              "It is added with its usual values; change them to yours",
            )
          }
        >
          Add it
        </button>
      </div>
      <TakesTable plan={plan} price />
      {list.some((f) => f.kind === "trellis" || f.kind === "fence") && (
        <p className="mt-1 max-w-prose text-sm text-straw">
          Wire under tension cuts when it parts: goggles and gloves, and nobody in line with it. Have buried services marked
          before posts are driven.
        </p>
      )}
      {list.some((f) => f.kind === "pits") && (
        <p className="mt-1 max-w-prose text-sm text-straw">
          Open pits are marked or covered. A pit in clay is a bucket that fills with water: give it a way out first.
        </p>
      )}
    </section>
  );
}

/** The bill by groups; each line opens how it follows, and its price can be set where it stands. */
export function TakesTable({ plan, price }: { plan: Plan; price?: boolean }) {
  const cost = plan.figures.find((f) => f.path === "bill.cost");
  if (plan.bill.length === 0) return null;
  const keep = (l: Line, each: number | undefined) => {
    if (each === undefined) return;
    void patchEstate((e) => ({
      prices: [...(e.prices ?? []), { item: l.item, unit: l.unit, each, on: plan.today, source: "" }],
    })).then(() => say(`The price of ${l.what} is kept in Stores`), sayError);
  };
  const hours: Column<Line>[] = plan.bill.some((l) => l.hours)
    ? [{ head: "hours", className: "text-sm text-faint", cell: (l) => l.hours }]
    : [];
  const each: Column<Line> = {
    head: "price each",
    num: true,
    className: "no-print",
    cell: (l) =>
      l.item && (
        <NumberField
          hidden
          label={`Price of ${l.what}, for each ${l.unit}`}
          unit={l.unit}
          quantity="plain"
          width="w-20"
          value={undefined}
          keep={(v) => keep(l, v)}
        />
      ),
  };
  return (
    <BillTable
      label="What establishing the planting takes"
      lines={plan.bill}
      beside={price ? [...hours, each] : hours}
      together={{ cost: cost?.text }}
      how={(l) => (
        <>
          {l.how}
          {l.with && (
            <>
              <br />= {l.with}
            </>
          )}
          <br />
          <span className="text-faint">
            {l.source}
            {l.item && `; priced by the ${l.unit}`}
            {l.anew && `; put up ${l.anew}`}
          </span>
        </>
      )}
    />
  );
}
