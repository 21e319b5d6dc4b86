/** From best to worst. */
const classes = ["S1", "S2", "S3", "N1", "N2"];

/** How well a factor suits, as a root under the ground line: the deeper, the better. The class stands beside it. */
export function FitMark({ rating, cls, after }: { rating: number; cls: string; after?: string }) {
  if (cls === "?")
    return (
      <svg aria-hidden width="16" height="22" viewBox="0 0 16 22">
        <path d="M1 4H15" stroke="var(--color-faint)" strokeWidth="1.2" strokeDasharray="2 2" />
      </svg>
    );
  const depth = 4 + (Math.max(0, Math.min(100, rating)) / 100) * 16;
  const tone = cls === "S1" || cls === "S2" ? "var(--color-growth)" : cls === "S3" ? "var(--color-straw)" : "var(--color-decide)";
  const better = after !== undefined && classes.indexOf(after) < classes.indexOf(cls);
  return (
    <svg aria-hidden width="16" height="22" viewBox="0 0 16 22">
      <path d="M1 4H15" stroke="var(--color-ink)" strokeWidth="1.4" />
      <path d={`M5 4L8 ${depth}L11 4Z`} fill={tone} stroke={tone} strokeWidth="1" />
      {better && <path d={`M8 ${depth}V21`} stroke="var(--color-growth)" strokeWidth="1.4" strokeDasharray="2 2" />}
    </svg>
  );
}

export const verdictTone: Record<string, string> = {
  fit: "text-growth",
  "fit with works": "text-growth",
  "not sure": "text-straw",
  marginal: "text-straw",
  "not here": "text-decide",
  "not known": "text-faint",
};
