import type { Plan } from "../api/client";
import { useReading } from "../shell/reading";
import { Wide } from "../shell/Wide";
import { nutrientNames } from "./nutrients";

/** The years as a table: the same figures as the ground line. */
export function YearTable({
  plan,
  press,
  season,
  brief,
}: {
  plan: Plan;
  press?: (f: string) => void;
  season?: number;
  brief?: boolean;
}) {
  const { number, unit } = useReading();
  const picked = plan.years.some((y) => y.recorded);
  const ofBlock = brief ? [] : plan.nutrients; // the block's own feeding is left out where there is little room
  const cell = (path: string, content: string) =>
    press ? (
      <button className="press" data-figure={path} onClick={() => press(path)}>
        {content}
      </button>
    ) : (
      content
    );
  return (
    <Wide label="Year table">
      <table className="tbl mt-2">
        <caption className="sr-only">Yield, feeding and work of {plan.name} by season</caption>
        <thead>
          <tr>
            <th>season</th>
            <th className="num">age</th>
            <th className="num">
              yield <span className="unit">{unit(plan.yieldAs)}</span>
            </th>
            <th className="num">low to high</th>
            <th className="num">
              block <span className="unit">{unit(plan.massAs)}</span>
            </th>
            {picked && (
              <th className="num">
                picked <span className="unit">{unit(plan.massAs)}</span>
              </th>
            )}
            {plan.nutrients.map((n) => (
              <th key={n} className="num">
                {nutrientNames[n]} <span className="unit">{unit("rate")}</span>
              </th>
            ))}
            {ofBlock.map((n) => (
              <th key={n} className="num">
                {nutrientNames[n]} <span className="unit">block, {unit("massKg")}</span>
              </th>
            ))}
            <th className="num">plants</th>
            <th className="num">jobs</th>
          </tr>
        </thead>
        <tbody>
          {plan.years.map((y) => (
            <tr key={y.season} className={y.season === season ? "bg-soil" : ""}>
              <td className="whitespace-nowrap">{y.label}</td>
              <td className="num">{y.age}</td>
              <td className="num">{cell(`yield.${y.season}`, number(y.perHa.base, plan.yieldAs))}</td>
              <td className="num whitespace-nowrap text-faint">
                {number(y.perHa.low, plan.yieldAs)} to {number(y.perHa.high, plan.yieldAs)}
              </td>
              <td className="num">{number(y.blockKg.base, plan.massAs)}</td>
              {picked && <td className="num">{y.recorded ? number(y.pickedKg, plan.massAs) : ""}</td>}
              {plan.nutrients.map((n) => (
                <td key={n} className="num">
                  {cell(`feed.${n}.${y.season}`, number(y.feedPerHa[n] ?? 0, "rate"))}
                </td>
              ))}
              {ofBlock.map((n) => (
                <td key={n} className="num">
                  {number(y.feedKg[n] ?? 0, "massKg")}
                </td>
              ))}
              <td className="num">{number(y.plants, "count")}</td>
              <td className="num">{y.jobs}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}
