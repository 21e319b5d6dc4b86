import { useOrders } from "../api/client";
import { Busy, Trouble } from "../shell/States";
import { useReading } from "../shell/reading";
import { Wide } from "../shell/Wide";
import { day } from "../units";

/** What the plans of all blocks take, summed, by the last day to order it. */
export function Orders() {
  const orders = useOrders();
  const { text } = useReading();
  if (orders.isPending) return <Busy what="Adding up what the plans take" />;
  if (orders.error) return <Trouble error={orders.error} retry={() => void orders.refetch()} />;
  return (
    <section className="mt-2">
      <h2>To order</h2>
      {orders.data.length === 0 ? (
        <p className="text-faint">No block is planned that takes anything.</p>
      ) : (
        <Wide label="To order">
          <table className="tbl">
            <caption className="sr-only">What the plans take, by the last day to order it</caption>
            <thead>
              <tr>
                <th>at the latest</th>
                <th>what</th>
                <th className="num">how much</th>
                <th className="num">cost</th>
                <th>for</th>
              </tr>
            </thead>
            <tbody>
              {orders.data.map((o) => (
                <tr key={o.what + o.by}>
                  <td className={`whitespace-nowrap ${o.late ? "font-semibold text-decide" : ""}`}>
                    {day(o.by)}
                    {o.late && <span className="block text-sm">its day has passed</span>}
                  </td>
                  <td>{o.what}</td>
                  <td className="num">{text(o.amount, o.quantity)}</td>
                  <td className={`num ${o.costText === "no price" ? "text-faint" : ""}`}>{o.costText}</td>
                  <td className="text-faint">{[...new Set(o.blocks)].join(", ")}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
      )}
    </section>
  );
}
