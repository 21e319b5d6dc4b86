import type { ReactNode } from "react";

/** Something wider than the page scrolls by itself, also with the keyboard. */
export function Wide({ label, children, className = "" }: { label: string; children: ReactNode; className?: string }) {
  return (
    <div role="region" aria-label={label} tabIndex={0} className={`relative overflow-x-auto ${className}`}>
      {children}
    </div>
  );
}
