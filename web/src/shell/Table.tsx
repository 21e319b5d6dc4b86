import { Fragment, type ReactNode } from "react";
import { Wide } from "./Wide";

/** Column of a table: what stands over it, and what stands in it for a row. */
export interface Column<T> {
  head: ReactNode;
  num?: boolean; // numbers stand to the right
  className?: string;
  cell: (row: T, i: number) => ReactNode;
}

/**
 * Table is a list that is read or changed where it stands. A row can be taken out, stand under a heading, and open a
 * line of its own below it.
 */
export function Table<T>({
  label,
  columns,
  rows,
  id = (_, i) => i,
  tone,
  takeOut,
  group,
  below,
  foot,
  className = "",
}: {
  label: string;
  columns: readonly Column<T>[];
  rows: readonly T[];
  id?: (row: T, i: number) => string | number;
  tone?: (row: T, i: number) => string;
  takeOut?: { what: (row: T, i: number) => string; done: (row: T, i: number) => void };
  group?: (row: T) => string;
  below?: (row: T, i: number) => ReactNode; // "" or nothing for none
  foot?: ReactNode;
  className?: string;
}) {
  const wide = columns.length + (takeOut ? 1 : 0);
  const line = (row: T, i: number) => {
    const more = below?.(row, i);
    return (
      <Fragment key={id(row, i)}>
        <tr className={tone?.(row, i)}>
          {columns.map((c, k) => (
            <td key={k} className={`${c.num ? "num" : ""} ${c.className ?? ""}`}>
              {c.cell(row, i)}
            </td>
          ))}
          {takeOut && (
            <td className="no-print">
              <button
                className="act px-1.5"
                aria-label={`Take out ${takeOut.what(row, i)}`}
                title={`Take out ${takeOut.what(row, i)}`}
                onClick={() => takeOut.done(row, i)}
              >
                ×
              </button>
            </td>
          )}
        </tr>
        {more && (
          <tr>
            <td colSpan={wide} className="bg-soil text-sm">
              {more}
            </td>
          </tr>
        )}
      </Fragment>
    );
  };
  const groups = group && [...new Set(rows.map(group))];
  return (
    <Wide label={label} className={className}>
      <table className="tbl">
        <caption className="sr-only">{label}</caption>
        <thead>
          <tr>
            {columns.map((c, k) => (
              <th key={k} className={`${c.num ? "num" : ""} ${c.className ?? ""}`}>
                {c.head}
              </th>
            ))}
            {takeOut && (
              <th className="no-print">
                <span className="sr-only">take out</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {groups
            ? groups.map((g) => (
                <Fragment key={g}>
                  <tr>
                    <td colSpan={wide} className="pt-3 font-semibold">
                      {g}
                    </td>
                  </tr>
                  {rows.map((row, i) => (group(row) === g ? line(row, i) : null))}
                </Fragment>
              ))
            : rows.map(line)}
        </tbody>
        {foot && <tfoot>{foot}</tfoot>}
      </table>
    </Wide>
  );
}
