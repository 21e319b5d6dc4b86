import { useBearings, type Schema } from "../api/client";
import { NumberField } from "../shell/Fields";
import { useReading } from "../shell/reading";
import { Busy, Trouble } from "../shell/States";
import { useWidth } from "../shell/useWidth";
import { Wide } from "../shell/Wide";
import type { StepProps } from "../block/stepProps";
import { laid } from "../block/draft";

type Row = Schema["RowBearing"];

/** Every bearing of the rows weighed as one curve; the choice is made on it. */
export function Bearings({ plan, doc, draft }: StepProps) {
  const trade = useBearings(doc.id, doc.revision);
  const { text } = useReading();
  if (trade.isPending) return <Busy what="Turning the rows" />;
  if (trade.error) return <Trouble error={trade.error} retry={() => void trade.refetch()} />;
  const t = trade.data;
  const now = Math.round(plan.spec.bearingDeg) % 180;
  const marks: [number, string][] = [
    [t.long, "longest side"],
    [t.few, "fewest row ends"],
    ...(t.wind != null ? ([[t.wind, "across the wind"]] as [number, string][]) : []),
    ...(t.fall != null
      ? ([
          [t.fall, "down the slope"],
          [(t.fall + 90) % 180, "across it"],
        ] as [number, string][])
      : []),
  ];
  const line = (b: Row, words: string) => (
    <tr key={words + b.deg}>
      <td>{words}</td>
      <td className="num">{text(b.deg, "angle")}</td>
      <td className="num">{text(b.stations, "count")}</td>
      <td className="num">{b.passes}</td>
      <td className="num">{text(b.meanM, "distance")}</td>
      <td className="num">{text(b.hours, "hours")}</td>
      <td className="num">{b.fallPct == null ? "not known" : `${b.fallPct.toFixed(1)} %`}</td>
      <td>{b.words}</td>
      <td>
        <button
          className="act px-2"
          disabled={b.deg === now}
          onClick={() => void draft.commit(patch(b.deg), `Rows at ${b.deg}°`)}
        >
          Take {b.deg}°
        </button>
      </td>
    </tr>
  );
  return (
    <div className="py-2">
      <p className="max-w-prose text-sm text-faint">
        Higher on the curve is better. {t.sun} Press the curve to turn the rows. What counts how much is yours to say; the usual
        weights are common practice without a source, and access is yours to judge.
      </p>
      <Weighing
        w={t.weights}
        keep={(part) =>
          void draft.commit(
            (b) => ({ planting: { layout: { weigh: part && { ...t.weights, ...b.planting?.layout.weigh, ...part } } } }),
            "Weighed anew",
          )
        }
      />
      <Curve trade={t} marks={marks} now={now} draft={draft} />
      <Wide label="Bearings">
        <table className="tbl">
          <caption className="sr-only">The best bearings and the usual ones</caption>
          <thead>
            <tr>
              <th>bearing</th>
              <th className="num">°</th>
              <th className="num">stations</th>
              <th className="num">passes</th>
              <th className="num">mean length</th>
              <th className="num">once over</th>
              <th className="num">fall along</th>
              <th>for and against</th>
              <th>
                <span className="sr-only">take it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {line(t.all[now]!, "now")}
            {t.best.map((b, i) => line(b, ["best", "second", "third"][i] ?? "next"))}
            {marks.map(([deg, words]) => line(t.all[Math.round(deg) % 180]!, words))}
          </tbody>
        </table>
      </Wide>
    </div>
  );
}

/** What counts how much, and where the wind comes from. */
function Weighing({ w, keep }: { w: Schema["Weights"]; keep: (w: Record<string, number | null> | null) => void }) {
  const parts: [keyof Omit<Schema["Weights"], "fromDeg">, string][] = [
    ["hours", "Hours of driving"],
    ["fall", "Fall along the row"],
    ["sun", "Sun on both sides"],
    ["wind", "Wind that dries"],
    ["cold", "Cold air that leaves"],
  ];
  return (
    <div className="mt-2 flex flex-wrap items-end gap-3" role="group" aria-label="What counts how much">
      {parts.map(([key, words]) => (
        <NumberField
          key={key}
          label={words}
          width="w-16"
          quantity="fraction"
          value={w[key]}
          keep={(v) => keep({ [key]: v ?? 0 })}
        />
      ))}
      <NumberField label="Wind from" width="w-16" quantity="angle" value={w.fromDeg} keep={(v) => keep({ fromDeg: v ?? null })} />
      <button type="button" className="act" onClick={() => keep(null)}>
        The usual weights
      </button>
    </div>
  );
}

const patch = (deg: number) => ({ planting: { layout: { bearingDeg: deg } } });

/** The curve of all bearings, on which the rows are turned by pointer or by arrow keys. */
function Curve({
  trade: t,
  marks,
  now,
  draft,
}: {
  trade: Schema["TradeOff"];
  marks: [number, string][];
  now: number;
  draft: StepProps["draft"];
}) {
  const [box, width] = useWidth(200);
  const h = 150;
  const most = Math.max(...t.all.filter((b) => b.stations > 0).map((b) => b.score), 0.05);
  const x = (deg: number) => 34 + ((width - 44) * deg) / 179;
  const y = (b: Row) => 12 + (h - 44) * Math.min(1, b.score / most);
  const at = (clientX: number, el: Element) =>
    Math.max(0, Math.min(179, Math.round(((clientX - el.getBoundingClientRect().left - 34) * 179) / (width - 44))));
  return (
    <div ref={box} className="min-w-0">
      <svg
        width={width}
        height={h}
        role="slider"
        tabIndex={0}
        aria-label="Bearing of the rows on the curve of all bearings"
        aria-valuemin={0}
        aria-valuemax={179}
        aria-valuenow={now}
        className="mt-1 cursor-crosshair touch-none"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          void draft.ask(patch(at(e.clientX, e.currentTarget)), laid);
        }}
        onPointerMove={(e) => e.buttons & 1 && void draft.ask(patch(at(e.clientX, e.currentTarget)), laid)}
        onPointerUp={(e) => void draft.commit(patch(at(e.clientX, e.currentTarget)))}
        onKeyDown={(e) => {
          const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -15, PageUp: 15 }[e.key];
          if (by) {
            e.preventDefault();
            void draft.commit(patch((now + by + 180) % 180));
          }
        }}
      >
        {[0, 30, 60, 90, 120, 150, 179].map((d) => (
          <g key={d}>
            <path d={`M${x(d)} ${h - 26} v4`} stroke="var(--color-faint)" />
            <text x={x(d)} y={h - 10} textAnchor="middle" fontSize="12" fill="var(--color-faint)">
              {d}°
            </text>
          </g>
        ))}
        <text x={4} y={20} fontSize="12" fill="var(--color-faint)">
          best
        </text>
        <path
          d={t.all.map((b, i) => `${i ? "L" : "M"}${x(b.deg).toFixed(1)} ${y(b).toFixed(1)}`).join("")}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1.8"
        />
        {marks.map(([deg, words]) => {
          const b = t.all[Math.round(deg) % 180]!;
          return (
            <g key={words}>
              <circle cx={x(b.deg)} cy={y(b)} r="4" fill="var(--color-straw)" />
              <title>{words}</title>
            </g>
          );
        })}
        {t.best.map((b) => (
          <circle key={b.deg} cx={x(b.deg)} cy={y(b)} r="5.5" fill="none" stroke="var(--color-growth)" strokeWidth="2" />
        ))}
        <path d={`M${x(now)} 6 V${h - 26}`} stroke="var(--color-input)" strokeWidth="2" />
      </svg>
    </div>
  );
}
