import { useState } from "react";
import type { Schema } from "../api/client";

type Point = Schema["Point"];

/** parsed is a place typed as "−38.21, 175.4", latitude first. */
export function parsed(t: string): Point | undefined {
  const n = t
    .replaceAll("−", "-")
    .split(/[\s;]+|,\s*(?=[-\d])/)
    .filter(Boolean)
    .map((x) => Number(x.replace(",", ".").replace(/[°,]$/, "")));
  const [lat, lon] = n;
  if (n.length !== 2 || !Number.isFinite(lat) || !Number.isFinite(lon)) return undefined;
  return { lat: lat!, lon: lon! };
}

const written = (p?: Point) => (p ? `${p.lat.toFixed(5)}, ${p.lon.toFixed(5)}`.replaceAll("-", "−") : "");

/** A place on the earth, typed as latitude and longitude in degrees. */
export function PlaceField({ label, value, keep }: { label: string; value?: Point; keep: (p: Point | undefined) => void }) {
  const [typed, setTyped] = useState<string>();
  const [wrong, setWrong] = useState(false);
  return (
    <label className="flex flex-col text-sm">
      <span>
        {label} <span className="unit">latitude, longitude °; south and west negative</span>
      </span>
      <input
        className="field w-56"
        value={typed ?? written(value)}
        placeholder="−38.21, 175.40"
        aria-invalid={wrong}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => {
          if (typed === undefined || typed.trim() === written(value)) return;
          const p = parsed(typed);
          if (!p && typed.trim() !== "") return setWrong(true);
          setWrong(false);
          setTyped(undefined);
          keep(p);
        }}
        onKeyDown={(e) => e.key === "Enter" && (e.preventDefault(), e.currentTarget.blur())}
      />
      {wrong && <span className="text-decide">Two numbers of degrees, such as −38.21, 175.40.</span>}
    </label>
  );
}
