import { Table } from "../shell/Table";
import { useState } from "react";
import { useLists, type Schema } from "../api/client";
import { position } from "../drains/types";
import { NumberField, Pick, TextField } from "../shell/Fields";
import { PlanSheet } from "../draw/PlanSheet";
import { laid } from "../block/draft";
import { stands } from "../block/paths";
import type { StepProps } from "../block/stepProps";

type Obstacle = Schema["Obstacle"];
type Headland = Schema["Headland"];

const sides = ["north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"].map((words, i) => ({
  id: String(i * 45),
  words,
}));
/** What takes no plants on the block, drawn on its plan, and the headland of every side. */
export function Obstacles({ plan, doc, draft, season }: StepProps) {
  const lists = useLists();
  const [kind, setKind] = useState("wet spot");
  const [sketch, setSketch] = useState<number[][]>();
  const kinds = lists.data?.obstacleKinds.map((k) => k.kind) ?? [kind];
  const usual = lists.data?.obstacleKinds.find((k) => k.kind === kind);
  const list = doc.block.obstacles ?? [];
  const headlands = doc.block.planting?.layout.headlands ?? [];
  const put = (make: (now: Obstacle[]) => Obstacle[], done?: string) =>
    void draft.commit((b) => ({ obstacles: make(b.obstacles ?? []) }), done);
  const change = (id: string | undefined, part: Partial<Obstacle>) =>
    put((now) => now.map((o) => (o.id === id ? { ...o, ...part } : o)));
  const sidesTo = (make: (now: Headland[]) => Headland[]) =>
    void draft.commit((b) => ({ planting: { layout: { headlands: make(b.planting?.layout.headlands ?? []) } } }));
  const made = (points: number[][], area: boolean): Obstacle => ({
    kind,
    name: "",
    area,
    points: points.map((p) => position(plan, p)),
    widthM: area ? 0 : (usual?.widthM ?? 0),
    keepM: usual?.keepM ?? 0,
  });
  const close = (area: boolean) => {
    const points = sketch ?? [];
    setSketch(undefined);
    if (points.length > 0) put((now) => [...now, made(points, area)], `${kind} drawn; undo takes it off`);
  };
  return (
    <div className="py-2">
      <PlanSheet
        plan={plan}
        season={season}
        height={320}
        sketch={sketch}
        pick={
          sketch &&
          ((at) => {
            const next = [...sketch, at];
            setSketch(next);
            void draft.ask({ obstacles: [...list, made(next, next.length > 2)] }, [...laid, "obstacles"]);
          })
        }
      />
      <div className="no-print flex flex-wrap items-end gap-2">
        {sketch ? (
          <>
            <p className="pb-1 text-sm text-faint">
              Press on the plan: one point for a spot, several for a line or an area. {sketch.length || "No"} point
              {sketch.length === 1 ? "" : "s"} so far.
            </p>
            <button className="act act-first" disabled={sketch.length === 0} onClick={() => close(false)}>
              {sketch.length < 2 ? "It is a spot" : "It is a line"}
            </button>
            <button className="act" disabled={sketch.length < 3} onClick={() => close(true)}>
              It is an area
            </button>
            <button
              className="act"
              onClick={() => {
                setSketch(undefined);
                draft.drop();
              }}
            >
              Leave it
            </button>
          </>
        ) : (
          <>
            <Pick label="What is there" value={kind} options={kinds} keep={setKind} />
            <button className="act" onClick={() => setSketch([])}>
              Draw it on the plan
            </button>
          </>
        )}
      </div>
      {list.length > 0 && (
        <Table
          label="What takes no plants"
          className="mt-2"
          rows={list}
          id={(o) => o.id ?? ""}
          columns={[
            {
              head: "what",
              cell: (o) => <Pick label="Kind" hidden value={o.kind} options={kinds} keep={(k) => change(o.id, { kind: k })} />,
            },
            {
              head: "called",
              cell: (o) => <TextField label="Name" hidden width="w-32" value={o.name} keep={(name) => change(o.id, { name })} />,
            },
            {
              head: "width",
              num: true,
              cell: (o) =>
                o.area ? (
                  "area"
                ) : (
                  <NumberField
                    label="Width"
                    hidden
                    quantity="spacing"
                    width="w-16"
                    value={o.widthM}
                    keep={(v) => change(o.id, { widthM: v ?? 0 })}
                  />
                ),
            },
            {
              head: "kept free",
              num: true,
              cell: (o) => (
                <NumberField
                  label="Kept free"
                  hidden
                  quantity="spacing"
                  width="w-16"
                  value={o.keepM}
                  keep={(v) => change(o.id, { keepM: v ?? 0 })}
                />
              ),
            },
          ]}
          takeOut={{ what: (o) => o.name || o.kind, done: (o) => put((now) => now.filter((x) => x.id !== o.id)) }}
        />
      )}
      {list.some((o) => o.kind === "power line" || o.kind === "drain line") && (
        <p className="mt-1 max-w-prose text-sm text-straw">
          Before posts are driven or trees planted near a power line or a buried pipe, ask its owner what must be kept free, and
          have buried services marked.
        </p>
      )}
      {!stands(plan) && (
        <section className="mt-4" aria-label="Headlands by side">
          <h2>Headlands by side</h2>
          <p className="text-sm text-faint">In place of the edge band, along the sides that face a direction.</p>
          {headlands.map((h, i) => (
            <div key={i} className="mt-1 flex flex-wrap items-end gap-2">
              <Pick
                label="Side"
                hidden
                value={String(h.towardDeg)}
                options={sides}
                keep={(v) => sidesTo((now) => now.map((x, k) => (k === i ? { ...x, towardDeg: Number(v) } : x)))}
              />
              <NumberField
                label={`Headland ${i + 1}`}
                hidden
                quantity="spacing"
                value={h.widthM}
                keep={(v) => v !== undefined && sidesTo((now) => now.map((x, k) => (k === i ? { ...x, widthM: v } : x)))}
              />
              <button
                className="act px-1.5"
                aria-label={`Take headland ${i + 1} off`}
                onClick={() => sidesTo((now) => now.filter((_, k) => k !== i))}
              >
                ×
              </button>
            </div>
          ))}
          <button
            className="act mt-1"
            onClick={() => sidesTo((now) => [...now, { towardDeg: (now.length * 90) % 360, widthM: 8 }])}
          >
            Add a headland
          </button>
        </section>
      )}
    </div>
  );
}
