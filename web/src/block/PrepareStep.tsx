import { useState } from "react";
import { Link } from "react-router";
import { record, useLists, type Schema } from "../api/client";
import { Bound } from "../jobs/Bound";
import { MarkJob } from "../jobs/MarkJob";
import { marked, markWords, type Mark } from "../jobs/mark";
import { say, sayError } from "../shell/Notices";
import { NumberField, Tabs } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { Wide } from "../shell/Wide";
import { day, dayNumber } from "../units";
import { CropMeant } from "./CropMeant";
import { Figures } from "./Figures";
import type { StepProps } from "./stepProps";
import { stands, toBlock } from "./paths";

type Line = Schema["PrepLine"];

const views = [
  ["order", "In order"],
  ["binds", "What binds"],
] as const;

/** The work on the ground before planting, in its order, with hours, and how long the soil lies bare. */
export function PrepareStep(props: StepProps) {
  const { plan, doc, draft, press } = props;
  const { text, number } = useReading();
  const lists = useLists();
  const [view, setView] = useState<(typeof views)[number][0]>("order");
  const p = plan.preparation;
  const mark = (l: Line, m: Mark) =>
    void record(doc.id, marked(plan.planting, l.key, m)).then(() => say(markWords(l.name, m)), sayError);
  const jobs = new Map(plan.jobs.map((j) => [j.key, j]));
  if (stands(plan))
    return (
      <p className="py-3 text-faint">
        The plants stand; the ground was prepared. <Link to={toBlock(doc.id, "checklist")}>The inspection list</Link> is still
        there.
      </p>
    );
  return (
    <div className="py-2">
      <div className="mb-2 flex flex-wrap items-start justify-between gap-x-8 gap-y-2">
        <Figures plan={plan} step="prepare" press={press} across />
        {p.lines.length > 0 && (
          <p>
            {p.costText} <span className="text-sm text-faint">for the hours</span>
          </p>
        )}
        {p.terrace && (
          <p>
            {text(p.terraceM3, "earth")}{" "}
            <span className="text-sm text-faint">
              moved for benches, {text(p.terrace.intervalM, "spacing")} one above the other
            </span>
          </p>
        )}
        {doc.block.decided?.cover?.option === "fumigation" && (
          <NumberField
            label="Plant-back by the label"
            unit="days"
            quantity="plain"
            value={doc.block.works?.plantBack || undefined}
            keep={(v) => void draft.commit({ works: { plantBack: v ?? null } })}
          />
        )}
        <CropMeant {...props} />
        <Link className="act no-print" to={toBlock(doc.id, "checklist")}>
          Inspection list
        </Link>
      </div>
      {p.lines.length > 0 && <Tabs tabs={views} on={view} turn={setView} label="The work before planting" />}
      {view === "binds" && <Bound {...props} />}
      {!plan.cropName && (
        <p className="text-faint">Choose the crop the ground is meant for: its sheet says what must be done and by when.</p>
      )}
      {p.lines.length > 0 && view === "order" && (
        <>
          <Cover plan={plan} />
          <Wide label="Preparation, in order" className="mt-3">
            <table className="tbl">
              <thead>
                <tr>
                  <th>from</th>
                  <th>by</th>
                  <th>work</th>
                  <th className="num">passes</th>
                  <th className="num">depth</th>
                  <th className="num">hours</th>
                  <th>done</th>
                </tr>
              </thead>
              <tbody>
                {p.lines.map((l) => (
                  <tr key={l.key} className={l.notNeeded ? "text-faint" : ""}>
                    <td className="whitespace-nowrap">{day(l.from)}</td>
                    <td className={`whitespace-nowrap ${l.passed ? "font-semibold text-decide" : ""}`}>
                      {day(l.until)}
                      {l.passed && <span className="block text-sm">has passed</span>}
                    </td>
                    <td>
                      <b>{l.name}</b>
                      {l.detail && `: ${l.detail}`}
                      <span className="block text-sm text-faint">
                        {l.why}
                        {l.moved && `; moved behind “${l.moved}”`}
                        {l.unsorted && `; has to follow “${l.unsorted}”`}
                      </span>
                      {l.caution && (
                        <span className="block text-sm">
                          <b>Caution:</b> {l.caution}
                        </span>
                      )}
                    </td>
                    <td className="num">{l.baseH > 0 ? l.passes : ""}</td>
                    <td className="num whitespace-nowrap">
                      {l.depthCm[1] > 0
                        ? l.depthCm[0] === l.depthCm[1]
                          ? text(l.depthCm[1], "depth")
                          : `${number(l.depthCm[0], "depth")}–${text(l.depthCm[1], "depth")}`
                        : ""}
                    </td>
                    <td className="num whitespace-nowrap">
                      {l.unknown && <span className="text-sm whitespace-normal text-straw">not known: {l.unknown}</span>}
                      {l.baseH > 0 && (
                        <>
                          {number(l.baseH, "hours")}
                          <span className="block text-sm text-faint">
                            {number(l.lowH, "hours")}–{number(l.highH, "hours")}, {l.by}
                          </span>
                        </>
                      )}
                    </td>
                    <td>
                      <MarkJob
                        name={l.name}
                        done={l.done}
                        notNeeded={l.notNeeded}
                        share={jobs.get(l.key)?.share ?? 0}
                        record={l.done || l.said ? (jobs.get(l.key)?.record ?? "") : ""}
                        today={plan.today}
                        mark={(m) => mark(l, m)}
                      />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Wide>
        </>
      )}
      <h2 className="mt-6">What stands and lies there</h2>
      <p className="text-sm text-faint">
        Cubic metres of each; where each kind goes. Cut low, chop while it is green, sort the same day.
      </p>
      <table className="tbl mt-1">
        <tbody>
          {lists.data?.sorting.map((s) => (
            <tr key={s.class}>
              <td className="w-24">
                <NumberField
                  hidden
                  label={s.words}
                  quantity="earth"
                  value={doc.block.growth?.[s.class] || undefined}
                  keep={(v) => void draft.commit({ growth: { [s.class]: v ?? null } })}
                />
              </td>
              <td>
                <b>{s.words}</b>
              </td>
              <td>{s.goes}</td>
              <td className="text-faint">{s.why}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {p.stumps && (
        <p className="mt-2 max-w-prose">
          <b>Stumps.</b> {p.stumps}{" "}
          <span className="text-sm">Chainsaws and winches: trained people, protective clothing, nobody in the fall zone.</span>
        </p>
      )}
    </div>
  );
}

/** The months to planting on one line: hatched where the soil is covered, open where it lies bare. */
function Cover({ plan }: { plan: StepProps["plan"] }) {
  const p = plan.preparation;
  const first = p.lines[0]!.from < plan.today ? p.lines[0]!.from : plan.today;
  const a = dayNumber(first);
  const b = dayNumber(plan.cropDate);
  if (!(b > a)) return null;
  const x = (d: string) => 10 + ((Math.min(b, Math.max(a, dayNumber(d))) - a) / (b - a)) * 980;
  const spans: { from: string; bare: boolean }[] = [{ from: first, bare: false }];
  for (const l of p.lines) if (l.bares || l.covers) spans.push({ from: l.from, bare: l.bares && !l.covers });
  return (
    <figure className="mt-2">
      <svg
        viewBox="0 0 1000 62"
        className="block w-full"
        role="img"
        aria-label={`The soil lies bare for ${p.bareDays} days at a stretch`}
      >
        {spans.map((s, i) => {
          const x0 = x(s.from);
          const x1 = spans[i + 1] ? x(spans[i + 1]!.from) : 990;
          return (
            <g key={i}>
              <rect
                x={x0}
                y="26"
                width={Math.max(0, x1 - x0)}
                height="14"
                fill={s.bare ? "var(--color-sand)" : "var(--color-leaf)"}
              />
              {!s.bare &&
                Array.from({ length: Math.floor(Math.max(0, x1 - x0) / 12) }, (_, k) => (
                  <path
                    key={k}
                    d={`M${x0 + 6 + k * 12} 26v-6m0 3l-3 -3m3 3l3 -3`}
                    stroke="var(--color-growth)"
                    strokeWidth="1.2"
                  />
                ))}
            </g>
          );
        })}
        <path d="M10 26H990" stroke="var(--color-ink)" strokeWidth="1.6" />
        <path d={`M${x(plan.today)} 10V44`} stroke="var(--color-decide)" strokeWidth="2" />
        <text x={x(plan.today) + 4} y="14" fontSize="13" fill="var(--color-decide)">
          today
        </text>
        <text x="990" y="58" fontSize="13" textAnchor="end" fill="var(--color-ink)">
          planting {day(plan.cropDate)}
        </text>
        <text x="10" y="58" fontSize="13" fill="var(--color-ink)">
          {day(first)}
        </text>
      </svg>
      <figcaption className="text-sm text-faint">
        Sprouting where the soil is covered, sand where it lies bare
        {p.bareDays > 0 && `: ${Math.floor(p.bareDays / 7)} weeks at the longest`}.
        {p.fumigationMonths.length > 0 && ` Warm enough for fumigation: ${p.fumigationMonths.join(", ")}.`}
      </figcaption>
    </figure>
  );
}
