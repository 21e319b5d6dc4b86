import { createContext, useContext, useMemo } from "react";
import { number, showOf, text, type System } from "../units";

/** UnitsContext is the estate's system of units, for every figure on the page. */
export const UnitsContext = createContext<System>("metric");

export function useReading() {
  const system = useContext(UnitsContext);
  return useMemo(
    () => ({
      system,
      text: (v: number, q: string) => text(v, q, system),
      number: (v: number, q: string) => number(v, q, system),
      unit: (q: string) => showOf(q, system).unit,
    }),
    [system],
  );
}
