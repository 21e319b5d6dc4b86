import { useEffect, useState } from "react";
import { Link } from "react-router";
import { api, changed, take, useOverview, write, type Schema } from "../api/client";
import { DayField, NumberField, Pick } from "../shell/Fields";
import { say } from "../shell/Notices";
import { Busy, Empty, ErrorText, Trouble } from "../shell/States";
import { Table } from "../shell/Table";
import { useReading } from "../shell/reading";
import { day, dayNumber, fromDayNumber } from "../units";

type Wanted = Schema["SuccessionWanted"];
type Following = Schema["Succession"]["blocks"][number];

/** Plantings of one crop, one after another over several blocks, so that picking does not stop. */
export default function SuccessionPage() {
  const overview = useOverview();
  if (overview.isPending) return <Busy what="Computing every block" />;
  if (overview.error) return <Trouble error={overview.error} retry={() => void overview.refetch()} />;
  const open = overview.data.blocks.filter((b) => b.stage === "planned" || b.stage === "adopted");
  const crops = [...new Map(open.map((b) => [b.sheet, b.sheetName]))]
    .map(([id, words]) => ({ id, words, n: open.filter((b) => b.sheet === id).length }))
    .filter((c) => c.n > 1);
  return (
    <div className="px-5 py-4">
      <h1>Planted one after another</h1>
      <p className="max-w-prose text-faint">
        Blocks of one crop, planted so far apart that the picking of one begins before that of the last has ended.
      </p>
      {crops.length === 0 ? (
        <Empty title="No two blocks are planned with one crop">
          Plan the crop on two blocks or more; a block can be divided on its page. Then come back here.
        </Empty>
      ) : (
        <Reckoned crops={crops} open={open} today={overview.data.today} />
      )}
    </div>
  );
}

function Reckoned({
  crops,
  open,
  today,
}: {
  crops: { id: string; words: string }[];
  open: Schema["Overview"]["blocks"];
  today: string;
}) {
  const { text } = useReading();
  const [sheet, setSheet] = useState(crops[0]!.id);
  const mine = open.filter((b) => b.sheet === sheet);
  const [left, setLeft] = useState<string[]>([]); // blocks left out
  const [said, setSaid] = useState<Partial<Wanted>>({});
  const [seen, setSeen] = useState<Schema["Succession"]>();
  const [error, setError] = useState<unknown>();
  const byDay = [...mine].sort((a, b) => a.standing.localeCompare(b.standing) || a.number - b.number);
  const taken = byDay.filter((b) => !left.includes(b.id));
  const first = said.first ?? (byDay[0] && byDay[0].standing >= today ? byDay[0].standing : today);
  const wanted: Wanted = {
    overlapDays: 7,
    growDays: 0,
    pickDays: 0,
    baseC: null,
    ...said,
    blocks: taken.map((b) => b.id),
    first,
  };
  const asked = JSON.stringify(wanted);
  useEffect(() => {
    let here = true;
    const body = JSON.parse(asked) as Wanted;
    if (body.blocks.length < 2) {
      setSeen(undefined);
      setError(undefined);
      return;
    }
    take(api.POST("/succession", { body })).then(
      (s) => {
        if (here) {
          setSeen(s);
          setError(undefined);
        }
      },
      (e: unknown) => {
        if (here) {
          setSeen(undefined);
          setError(e);
        }
      },
    );
    return () => {
      here = false;
    };
  }, [asked]);
  const change = (part: Partial<Wanted>) => setSaid({ ...said, ...part });
  const keep = () =>
    void write
      .succession(wanted)
      .then(() => say(`${taken.length} blocks are planted one after another; undo takes it back`), setError)
      .finally(() => void changed());
  return (
    <>
      <div className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-2">
        {crops.length > 1 && <Pick label="Crop" value={sheet} options={crops} keep={setSheet} />}
        <DayField label="First planting" value={first} keep={(v) => change({ first: v })} />
        <NumberField
          label="Picked together"
          unit="days"
          quantity="plain"
          value={wanted.overlapDays}
          keep={(v) => change({ overlapDays: v ?? 0 })}
        />
        <NumberField
          label="To the first pick"
          unit="days"
          quantity="plain"
          value={wanted.growDays || seen?.growDays}
          keep={(v) => change({ growDays: v ?? 0 })}
        />
        <NumberField
          label="Picking lasts"
          unit="days"
          quantity="plain"
          value={wanted.pickDays || seen?.pickDays}
          keep={(v) => change({ pickDays: v ?? 0 })}
        />
        <NumberField
          label="Equal warmth above"
          quantity="temp"
          value={wanted.baseC ?? undefined}
          keep={(v) => change({ baseC: v ?? null })}
        />
      </div>
      <p className="mt-1 max-w-prose text-sm text-faint">
        Days left empty are those of the plan. With a base temperature later plantings wait for the same warmth as the first, and
        not for the same days.
      </p>
      <fieldset className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
        <legend className="sr-only">Blocks</legend>
        {byDay.map((b) => (
          <label key={b.id} className="flex min-h-8 items-center gap-2">
            <input
              type="checkbox"
              checked={!left.includes(b.id)}
              onChange={(e) => setLeft(e.target.checked ? left.filter((x) => x !== b.id) : [...left, b.id])}
            />
            {b.name} <span className="text-faint">{text(b.areaM2, "area")}</span>
          </label>
        ))}
      </fieldset>
      {taken.length < 2 && <p className="mt-3 text-faint">Two blocks or more follow one another.</p>}
      {error !== undefined && (
        <div className="mt-3">
          <ErrorText error={error} />
        </div>
      )}
      {seen && (
        <>
          <Picked blocks={seen.blocks} />
          <Table
            label="Plantings in their order"
            rows={seen.blocks}
            id={(b) => b.block}
            columns={[
              {
                head: "block",
                cell: (b) => (
                  <Link className="font-semibold hover:underline" to={`/blocks/${b.block}/plants`}>
                    {b.name}
                  </Link>
                ),
              },
              { head: "was planted", className: "whitespace-nowrap text-faint", cell: (b) => day(b.was) },
              {
                head: "planted on",
                className: "whitespace-nowrap",
                cell: (b) => (
                  <>
                    <b>{day(b.on)}</b>
                    {!b.inWindow && <span className="block text-sm text-straw">out of season</span>}
                  </>
                ),
              },
              { head: "picked from", className: "whitespace-nowrap", cell: (b) => day(b.from) },
              { head: "to", className: "whitespace-nowrap", cell: (b) => day(b.to) },
              {
                head: "before it",
                cell: (b, i) =>
                  i === 0
                    ? ""
                    : b.gap > 0
                      ? `${b.gap} days without picking`
                      : b.gap < 0
                        ? `${-b.gap} days picked with the one before`
                        : "no gap",
              },
            ]}
          />
          {seen.words.length > 0 && (
            <ul className="mt-2 max-w-prose text-decide">
              {seen.words.map((w) => (
                <li key={w}>{w}</li>
              ))}
            </ul>
          )}
          <button className="act act-first mt-3" onClick={keep}>
            Plant them on these days
          </button>
          <h2 className="mt-6">What bears in which year</h2>
          <Table
            label="Blocks in bearing by year"
            className="max-w-md"
            rows={seen.years}
            id={(y) => y.season}
            columns={[
              { head: "season", cell: (y) => y.label },
              { head: "blocks bearing", num: true, cell: (y) => y.blocks },
              { head: "crop", num: true, cell: (y) => text(y.kg, "massT") },
            ]}
          />
        </>
      )}
    </>
  );
}

