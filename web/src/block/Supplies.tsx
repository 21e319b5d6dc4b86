import type { Plan } from "../api/client";
import { BillTable } from "../shell/BillTable";
import { useReading } from "../shell/reading";
import { day } from "../units";

/** What the work to the end of the first year takes besides plants, by the day it must be there. */
export function Supplies({ plan }: { plan: Plan }) {
  const { text } = useReading();
  if (plan.supplies.length === 0) return null;
  return (
    <section className="mt-4">
      <h2 className="text-base">To have ready besides the plants</h2>
      <BillTable
        costless
        label="To have ready besides the plants"
        lines={plan.supplies.map((s) => ({ ...s, amount: s.amount.base, range: s.amount, costText: "" }))}
        beside={[
          {
            head: "between",
            num: true,
            className: "text-sm whitespace-nowrap text-faint",
            cell: (s) => s.range.low !== s.range.high && `${text(s.range.low, s.quantity)} to ${text(s.range.high, s.quantity)}`,
          },
          { head: "for", className: "text-faint", cell: (s) => s.for },
          { head: "by", className: "whitespace-nowrap", cell: (s) => day(s.by) },
          {
            head: "how it follows",
            className: "text-sm text-faint",
            cell: (s) => (
              <>
                {s.how}
                <br />
                {s.origin}
              </>
            ),
          },
        ]}
      />
    </section>
  );
}
