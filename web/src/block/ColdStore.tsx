import { useReading } from "../shell/reading";
import { DayField, NumberField } from "../shell/Fields";
import { Table } from "../shell/Table";
import { useLists, type Schema } from "../api/client";
import { day } from "../units";
import type { StepProps } from "./stepProps";

type Store = Schema["ColdStore"];

/** The bins the stock lies in, and the floor and the cooling they take. */
function RoomOf({
  store,
  said,
  put,
}: {
  store: NonNullable<Schema["Stored"]>;
  said: Store;
  put: (store: Record<string, unknown>, done?: string) => void;
}) {
  const { text } = useReading();
  const lists = useLists();
  const room = said.room;
  if (!room)
    return (
      <button
        className="act no-print mt-2"
        onClick={() => put({ room: lists.data?.storeRoom }, "Say how many lie in a bin, and how large it is")}
      >
        How much room they take
      </button>
    );
  const field = (key: keyof typeof room, label: string, quantity: string, unit?: string) => (
    <NumberField
      label={label}
      quantity={quantity}
      unit={unit}
      width="w-20"
      value={room[key] || undefined}
      keep={(v) => put({ room: { [key]: v ?? null } })}
    />
  );
  const r = store.room;
  return (
    <div className="mt-3">
      <div className="no-print flex flex-wrap items-end gap-3">
        {field("perBin", "Plants in a bin", "count")}
        {field("lengthM", "Bin, length", "spacing")}
        {field("widthM", "width", "spacing")}
        {field("heightM", "height", "spacing")}
        {field("stack", "On one another", "count", "bins")}
        {field("floorM2", "Floor there is", "floor")}
        {field("kgEach", "A plant weighs", "plain", "kg")}
        {field("fromC", "Come in at", "temp")}
        {field("hours", "Cooled in", "hours")}
        <button className="act" onClick={() => put({ room: null }, "Bins are not asked for; undo brings them back")}>
          Leave the room out
        </button>
      </div>
      {r && (
        <p className="mt-1">
          <b>{text(r.floorM2, "floor")}</b> of floor for {text(r.bins, "count")} bins on {text(r.positions, "count")} stacks,{" "}
          {text(r.volumeM3, "earth")} of room
          {r.coolKW > 0 && (
            <>
              ; <b>{Math.round(r.coolKW * 10) / 10} kW</b> of cooling, {Math.round(r.pullKW * 10) / 10} kW of it to bring them
              down
            </>
          )}
          .
        </p>
      )}
    </div>
  );
}

const fresh = () => Math.random().toString(36).slice(2, 8);

/** Dormant stock kept cold until it is planted: its days, its temperature, and the cold it has had by then. */
export function ColdStore({ plan, doc, draft }: StepProps) {
  const { text } = useReading();
  const s = plan.store;
  const said = doc.block.planting?.store;
  if (!s) return null;
  const put = (store: Record<string, unknown> | null, done?: string) => void draft.commit({ planting: { store } }, done);
  const readings = (make: (now: NonNullable<Store["readings"]>) => NonNullable<Store["readings"]>, done: string) =>
    void draft.commit((b) => ({ planting: { store: { readings: make(b.planting?.store?.readings ?? []) } } }), done);
  return (
    <section className="mt-5" aria-label="Cold store">
      <h2>Cold store</h2>
      <p className="max-w-prose text-sm text-faint">
        {s.of}: {text(s.lowC, "temp")} to {text(s.highC, "temp")}, {s.mostDays} days at most
        {s.needH > 0 && `, ${text(s.needH, "hours")} of cold before planting`}; {s.says}.
      </p>
      {!said ? (
        <button
          className="act no-print mt-1"
          onClick={() => put({ lifted: plan.today, in: plan.today, out: "" }, "Say when they were lifted and when they went in")}
        >
          Kept in a cold store
        </button>
      ) : (
        <>
          <div className="no-print mt-1 flex flex-wrap items-end gap-3">
            <DayField label="Lifted, or cut" value={said.lifted} keep={(v) => v && put({ lifted: v })} />
            <DayField label="Into the store" value={said.in} keep={(v) => v && put({ in: v })} />
            <DayField label="Out; empty is the day of planting" value={said.out} keep={(v) => put({ out: v })} />
            <NumberField label="Set to" quantity="temp" width="w-20" value={s.setC} keep={(v) => put({ setC: v ?? null })} />
          </div>
          <p className="mt-2">
            <b>{text(s.days, "days")}</b> in the store until {day(s.out)}; they have to be out by <b>{day(s.latest)}</b>.
            {s.needH > 0 && (
              <>
                {" "}
                Cold: {s.fieldOk ? `${text(s.fieldH, "hours")} in the open` : "in the open unknown"}, {text(s.storeH, "hours")} in
                the store, <b>{text(s.fieldH + s.storeH, "hours")}</b> of {text(s.needH, "hours")}.
              </>
            )}
          </p>
          {(said.readings ?? []).length > 0 && (
            <Table
              label="Readings of the store"
              className="mt-2"
              rows={said.readings ?? []}
              id={(r) => r.id}
              columns={[
                { head: "read on", cell: (r) => day(r.on) },
                {
                  head: "temperature",
                  num: true,
                  cell: (r) => (
                    <span className={r.tempC < s.lowC || r.tempC > s.highC ? "font-semibold text-decide" : ""}>
                      {text(r.tempC, "temp")}
                    </span>
                  ),
                },
              ]}
              takeOut={{
                what: (r) => `the reading of ${day(r.on)}`,
                done: (r) => readings((now) => now.filter((x) => x.id !== r.id), "The reading is taken out; undo brings it back"),
              }}
            />
          )}
          <div className="no-print mt-2 flex flex-wrap items-end gap-3">
            <NumberField
              label="Read today"
              quantity="temp"
              width="w-20"
              value={undefined}
              keep={(v) =>
                v !== undefined &&
                readings((now) => [...now, { id: fresh(), on: plan.today, tempC: v }], "The reading is kept; undo takes it back")
              }
            />
            <button className="act" onClick={() => put(null, "No store; undo brings it back")}>
              Not kept in a store
            </button>
          </div>
          <RoomOf store={s} said={said} put={put} />
          <p className="mt-1 max-w-prose text-sm text-straw">
            Refrigerants and low oxygen kill: a way out that opens from inside, and nobody alone in the store.
          </p>
        </>
      )}
    </section>
  );
}
