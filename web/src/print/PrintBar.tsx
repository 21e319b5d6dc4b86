import type { ReactNode } from "react";
import { Link } from "react-router";

/** Above a page for paper: print it, or go back; not printed itself. */
export function PrintBar({ back, children }: { back: string; children?: ReactNode }) {
  return (
    <div className="no-print mb-3 flex flex-wrap items-center gap-2">
      <button className="act act-first" onClick={() => window.print()}>
        Print
      </button>
      <Link className="act" to={back}>
        Back to the block
      </Link>
      {children}
    </div>
  );
}
