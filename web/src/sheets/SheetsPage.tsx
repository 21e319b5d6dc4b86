import { Link, useParams } from "react-router";
import { useLists, useSheets, type Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { Busy, Empty, Trouble } from "../shell/States";
import { Wide } from "../shell/Wide";

/** useFrom says where a value is from, in the words of the lists. */
function useFrom() {
  const lists = useLists();
  return (o: string) => lists.data?.origins.find((x) => x.id === o)?.words ?? o.replace(/^pub: /, "published: ");
}

/** The practice sheets: what is usually done, crop by crop, each value with where it is from. */
export default function SheetsPage() {
  const { id } = useParams();
  const sheets = useSheets();
  if (sheets.isPending) return <Busy what="Reading the sheets" />;
  if (sheets.error) return <Trouble error={sheets.error} />;
  const sheet = sheets.data.find((s) => s.id === (id ?? sheets.data[0]?.id));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 px-5 py-4 md:grid-cols-[11rem_minmax(0,1fr)]">
      <nav aria-label="Sheets">
        <h2>Practice sheets</h2>
        <ul className="mt-2 space-y-1 max-md:flex max-md:flex-wrap max-md:gap-4">
          {sheets.data.map((s) => (
            <li key={s.id}>
              <Link
                to={`/sheets/${s.id}`}
                aria-current={s === sheet ? "page" : undefined}
                className={s === sheet ? "border-b-2 border-ink font-semibold" : "text-faint hover:text-ink"}
              >
                {s.name}
              </Link>
            </li>
          ))}
        </ul>
      </nav>
      {sheet ? <SheetView s={sheet} /> : <Empty title="There is no such sheet">Choose one from the list.</Empty>}
    </div>
  );
}

function SheetView({ s }: { s: Schema["Sheet"] }) {
  const from = useFrom();
  const { text } = useReading();
  const as = s.product.showAs === "t" ? "yieldT" : "yieldKg";
  return (
    <article className="min-w-0">
      <h1>
        {s.name} <i className="text-lg font-normal">{s.botanical}</i>
      </h1>
      <p className="max-w-prose">
        {s.habit}. It lives {s.life.low === s.life.high ? s.life.low : `${s.life.low} to ${s.life.high}`} years
        {s.product.name && ` and gives ${s.product.name} (${s.product.basis})`}.{" "}
        {s.layouts.length === 0 &&
          "The sheet says what the ground must be and how it is prepared; it does not plan a planting yet."}
      </p>
      <p>
        <Link className="underline" to={`/fit/${s.id}`}>
          Where could it stand?
        </Link>
      </p>
      <p className="text-sm text-faint">
        Version {s.version}, {s.digest}
      </p>
      {s.layouts.length > 0 && (
        <Part title="Layouts">
          <thead>
            <tr>
              <th>way</th>
              <th className="num">plants</th>
              <th>when</th>
              <th>from</th>
            </tr>
          </thead>
          <tbody>
            {s.layouts.map((l) => (
              <tr key={l.id}>
                <td>
                  <b>{l.name}</b> {l.default && <span className="text-faint">usual</span>}
                  <br />
                  {l.sentence}
                  {l.product && (
                    <span className="block text-sm">
                      Gives {l.product.name} ({l.product.basis}).
                    </span>
                  )}
                  {l.life && (
                    <span className="block text-sm">
                      Lives {l.life.low} to {l.life.high} years.
                    </span>
                  )}
                </td>
                <td className="num whitespace-nowrap">{text(l.perHa, "perArea")}</td>
                <td>{l.when}</td>
                <td className="text-sm text-faint">{from(l.origin)}</td>
              </tr>
            ))}
          </tbody>
        </Part>
      )}
      {s.forks.map((f) => (
        <Part key={f.id} title={f.question}>
          <tbody>
            {f.options.map((o) => (
              <tr key={o.id}>
                <td>
                  <b>{o.name}</b> {o.default && <span className="text-faint">usual</span>}
                </td>
                <td>{o.sentence}</td>
                <td>{o.when}</td>
                <td className="text-sm text-faint">{from(o.origin)}</td>
              </tr>
            ))}
          </tbody>
        </Part>
      ))}
      <Part title="Limits of climate and soil">
        <thead>
          <tr>
            <th>factor</th>
            <th>ideal</th>
            <th>tolerated</th>
            <th>from</th>
          </tr>
        </thead>
        <tbody>
          {s.limits.map((l) => (
            <tr key={l.factor + l.ideal}>
              <td>
                <b>{l.factor}</b>
                {l.assumed && <span className="block text-sm text-faint">an edge it is judged by is assumed</span>}
              </td>
              <td>{l.ideal}</td>
              <td>{l.tolerated}</td>
              <td className="text-sm text-faint">{from(l.origin)}</td>
            </tr>
          ))}
        </tbody>
      </Part>
      {s.yields.length > 0 && (
        <Part title="Full yield">
          <tbody>
            {s.yields.map((y, i) => (
              <tr key={i}>
                <td className="whitespace-nowrap">
                  <b>{text(y.full.base, as)}</b>
                  <br />
                  <span className="text-faint">
                    {text(y.full.low, as)} to {text(y.full.high, as)}
                  </span>
                </td>
                <td>at {text(y.referencePerHa, "perArea")}</td>
                <td>{y.source}</td>
                <td className="text-sm text-faint">{from(y.origin)}</td>
              </tr>
            ))}
          </tbody>
        </Part>
      )}
      <Part title="Work">
        <thead>
          <tr>
            <th>job</th>
            <th>what</th>
            <th>why</th>
            <th>from</th>
          </tr>
        </thead>
        <tbody>
          {s.operations.map((o) => (
            <tr key={o.id}>
              <td>
                <b>{o.name}</b> <span className="text-faint">{o.phase}</span>
              </td>
              <td>
                {o.detail}
                {o.caution && (
                  <div className="text-sm">
                    <b>Caution:</b> {o.caution}
                  </div>
                )}
              </td>
              <td>{o.why}</td>
              <td className="text-sm text-faint">{from(o.origin)}</td>
            </tr>
          ))}
        </tbody>
      </Part>
      {[...s.notes, { title: "Cautions", notes: s.cautions }].map((n) => (
        <Part key={n.title} title={n.title}>
          <tbody>
            {n.notes.map((x) => (
              <tr key={x.item}>
                <td className="w-48">
                  <b>{x.item}</b>
                </td>
                <td>{x.value}</td>
                <td className="w-56 text-sm text-faint">{from(x.origin)}</td>
              </tr>
            ))}
          </tbody>
        </Part>
      ))}
    </article>
  );
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="mt-6">
      <h2>{title}</h2>
      <Wide label={title}>
        <table className="tbl mt-1">{children}</table>
      </Wide>
    </section>
  );
}
