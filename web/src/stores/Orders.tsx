import { useOrders } from "../api/client";
import { BillTable } from "../shell/BillTable";
import { Busy, Trouble } from "../shell/States";
import { day } from "../units";

/** What the plans of all blocks take, summed, by the last day to order it. */
export function Orders() {
  const orders = useOrders();
  if (orders.isPending) return <Busy what="Adding up what the plans take" />;
  if (orders.error) return <Trouble error={orders.error} retry={() => void orders.refetch()} />;
  return (
    <section className="mt-2">
      <h2>To order</h2>
      {orders.data.length === 0 ? (
        <p className="text-faint">No block is planned that takes anything.</p>
      ) : (
        <BillTable
          label="To order"
          lines={orders.data}
          before={[
            {
              head: "at the latest",
              className: "whitespace-nowrap",
              cell: (o) => (
                <span className={o.late ? "font-semibold text-decide" : ""}>
                  {day(o.by)}
                  {o.late && <span className="block text-sm">its day has passed</span>}
                </span>
              ),
            },
          ]}
          beside={[{ head: "for", className: "text-faint", cell: (o) => [...new Set(o.blocks)].join(", ") }]}
        />
      )}
    </section>
  );
}
