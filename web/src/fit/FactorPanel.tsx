import type { Schema } from "../api/client";
import { Panel } from "../shell/Sheet";
import { Word } from "../shell/Word";

/** One factor of a crop on a block: what is there, what is asked, and what could be done. */
export function FactorPanel({ fit, factor, close }: { fit: Schema["Fit"]; factor: Schema["FactorFit"]; close: () => void }) {
  return (
    <Panel title={`${fit.name} on ${fit.blockName}: ${factor.label.toLowerCase()}`} close={close} side>
      <p className="text-lg font-semibold">
        {factor.value}{" "}
        <span className="text-sm font-normal text-faint">
          {factor.class === "?" ? "not judged" : `${factor.class}, rating ${Math.round(factor.rating)} of 100`}
        </span>
      </p>
      <dl className="mt-3 space-y-1.5">
        <div>
          <dt className="text-sm text-faint">
            <Word is="ideal" />
          </dt>
          <dd>{factor.ideal}</dd>
        </div>
        <div>
          <dt className="text-sm text-faint">
            <Word is="borne" />
          </dt>
          <dd>{factor.tolerated}</dd>
        </div>
        <div>
          <dt className="text-sm text-faint">what it rests on</dt>
          <dd>{factor.from || "nothing yet"}</dd>
        </div>
      </dl>
      {factor.remedy ? (
        <div className="mt-4 border-l-4 border-growth pl-3">
          <p>
            <b>{factor.remedy.charAt(0).toUpperCase() + factor.remedy.slice(1)}</b>
          </p>
          <p>
            {factor.months > 0 && `${factor.months} months before planting; `}
            {factor.costText && `${factor.costText}; `}
            {factor.after !== factor.class ? `then ${factor.after}.` : "the class stays until that is known."}
          </p>
        </div>
      ) : (
        factor.class !== "S1" && factor.class !== "?" && <p className="mt-4 font-semibold">No works change this.</p>
      )}
      <p className="mt-4 text-sm text-faint">
        {factor.origin}. The ideal edge ends S1 and the borne edge ends S3; the class between them is halved, which is assumed
        {factor.assumed && "; an edge of this limit is assumed too"}. Classes: FAO, A framework for land evaluation, 1976.
      </p>
    </Panel>
  );
}
