import { useRef, useState } from "react";
import { read, type Schema } from "../api/client";

type Point = Schema["Point"];

const written = (p?: Point) => (p ? `${p.lat.toFixed(5)}, ${p.lon.toFixed(5)}`.replaceAll("-", "−") : "");

/** A place on the earth, typed or pasted in any usual form; the program reads it. */
export function PlaceField({
  label,
  value,
  keep,
  reading,
}: {
  label: string;
  value?: Point;
  keep: (p: Point | undefined) => void;
  reading?: (until: Promise<void>) => void; // what is pressed right after waits for it
}) {
  const [typed, setTyped] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const asked = useRef(0);
  const take = async (text: string) => {
    const turn = ++asked.current;
    try {
      const p = text === "" ? undefined : await read.place(text);
      if (turn !== asked.current) return;
      setWrong(undefined);
      setTyped(undefined);
      keep(p);
    } catch (e) {
      if (turn === asked.current) setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  return (
    <label className="flex flex-col text-sm">
      <span>
        {label} <span className="unit">latitude, longitude</span>
      </span>
      <input
        className="field w-64 max-w-full"
        value={typed ?? written(value)}
        placeholder="38.21° S, 175.40° E"
        aria-invalid={wrong !== undefined}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => {
          if (typed === undefined || typed.trim() === written(value)) return;
          const read = take(typed.trim());
          reading?.(read);
        }}
        onKeyDown={(e) => e.key === "Enter" && (e.preventDefault(), e.currentTarget.blur())}
      />
      {wrong && <span className="text-decide">{wrong}</span>}
    </label>
  );
}
