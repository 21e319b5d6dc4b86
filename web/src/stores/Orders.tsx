import { patchEstate, useEstate, useOrders, type Schema } from "../api/client";
import { DayField, NumberField, TextField } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Busy, Trouble } from "../shell/States";
import { Table, type Column } from "../shell/Table";
import { useReading } from "../shell/reading";
import { day } from "../units";

type Order = Schema["Order"];
type Delivery = Schema["Delivery"];

/** What the plans of all blocks take: needed, in store, on order and short, by the last day to order it. */
export function Orders({ today }: { today: string }) {
  const orders = useOrders();
  const estate = useEstate();
  const { text } = useReading();
  if (orders.isPending || estate.isPending) return <Busy what="Adding up what the plans take" />;
  if (!orders.data || !estate.data) return <Trouble error={orders.error ?? estate.error} retry={() => void orders.refetch()} />;
  const list = estate.data.estate.deliveries ?? [];
  const put = (make: (now: Delivery[]) => Delivery[], done: string) =>
    void patchEstate((e) => ({ deliveries: make(e.deliveries ?? []) })).then(() => say(done), sayError);
  const order = (o: Order) =>
    put(
      (now) => [
        ...now,
        {
          item: o.item,
          what: o.what,
          supplier: "",
          ordered: today,
          due: o.by > today ? o.by : today,
          amount: o.short,
          got: 0,
          refused: 0,
          why: "",
        },
      ],
      `${o.what}: say from whom, and when it comes`,
    );
  const amount = (head: string, of: (o: Order) => number, loud = false): Column<Order> => ({
    head,
    num: true,
    className: "whitespace-nowrap",
    cell: (o) =>
      of(o) > 0 ? (
        <span className={loud ? "font-semibold" : ""}>{text(of(o), o.quantity)}</span>
      ) : (
        <span className="text-faint">–</span>
      ),
  });
  return (
    <section className="mt-2">
      <h2>To order</h2>
      {orders.data.length === 0 ? (
        <p className="text-faint">No block is planned that takes anything.</p>
      ) : (
        <Table
          label="To order"
          rows={orders.data}
          id={(o) => o.item}
          group={(o) => o.group || "Ordered, and no plan asks for it any more"}
          columns={[
            {
              head: "at the latest",
              className: "whitespace-nowrap",
              cell: (o) => (
                <span className={o.late ? "font-semibold text-decide" : o.short > 0 ? "" : "text-faint"}>
                  {day(o.by)}
                  {o.late && <span className="block text-sm">its day has passed</span>}
                </span>
              ),
            },
            { head: "what", cell: (o) => o.what },
            amount("still to use", (o) => o.amount),
            amount("in store", (o) => o.inStore),
            amount("on order", (o) => o.onOrder),
            amount("short", (o) => o.short, true),
            {
              head: "cost of that",
              num: true,
              className: "whitespace-nowrap",
              cell: (o) => o.short > 0 && <span className={o.costText === "no price" ? "text-faint" : ""}>{o.costText}</span>,
            },
            { head: "for", className: "text-faint", cell: (o) => [...new Set(o.blocks)].join(", ") },
            {
              head: <span className="sr-only">order</span>,
              className: "no-print",
              cell: (o) =>
                o.short > 0 && (
                  <button className="act" onClick={() => order(o)}>
                    Order it<span className="sr-only">: {o.what}</span>
                  </button>
                ),
            },
          ]}
        />
      )}
      {list.length > 0 && <Deliveries list={list} orders={orders.data} put={put} today={today} />}
    </section>
  );
}

/** What was ordered, by supplier: when it is to come, what came, and what was sent back and why. */
function Deliveries({
  list,
  orders,
  put,
  today,
}: {
  list: Delivery[];
  orders: Order[];
  put: (make: (now: Delivery[]) => Delivery[], done: string) => void;
  today: string;
}) {
  const of = (d: Delivery) => orders.find((o) => o.item === d.item);
  const change = (d: Delivery, part: Partial<Delivery>, done = `${d.what} is kept`) =>
    put((now) => now.map((x) => (x.id === d.id ? { ...x, ...part } : x)), done);
  const number = (head: string, k: "amount" | "got" | "refused"): Column<Delivery> => ({
    head,
    num: true,
    cell: (d) =>
      k === "amount" || d.arrived ? (
        <NumberField
          label={`${d.what}, ${head}`}
          hidden
          quantity={of(d)?.quantity ?? "count"}
          width="w-20"
          value={d[k] || undefined}
          keep={(v) => change(d, { [k]: v ?? 0 })}
        />
      ) : null,
  });
  return (
    <>
      <h2 className="mt-5">Ordered</h2>
      <Table
        label="Ordered"
        rows={list}
        id={(d) => d.id ?? ""}
        group={(d) => d.supplier || "Supplier not said"}
        columns={[
          {
            head: "what",
            cell: (d) => (
              <>
                {d.what}
                {!d.arrived && of(d)?.onArrival && <span className="block text-sm text-faint">{of(d)!.onArrival}</span>}
              </>
            ),
          },
          {
            head: "from",
            cell: (d) => (
              <TextField
                label={`Supplier of ${d.what}`}
                hidden
                width="w-36"
                value={d.supplier}
                keep={(supplier) => change(d, { supplier })}
              />
            ),
          },
          { head: "ordered", className: "whitespace-nowrap", cell: (d) => day(d.ordered) },
          {
            head: "to come on",
            cell: (d) => (
              <>
                <DayField label={`${d.what}, to come on`} hidden value={d.due ?? ""} keep={(due) => change(d, { due })} />
                {!d.arrived && d.due && d.due < today && <span className="block text-sm text-decide">overdue</span>}
              </>
            ),
          },
          number("how much", "amount"),
          {
            head: "came on",
            cell: (d) =>
              d.arrived ? (
                <DayField label={`${d.what}, came on`} hidden value={d.arrived} keep={(arrived) => change(d, { arrived })} />
              ) : (
                <button
                  className="act"
                  onClick={() =>
                    put(
                      (now) => now.map((x) => (x.id === d.id ? { ...x, arrived: today, got: x.amount } : x)),
                      `${d.what}: it came; say what was poor`,
                    )
                  }
                >
                  It came<span className="sr-only">: {d.what}</span>
                </button>
              ),
          },
          number("came", "got"),
          number("sent back", "refused"),
          {
            head: "why, what was found",
            cell: (d) =>
              d.arrived && (
                <TextField
                  label={`${d.what}, what was found`}
                  hidden
                  width="w-40"
                  value={d.why}
                  keep={(why) => change(d, { why })}
                />
              ),
          },
        ]}
        takeOut={{
          what: (d) => `the order of ${d.what}`,
          done: (d) => put((now) => now.filter((x) => x.id !== d.id), "The order is taken out; undo brings it back"),
        }}
      />
    </>
  );
}
