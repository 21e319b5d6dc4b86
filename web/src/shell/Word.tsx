import { useId, type ReactNode } from "react";
import { glossary, type Known } from "./glossary";

/** What a word or code means, shown while it or what it stands in has the focus or the pointer. */
export function Word({ is, children }: { is: Known; children?: ReactNode }) {
  const id = useId();
  return (
    <span
      tabIndex={0}
      role="note"
      aria-describedby={id}
      className="group relative inline-block cursor-help underline decoration-dotted underline-offset-3"
    >
      {children ?? is}
      <Meaning id={id}>{glossary[is]}</Meaning>
    </span>
  );
}

/** The meaning of what is inside, shown while something in it has the focus. */
export function Explained({ text, children }: { text: string; children: ReactNode }) {
  return (
    <span className="group relative">
      {children}
      <Meaning>{text}</Meaning>
    </span>
  );
}

function Meaning({ id, children }: { id?: string; children: ReactNode }) {
  return (
    <span
      id={id}
      role="tooltip"
      className="no-print pointer-events-none absolute hidden top-full left-0 z-30 mt-1 w-64 border border-ink bg-white px-2 py-1 text-left text-sm font-normal whitespace-normal text-ink group-focus-within:block group-hover:block"
    >
      {children}
    </span>
  );
}
