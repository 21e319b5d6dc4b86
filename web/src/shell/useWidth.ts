import { useLayoutEffect, useRef, useState } from "react";

/**
 * useWidth is the width of an element in pixels, at least the least: measured before it is first painted, so that
 * nothing is drawn too wide for a moment, and again whenever it changes.
 */
export function useWidth(least: number) {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(least);
  useLayoutEffect(() => {
    const e = box.current;
    if (!e) return;
    const measure = () => {
      const style = getComputedStyle(e);
      setWidth(Math.max(least, e.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight)));
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(e);
    return () => watch.disconnect();
  }, [least]);
  return [box, width] as const;
}