const [width, rowH, head] = [960, 22, 20];

/** Each block from its planting to its last pick, on one line of time. */
function Picked({ blocks }: { blocks: Following[] }) {
  const from = Math.min(...blocks.map((b) => dayNumber(b.on)));
  const to = Math.max(...blocks.map((b) => dayNumber(b.to)));
  const x = (d: number) => 130 + ((d - from) / Math.max(1, to - from)) * (width - 140);
  const months: { x: number; words: string }[] = [];
  let last = -Infinity;
  for (let d = from; d <= to; d++) {
    const s = fromDayNumber(d);
    if (s.endsWith("-01") && x(d) - last > 64 && x(d) < width - 48) {
      last = x(d);
      months.push({ x: last, words: `${day(s).split(" ")[1]!.slice(0, 3)} ${s.slice(2, 4)}` });
    }
  }
  const h = head + blocks.length * rowH + 6;
  return (
    <figure className="my-3 overflow-x-auto">
      <svg
        viewBox={`0 0 ${width} ${h}`}
        className="w-full min-w-[40rem]"
        role="img"
        aria-label="When each block is planted and picked"
      >
        {months.map((m) => (
          <g key={m.x}>
            <path d={`M${m.x} ${head - 4}V${h}`} stroke="var(--color-line)" />
            <text x={m.x + 3} y={12} fontSize="12" fill="var(--color-faint)">
              {m.words}
            </text>
          </g>
        ))}
        {blocks.map((b, i) => {
          const y = head + i * rowH + rowH / 2;
          return (
            <g key={b.block}>
              <text x={0} y={y + 4} fontSize="13" fill="var(--color-ink)">
                {b.name}
              </text>
              <path d={`M${x(dayNumber(b.on))} ${y}H${x(dayNumber(b.from))}`} stroke="var(--color-growth)" strokeWidth="1.5" />
              <circle cx={x(dayNumber(b.on))} cy={y} r="4" fill="var(--color-growth)" />
              <path
                d={`M${x(dayNumber(b.from))} ${y}H${Math.max(x(dayNumber(b.to)), x(dayNumber(b.from)) + 3)}`}
                stroke="var(--color-straw)"
                strokeWidth="9"
              />
            </g>
          );
        })}
      </svg>
      <figcaption className="text-sm text-faint">A dot is the planting, the broad line the picking of its first year.</figcaption>
    </figure>
  );
}
