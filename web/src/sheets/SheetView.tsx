import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { From, Part } from "./Part";
import { shownAs } from "./shown";
import { WorkOf } from "./WorkOf";

/** What the sheet says, section by section, each value with where it is from. */
export function SheetView({ s }: { s: Schema["Sheet"] }) {
  const { text } = useReading();
  const as = shownAs(s.product.showAs);
  const between = (m: number[]) =>
    m[0] === m[1] ? text(m[0]!, "spacing") : `${text(m[0]!, "spacing")} to ${text(m[1]!, "spacing")}`;
  return (
    <>
      <p className="max-w-prose">
        {s.habit}. It lives {s.life.low === s.life.high ? s.life.low : `${s.life.low} to ${s.life.high}`} years
        {s.product.name && ` and gives ${s.product.name} (${s.product.basis})`}.{" "}
        {s.layouts.length === 0 &&
          "The sheet says what the ground must be and how it is prepared; it does not plan a planting yet."}
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
                  {l.system && <span className="text-faint">{l.system}: </span>}
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
                <td className="text-sm text-faint">
                  <From origin={l.origin} />
                </td>
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
                <td>
                  {o.sentence}
                  {o.wetClass ? <div>Wet-soil class {o.wetClass}</div> : null}
                  {o.limits?.map((l) => (
                    <div key={l.factor}>
                      {l.factor}: {l.ideal}; borne {l.tolerated} <From origin={l.origin} />
                    </div>
                  ))}
                  {o.orderBetter && (
                    <div>
                      Ordered {o.orderBetter} ahead, {o.orderMin} at least
                    </div>
                  )}
                </td>
                <td>{o.when}</td>
                <td className="text-sm text-faint">
                  <From origin={o.origin} />
                </td>
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
              <td className="text-sm text-faint">
                <From origin={l.origin} />
              </td>
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
                <td className="text-sm text-faint">
                  <From origin={y.origin} />
                </td>
              </tr>
            ))}
          </tbody>
        </Part>
      )}
      <WorkOf s={s} />
      {s.removal.length > 0 && (
        <Part title="Carried off with the crop, kg for each tonne">
          <thead>
            <tr>
              <th>what leaves</th>
              {["N", "P", "K"].map((e) => (
                <th key={e} className="num">
                  {e}
                </th>
              ))}
              <th>from</th>
            </tr>
          </thead>
          <tbody>
            {s.removal.map((r) => (
              <tr key={r.of}>
                <td>
                  <b>{r.of}</b>
                </td>
                {["n", "p", "k"].map((e) => {
                  const [low, base, high] = r.perT[e] ?? [];
                  return (
                    <td key={e} className="num whitespace-nowrap">
                      {base} {low !== high && <span className="text-faint">({`${low}–${high}`})</span>}
                    </td>
                  );
                })}
                <td className="text-sm text-faint">
                  <From origin={r.origin} />
                </td>
              </tr>
            ))}
          </tbody>
        </Part>
      )}
      {s.water.length > 0 && (
        <Part title="Water of a grown stand">
          <thead>
            <tr>
              <th>stand</th>
              <th className="num">crop coefficient: first weeks, middle, end</th>
              <th className="num">working roots</th>
              <th className="num">deepest roots listed</th>
              <th className="num">may be taken</th>
              <th>from</th>
            </tr>
          </thead>
          <tbody>
            {s.water.map((w) => (
              <tr key={w.name}>
                <td>
                  <b>{w.name}</b>
                  {w.like && <span className="block text-sm text-faint">as {w.like}</span>}
                </td>
                <td className="num whitespace-nowrap">{w.kc.map((k) => k.toFixed(2)).join(" · ")}</td>
                <td className="num whitespace-nowrap">{between(w.rootM)}</td>
                <td className="num whitespace-nowrap">{w.tableM[1] ? between(w.tableM) : "–"}</td>
                <td className="num">{text(w.depletion, "fraction")}</td>
                <td className="text-sm text-faint">
                  <From origin={w.origin} />
                  {w.rootOrigin && (
                    <span className="block">
                      roots and share: <From origin={w.rootOrigin} />
                    </span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Part>
      )}
      {[{ title: "Where practice contradicts itself", notes: s.disagrees }, ...s.notes, { title: "Cautions", notes: s.cautions }]
        .filter((n) => n.notes.length > 0)
        .map((n) => (
          <Part key={n.title} title={n.title}>
            <tbody>
              {n.notes.map((x) => (
                <tr key={x.item}>
                  <td className="w-48">
                    <b>{x.item}</b>
                  </td>
                  <td>{x.value}</td>
                  <td className="w-56 text-sm text-faint">
                    <From origin={x.origin} />
                  </td>
                </tr>
              ))}
            </tbody>
          </Part>
        ))}
    </>
  );
}
