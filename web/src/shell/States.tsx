import type { ReactNode } from "react";
import { Failed } from "../api/client";
import { sayField } from "./words";

export function Busy({ what }: { what: string }) {
  return (
    <p role="status" className="p-6 text-faint">
      {what} …
    </p>
  );
}

export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="max-w-xl p-6">
      <h1>{title}</h1>
      <div className="mt-2 text-faint">{children}</div>
    </div>
  );
}

/** Says an error: what is wrong, with which field and value, and what to do. */
export function ErrorText({ error }: { error: unknown }) {
  const p = error instanceof Failed ? error.problem : undefined;
  return (
    <div role="alert" className="border-l-4 border-decide pl-3">
      <p className="font-semibold text-decide">{p?.title ?? "Something went wrong"}</p>
      {p?.field ? <p>{sayField(p)}</p> : <p>{error instanceof Error ? error.message : String(error)}</p>}
      {p?.remedy && <p className="text-faint">{p.remedy}</p>}
    </div>
  );
}

export function Trouble({ error, retry }: { error: unknown; retry?: () => void }) {
  return (
    <div className="max-w-xl p-6">
      <ErrorText error={error} />
      {retry && (
        <button className="act mt-3" onClick={retry}>
          Try again
        </button>
      )}
    </div>
  );
}
