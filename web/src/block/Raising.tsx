import { useState } from "react";
import { useLists, type Schema } from "../api/client";
import { NumberField, Pick, TextField } from "../shell/Fields";
import { Table } from "../shell/Table";
import { useReading } from "../shell/reading";
import { day } from "../units";
import type { StepProps } from "./stepProps";

type Stage = NonNullable<Schema["Planting"]["raising"]>["stages"][number];

const fresh = () => Math.random().toString(36).slice(2, 8);

/** The plants raised by ourselves, or for us: stages counted back from planting on their longest times, and how many each begins with. */
export function Raising({ plan, doc, draft }: StepProps) {
  const lists = useLists();
  const { number } = useReading();
  const [way, setWay] = useState("graft");
  const ways = lists.data?.raisingWays ?? [];
  const raising = doc.block.planting?.raising;
  const put = (make: (now: Stage[]) => Stage[], done?: string) =>
    void draft.commit((b) => {
      const now = b.planting?.raising;
      const stages = make(now?.stages ?? []);
      return { planting: { raising: stages.length > 0 ? { way: "", ...now, stages } : null } };
    }, done);
  const change = (id: string, part: Partial<Stage>) => put((now) => now.map((s) => (s.id === id ? { ...s, ...part } : s)));
  const begin = () => {
    const w = ways.find((x) => x.id === way) ?? ways[0];
    if (!w) return;
    const stages = w.stages.map((s) => ({
      id: fresh(),
      name: s.name,
      least: s.least,
      most: s.most,
      lossPct: Math.round(s.loss * 100),
      ...(s.places > 0 && { places: s.places, litres: s.litres }),
    }));
    void draft.commit({ planting: { raising: { way, stages } } }, "Usual times and losses; change them to yours");
  };
  const from = ways.find((w) => w.id === raising?.way);
  return (
    <section className="mt-5" aria-label="Raising the plants">
      <h2>Raised by ourselves, or for us</h2>
      {!raising ? (
        <div className="no-print mt-1 flex flex-wrap items-end gap-2">
          <Pick label="How" value={way} options={ways.map((w) => ({ id: w.id, words: w.name }))} keep={setWay} />
          <button className="act" disabled={ways.length === 0} onClick={begin}>
            Plan the nursery
          </button>
          <span className="pb-1 text-sm text-faint">where they are not bought ready to plant</span>
        </div>
      ) : (
        <>
          <Table
            label="Stages of the nursery"
            className="mt-1"
            rows={raising.stages}
            id={(s) => s.id}
            columns={[
              {
                head: "stage",
                cell: (s) => (
                  <TextField
                    label={`Name of the stage ${s.name}`}
                    hidden
                    width="w-44"
                    value={s.name}
                    keep={(name) => name && change(s.id, { name })}
                  />
                ),
              },
              ...(["least", "most"] as const).map((k) => ({
                head: k === "least" ? "days least" : "most",
                num: true,
                cell: (s: Stage) => (
                  <NumberField
                    label={`${s.name}, days at ${k === "least" ? "least" : "most"}`}
                    hidden
                    quantity="count"
                    width="w-16"
                    value={s[k]}
                    keep={(v) => v !== undefined && change(s.id, { [k]: Math.round(v) })}
                  />
                ),
              })),
              {
                head: "lost, %",
                num: true,
                cell: (s) => (
                  <NumberField
                    label={`${s.name}, lost`}
                    hidden
                    quantity="percent"
                    width="w-16"
                    value={s.lossPct}
                    keep={(v) => change(s.id, { lossPct: v ?? 0 })}
                  />
                ),
              },
              {
                head: "tray holds",
                num: true,
                cell: (s) => (
                  <NumberField
                    label={`${s.name}, places a tray or pot has`}
                    hidden
                    quantity="count"
                    width="w-16"
                    value={s.places || undefined}
                    keep={(v) => change(s.id, v ? { places: Math.round(v) } : { places: 0, litres: 0 })}
                  />
                ),
              },
              {
                head: "substrate each, L",
                num: true,
                cell: (s) =>
                  !!s.places && (
                    <NumberField
                      label={`${s.name}, litres of substrate in each place`}
                      hidden
                      quantity="plain"
                      width="w-16"
                      value={s.litres || undefined}
                      keep={(v) => change(s.id, { litres: v ?? 0 })}
                    />
                  ),
              },
            ]}
            takeOut={{
              what: (s) => `the stage ${s.name}`,
              done: (s) => put((now) => now.filter((x) => x.id !== s.id), "The stage is taken out; undo brings it back"),
            }}
          />
          <Table
            label="The stages counted back"
            className="mt-2"
            rows={plan.raised}
            id={(r) => r.id}
            columns={[
              { head: "stage", cell: (r) => r.name },
              {
                head: "begun by, to be safe",
                className: "whitespace-nowrap",
                cell: (r) => <b className={r.safe < plan.today ? "text-decide" : ""}>{day(r.safe)}</b>,
              },
              { head: "at the very latest", className: "whitespace-nowrap text-faint", cell: (r) => day(r.hopeful) },
              { head: "begun with", num: true, cell: (r) => number(r.begun, "count") },
              { head: "left", num: true, cell: (r) => number(r.left, "count") },
            ]}
          />
          <TakenToRaise plan={plan} />
          <div className="no-print mt-2 flex flex-wrap items-end gap-2">
            <NumberField
              label="One mother plant gives"
              unit="pieces"
              quantity="plain"
              width="w-20"
              value={raising.perMother || undefined}
              keep={(v) => void draft.commit((b) => ({ planting: { raising: { ...b.planting!.raising, perMother: v ?? 0 } } }))}
            />
            <button
              className="act"
              onClick={() =>
                put(
                  (now) => [...now, { id: fresh(), name: `Stage ${now.length + 1}`, least: 30, most: 30, lossPct: 0 }],
                  "A stage is added",
                )
              }
            >
              Add a stage
            </button>
            <button
              className="act"
              onClick={() =>
                void draft.commit({ planting: { raising: null } }, "They are bought again; undo brings the stages back")
              }
            >
              Buy them instead
            </button>
          </div>
          <p className="mt-1 max-w-prose text-sm text-faint">
            Counted back from planting on {day(plan.cropDate)} on the longest times; each stage is a job with the others.
            {from && ` Usual times: ${from.source}.`}
          </p>
        </>
      )}
    </section>
  );
}

/** What raising takes beside its work: mother plants, trays and pots, substrate. */
function TakenToRaise({ plan }: { plan: StepProps["plan"] }) {
  const { text } = useReading();
  const takes = plan.supplies.filter((s) => s.key.startsWith("raise-"));
  if (takes.length === 0) return null;
  return (
    <Table
      label="What raising them takes"
      className="mt-2"
      rows={takes}
      id={(s) => s.key + s.what}
      columns={[
        { head: "what", cell: (s) => s.what },
        { head: "for", cell: (s) => s.for, className: "text-faint" },
        { head: "by", cell: (s) => day(s.by), className: "whitespace-nowrap" },
        { head: "how many", num: true, cell: (s) => text(s.amount.base, s.quantity) },
        { head: "counted from", cell: (s) => s.how, className: "text-faint" },
      ]}
    />
  );
}
