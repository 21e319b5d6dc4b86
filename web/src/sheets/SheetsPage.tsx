import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { changeSheets, useSheet, useSheets, write, type Schema } from "../api/client";
import { FileButton, Tabs } from "../shell/Fields";
import { say, sayError } from "../shell/Notices";
import { Busy, Empty, Trouble } from "../shell/States";
import { Compare } from "./Compare";
import { LifeDrawing } from "./LifeDrawing";
import { Ours } from "./Ours";
import { SheetView } from "./SheetView";

/** The practice sheets: what is usually done, crop by crop; those of the estate stand beside those of the library. */
export default function SheetsPage() {
  const { id } = useParams();
  const sheets = useSheets();
  if (sheets.isPending) return <Busy what="Reading the sheets" />;
  if (sheets.error) return <Trouble error={sheets.error} />;
  const sheet = sheets.data.find((s) => s.id === (id ?? sheets.data[0]?.id));
  const own = sheets.data.filter((s) => s.from);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 px-5 py-4 md:grid-cols-[11rem_minmax(0,1fr)]">
      <nav aria-label="Sheets">
        <h2>Practice sheets</h2>
        <Names sheets={sheets.data.filter((s) => !s.from)} on={sheet} />
        {own.length > 0 && <h2 className="mt-4">Our own</h2>}
        <Names sheets={own} on={sheet} />
        <ReadIn />
      </nav>
      {sheet ? (
        <Opened key={sheet.id} s={sheet} all={sheets.data} />
      ) : (
        <Empty title="There is no such sheet">Choose one from the list.</Empty>
      )}
    </div>
  );
}

function Names({ sheets, on }: { sheets: Schema["Sheet"][]; on?: Schema["Sheet"] }) {
  return (
    <ul className="mt-2 space-y-1 max-md:flex max-md:flex-wrap max-md:gap-4">
      {sheets.map((s) => (
        <li key={s.id}>
          <Link
            to={`/sheets/${s.id}`}
            aria-current={s === on ? "page" : undefined}
            className={s === on ? "border-b-2 border-ink font-semibold" : "text-faint hover:text-ink"}
          >
            {s.name}
          </Link>
        </li>
      ))}
    </ul>
  );
}

/** ReadIn takes a sheet from a file. */
function ReadIn() {
  const go = useNavigate();
  return (
    <div className="no-print mt-4">
      <FileButton
        label="Read a sheet from a file"
        accept=".yaml,.yml,.txt"
        most={2}
        take={(_, text) =>
          void changeSheets(() => write.takeSheet(text)).then((d) => {
            say("The sheet is read in");
            void go(`/sheets/${d.id}`);
          }, sayError)
        }
        refuse={sayError}
      />
    </div>
  );
}

function Opened({ s, all }: { s: Schema["Sheet"]; all: Schema["Sheet"][] }) {
  const [tab, turn] = useState<"read" | "compare" | "ours">("read");
  const doc = useSheet(s.id);
  if (doc.isPending) return <Busy what={`Opening ${s.name}`} />;
  if (doc.error) return <Trouble error={doc.error} />;
  const d = doc.data;
  const base = all.find((x) => x.id === s.from);
  return (
    <article className="min-w-0">
      <h1>
        {s.name} <i className="text-lg font-normal">{s.botanical}</i>
      </h1>
      <p className="text-sm text-faint">
        {base ? (
          <>
            Ours, from{" "}
            <Link className="underline" to={`/sheets/${base.id}`}>
              {base.name}
            </Link>
            : {d.differences.length === 0 ? "nothing differs yet" : `${d.differences.length} values differ`}.{" "}
          </>
        ) : (
          `Version ${s.version}. `
        )}
        {d.fromMemory} of {d.entries} entries rest on memory and are to be verified.{" "}
        <Link className="underline" to={`/fit/${s.id}`}>
          Where could it stand?
        </Link>
      </p>
      {d.lives.length > 0 && <LifeDrawing lives={d.lives} />}
      <div className="no-print mt-3 flex flex-wrap items-end justify-between gap-3">
        <Tabs
          label="Of the sheet"
          on={tab}
          turn={turn}
          tabs={[
            ["read", "What it says"],
            ["compare", "Side by side"],
            ["ours", d.own ? "Change it" : "Make it ours"],
          ]}
        />
        <a className="act" href={`/api/v1/sheets/${s.id}/file`} download>
          As a file
        </a>
      </div>
      {tab === "read" && <SheetView s={s} />}
      {tab === "compare" && <Compare s={s} doc={d} all={all} />}
      {tab === "ours" && <Ours s={s} doc={d} />}
    </article>
  );
}
