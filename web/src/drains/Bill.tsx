import { BillTable } from "../shell/BillTable";
import { useState } from "react";
import { Link } from "react-router";
import { changed, write } from "../api/client";
import type { StepProps } from "../block/stepProps";
import { FileButton } from "../shell/Fields";
import { say } from "../shell/Notices";
import { ErrorText } from "../shell/States";
import { useReading } from "../shell/reading";
import type { Drains } from "./types";
import { toBlock } from "../block/paths";

/** The lines of the bill, on the screen and on paper. */
export function DrainBill({ drains: d }: { drains: Drains }) {
  const { text } = useReading();
  return (
    <BillTable
      label="Bill of quantities"
      lines={d.bill}
      beside={[{ head: "note", className: "text-sm text-faint", cell: (l) => l.note }]}
      together={{ amount: text(d.machineH, "hours"), cost: d.costText }}
    />
  );
}

/** What the design takes, in what order it is laid, and the files that go to who digs it. */
export function Bill({ plan, doc }: StepProps) {
  const [error, setError] = useState<unknown>();
  const d = plan.drains;
  const base = `/api/v1/blocks/${doc.id}/setting-out`;
  return (
    <div>
      {d.bill.length === 0 ? (
        <p className="max-w-prose text-faint">Nothing is designed yet, so nothing has to be bought.</p>
      ) : (
        <DrainBill drains={d} />
      )}
      <div className="no-print mt-4 flex flex-wrap items-center gap-2">
        {(d.network || d.cut) && (
          <>
            <span>For setting out:</span>
            {(
              [
                ["csv", "Points, CSV"],
                ["gpx", "Points, GPX"],
                ["geojson", "Lines, GeoJSON"],
                ["dxf", "Lines, DXF"],
              ] as const
            ).map(([f, words]) => (
              <a key={f} className="act" href={`${base}/${f}`} download>
                {words}
              </a>
            ))}
            <Link className="act" to={toBlock(doc.id, "drains/print")}>
              Print plan and sections
            </Link>
          </>
        )}
        <FileButton
          label="Read lines from GeoJSON"
          accept=".geojson,.json,application/geo+json"
          most={8}
          take={(name, text) => {
            setError(undefined);
            write
              .drains(doc, { name, text })
              .then(() => say(`The drains of ${name} are taken; undo brings the old ones back`), setError)
              .finally(() => void changed());
          }}
          refuse={setError}
        />
      </div>
      {error !== undefined && <ErrorText error={error} />}
      <Laying drains={d} />
    </div>
  );
}

/** The order of the work, and what keeps people safe. */
export function Laying({ drains: d }: { drains: Drains }) {
  if (d.laying.length === 0) return null;
  return (
    <div className="mt-4 grid gap-x-8 sm:grid-cols-2">
      <div>
        <h2>In this order</h2>
        <ol className="mt-1 list-decimal pl-5">
          {d.laying.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ol>
      </div>
      <div>
        <h2>With care</h2>
        <ul className="mt-1 list-disc pl-5">
          {d.cautions.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ul>
      </div>
    </div>
  );
}
