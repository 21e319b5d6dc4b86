import { useState, type ReactNode } from "react";
import { useReading } from "./reading";
import { Table, type Column } from "./Table";

/** What every line of a bill has, whatever it is a bill of. */
export interface BillLine {
  what: ReactNode;
  amount: number;
  quantity: string;
  costText: string;
  group?: string;
}

/** BillTable is every bill of quantities: what, how much, what it costs, and what stands beside that; a line opens how it follows. */
export function BillTable<T extends BillLine>({
  label,
  lines,
  before = [],
  beside = [],
  how,
  together,
  costless,
}: {
  label: string;
  lines: readonly T[];
  before?: readonly Column<T>[];
  beside?: readonly Column<T>[];
  how?: (l: T) => ReactNode;
  together?: { amount?: ReactNode; cost: ReactNode };
  costless?: boolean; // it is counted, not priced
}) {
  const { text } = useReading();
  const [open, setOpen] = useState<number>();
  const columns: Column<T>[] = [
    ...before,
    {
      head: "what",
      cell: (l, i) =>
        how ? (
          <button
            className="press text-left font-normal"
            aria-expanded={open === i}
            onClick={() => setOpen(open === i ? undefined : i)}
          >
            {l.what}
          </button>
        ) : (
          l.what
        ),
    },
    { head: "how much", num: true, className: "whitespace-nowrap", cell: (l) => text(l.amount, l.quantity) },
    ...(costless
      ? []
      : [
          {
            head: "cost",
            num: true,
            className: "whitespace-nowrap min-w-28",
            cell: (l: T) => (l.costText === "no price" ? <span className="text-faint">{l.costText}</span> : l.costText),
          },
        ]),
    ...beside,
  ];
  return (
    <Table
      label={label}
      columns={columns}
      rows={lines}
      group={lines.some((l) => l.group) ? (l) => l.group ?? "" : undefined}
      below={how && ((l, i) => open === i && how(l))}
      foot={
        together && (
          <tr>
            <th colSpan={before.length + 1} className="text-left">
              together
            </th>
            <td className="num">{together.amount}</td>
            <td className="num font-semibold">{together.cost}</td>
            {beside.length > 0 && <td colSpan={beside.length} />}
          </tr>
        )
      }
    />
  );
}
