import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { fromSI } from "../units";
import { From, Part } from "./Part";

type Sheet = Schema["Sheet"];

/** "early summer to mid autumn". */
const span = (season: string[] | undefined) =>
  [...new Set([season?.[0], season?.at(-1)])].filter(Boolean).join(" to ").replaceAll("-", " ");

/** The work of a sheet with the hours it takes, and how much a picker brings in. */
export function WorkOf({ s }: { s: Sheet }) {
  const { system, unit } = useReading();
  const perArea = (h: number) => Math.round(fromSI(h, "perArea", system) * 10) / 10;
  const hours = (h: Sheet["operations"][number]["hours"] | undefined) =>
    h && (
      <>
        {h.low < h.high ? `${perArea(h.low)}–${perArea(h.high)}` : perArea(h.high)}
        <span className="block text-sm text-faint">
          {[h.by || (h.machine && "machine"), (h.rounds ?? 0) > 1 && `${h.rounds} rounds`, h.every && "each round"]
            .filter(Boolean)
            .join(", ")}
        </span>
      </>
    );
  return (
    <>
      <Part title="Work">
        <thead>
          <tr>
            <th>job</th>
            <th>what</th>
            <th className="num">{system === "us" ? "h/ac" : "h/ha"}</th>
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
                {o.cond && (
                  <div>
                    <b>When</b> {o.cond.says}
                  </div>
                )}
                {o.within && (
                  <div>
                    <b>While</b> {o.within.says}, {[o.within.season, o.within.rains].map(span).filter(Boolean).join("; ")}{" "}
                    <From origin={o.within.origin} />
                  </div>
                )}
                {o.caution && (
                  <div className="text-sm">
                    <b>Caution:</b> {o.caution}
                  </div>
                )}
              </td>
              <td className="num whitespace-nowrap">
                {hours(o.hours)}
                {o.else?.map((h) => (
                  <div key={h.by}>{hours(h)}</div>
                ))}
                {o.hours && <From origin={o.hours.origin ?? "mem"} />}
              </td>
              <td>{o.why}</td>
              <td className="text-sm text-faint">
                <From origin={o.origin} />
              </td>
            </tr>
          ))}
        </tbody>
      </Part>
      {s.pickRates.length > 0 && (
        <Part title="Brought in by a picker in an hour">
          <thead>
            <tr>
              <th>what</th>
              <th className="num">at least</th>
              <th className="num">as a rule</th>
              <th className="num">at most</th>
              <th>from</th>
            </tr>
          </thead>
          <tbody>
            {s.pickRates.map((r) => (
              <tr key={`${r.low} ${r.base} ${r.high}`}>
                <td>{r.says || ways(s, r.if) || s.product.name}</td>
                {[r.low, r.base, r.high].map((kg, i) => (
                  <td key={i} className="num">
                    {Number(fromSI(kg, "massKg", system).toPrecision(3))} {unit("massKg")}
                  </td>
                ))}
                <td className="text-sm text-faint">
                  <From origin={r.origin} />
                </td>
              </tr>
            ))}
          </tbody>
        </Part>
      )}
    </>
  );
}

/** The names of the ways a value holds for. */
function ways(s: Sheet, when: unknown): string {
  const names = new Map([
    ...s.forks.flatMap((f) => f.options.map((o) => [`${f.id} ${o.id}`, o.name] as const)),
    ...s.layouts.map((l) => [`layout ${l.id}`, l.name] as const),
  ]);
  return Object.entries((when ?? {}) as Record<string, string[]>)
    .flatMap(([fork, options]) => options.map((o) => names.get(`${fork} ${o}`) ?? o))
    .join(", ");
}
