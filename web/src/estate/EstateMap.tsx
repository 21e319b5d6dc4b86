import Feature from "ol/Feature";
import OlMap from "ol/Map";
import View from "ol/View";
import ScaleLine from "ol/control/ScaleLine";
import Polygon from "ol/geom/Polygon";
import { defaults as interactions } from "ol/interaction/defaults";
import VectorLayer from "ol/layer/Vector";
import { fromLonLat } from "ol/proj";
import VectorSource from "ol/source/Vector";
import Fill from "ol/style/Fill";
import Stroke from "ol/style/Stroke";
import Style from "ol/style/Style";
import Text from "ol/style/Text";
import CircleStyle from "ol/style/Circle";
import Point from "ol/geom/Point";
import { useEffect, useRef } from "react";
import { useNavigate } from "react-router";
import type { Schema } from "../api/client";
import { cropTone } from "../block/weights";
import { useReading } from "../shell/reading";
import "ol/ol.css";

type Short = Schema["BlockInShort"];
const ring = (r: Schema["Point"][]) => r.map((p) => fromLonLat([p.lon, p.lat]));

/** The blocks on a map of their own: no tiles, nothing fetched. The list beside it does the same. */
export default function EstateMap({ blocks, lit, light }: { blocks: Short[]; lit: string; light: (id: string) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const source = useRef<VectorSource>(null);
  const litRef = useRef(lit);
  const go = useNavigate();
  const { system } = useReading();

  useEffect(() => {
    const src = new VectorSource();
    source.current = src;
    const layer = new VectorLayer({
      source: src,
      style: (f) => {
        const b = f.get("block") as Short;
        const on = litRef.current === b.id;
        const tone = cropTone[b.sheet] ?? "#5d5447";
        return [
          new Style({
            fill: new Fill({ color: b.stage === "empty" ? "#efe7d7" : tone + (on ? "66" : "33") }),
            stroke: new Stroke({ color: "#2a251f", width: on ? 3 : 1.5, lineDash: b.stage === "planted" ? undefined : [6, 4] }),
          }),
          new Style({
            geometry: new Point((f.getGeometry() as Polygon).getInteriorPoint().getCoordinates()),
            image: new CircleStyle({
              radius: 11,
              fill: new Fill({ color: "#f6f1e7" }),
              stroke: new Stroke({ color: "#2a251f", width: 1.2 }),
            }),
            text: new Text({
              text: String(b.number),
              font: "600 13px 'Atkinson Hyperlegible Next Variable'",
              fill: new Fill({ color: "#2a251f" }),
            }),
          }),
        ];
      },
    });
    const map = new OlMap({
      target: box.current!,
      layers: [layer],
      view: new View({ center: [0, 0], zoom: 2 }),
      controls: [new ScaleLine({ units: system === "us" ? "us" : "metric" })],
      interactions: interactions({ altShiftDragRotate: false, pinchRotate: false, mouseWheelZoom: true }),
    });
    for (const b of blocks) {
      src.addFeature(
        new Feature({ geometry: new Polygon([ring(b.boundary.outer), ...(b.boundary.holes ?? []).map(ring)]), block: b }),
      );
    }
    const extent = src.getExtent();
    if (extent) map.getView().fit(extent, { padding: [24, 24, 34, 24] });
    const at = (pixel: number[]) => map.forEachFeatureAtPixel(pixel, (f) => (f.get("block") as Short | undefined)?.id);
    map.on("pointermove", (e) => {
      const id = e.dragging ? undefined : at(e.pixel);
      light(id ?? "");
      const el = map.getTargetElement();
      if (el) el.style.cursor = id ? "pointer" : "";
    });
    map.on("singleclick", (e) => {
      const id = at(e.pixel);
      if (id) void go(`/blocks/${id}`);
    });
    return () => map.setTarget(undefined);
  }, [blocks, go, light, system]);

  useEffect(() => {
    litRef.current = lit;
    source.current?.changed();
  }, [lit]);

  return (
    <div className="relative mt-3">
      <div
        ref={box}
        className="map h-80 w-full sm:h-[26rem]"
        role="img"
        aria-label={`Map of ${blocks.length} blocks: ${blocks.map((b) => `${b.number} ${b.name}`).join(", ")}`}
      />
      <svg aria-hidden width="26" height="44" viewBox="0 0 26 44" className="pointer-events-none absolute top-1 right-1">
        <text x="13" y="11" textAnchor="middle" fontSize="12" fontWeight="700" fill="var(--color-ink)">
          N
        </text>
        <path d="M13 14 L21 40 L13 34 L5 40 Z" fill="var(--color-ink)" />
      </svg>
    </div>
  );
}
