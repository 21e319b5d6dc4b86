import { useEffect, useState } from "react";
import { write } from "../api/client";
import type { Points } from "./points";

/** useMeasured is the area, the way round and the sides of an outline as the server measures them, while it is drawn. */
export function useMeasured(shape: Points, holes: Points[], whole: boolean) {
  const [measured, setMeasured] = useState<{ areaM2: number; perimeterM: number }>();
  const [sides, setSides] = useState<number[]>([]);
  const [trouble, setTrouble] = useState<unknown>();
  useEffect(() => {
    if (shape.length < 2) {
      setSides([]);
      return;
    }
    let live = true;
    const wait = setTimeout(() => {
      const ring = shape.length > 2 ? [...shape, shape[0]!] : shape;
      write.sides(ring).then(
        (s) => live && setSides(s),
        () => live && setSides([]),
      );
    }, 60);
    return () => {
      live = false;
      clearTimeout(wait);
    };
  }, [shape]);

  useEffect(() => {
    if (shape.length < 3) {
      setMeasured(undefined);
      setTrouble(undefined);
      return;
    }
    let live = true;
    const wait = setTimeout(() => {
      write.area([shape, ...holes].map((r) => r.map((p) => [p.lon, p.lat]))).then(
        (m) => {
          if (live) {
            setMeasured(m);
            setTrouble(undefined);
          }
        },
        (e: unknown) => {
          if (live) {
            setMeasured(undefined);
            setTrouble(whole ? e : undefined); // half a boundary may cross itself
          }
        },
      );
    }, 60);
    return () => {
      live = false;
      clearTimeout(wait);
    };
    // holes belong to the document and do not change while drawing
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [shape]);
  return { measured, sides, trouble };
}
