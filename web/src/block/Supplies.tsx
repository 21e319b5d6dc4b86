import type { Plan } from "../api/client";
import { useReading } from "../shell/reading";
import { day } from "../units";

/** What the work to the end of the first year takes besides plants, by the day it must be there. */
export function Supplies({ plan }: { plan: Plan }) {
  const { text } = useReading();
  if (plan.supplies.length === 0) return null;
  return (
    <section className="mt-4">
      <h2 className="text-base">To have ready besides the plants</h2>
      <div className="overflow-x-auto">
        <table className="tbl">
          <thead>
            <tr>
              <th>what</th>
              <th className="num">how much</th>
              <th>by</th>
              <th>how it follows</th>
            </tr>
          </thead>
          <tbody>
            {plan.supplies.map((s, i) => (
              <tr key={i}>
                <td>
                  <b>{s.what}</b> <span className="text-faint">{s.for}</span>
                </td>
                <td className="num">
                  {text(s.amount.base, s.quantity)}
                  {s.amount.low !== s.amount.high && (
                    <span className="block text-sm text-faint">
                      {text(s.amount.low, s.quantity)} to {text(s.amount.high, s.quantity)}
                    </span>
                  )}
                </td>
                <td className="whitespace-nowrap">{day(s.by)}</td>
                <td className="text-sm text-faint">
                  {s.how}
                  <br />
                  {s.origin}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
