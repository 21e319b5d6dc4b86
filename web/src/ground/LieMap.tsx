import Feature from "ol/Feature";
import OlMap from "ol/Map";
import View from "ol/View";
import ScaleLine from "ol/control/ScaleLine";
import LineString from "ol/geom/LineString";
import MultiPoint from "ol/geom/MultiPoint";
import Polygon from "ol/geom/Polygon";
import Draw from "ol/interaction/Draw";
import { defaults as interactions } from "ol/interaction/defaults";
import VectorLayer from "ol/layer/Vector";
import { fromLonLat, toLonLat } from "ol/proj";
import VectorSource from "ol/source/Vector";
import CircleStyle from "ol/style/Circle";
import Fill from "ol/style/Fill";
import Stroke from "ol/style/Stroke";
import Style from "ol/style/Style";
import Text from "ol/style/Text";
import { useEffect, useRef } from "react";
import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";
import "ol/ol.css";

type P = Schema["Point"];
const xy = (p: P) => fromLonLat([p.lon, p.lat]);
const ring = (r: P[]) => [...r, ...r.slice(0, 1)].map(xy);
const label = (text: string) =>
  new Text({
    text,
    font: "600 13px 'Atkinson Hyperlegible Next Variable', sans-serif",
    fill: new Fill({ color: "#2a251f" }),
    stroke: new Stroke({ color: "#f6f1e7", width: 3 }),
    offsetY: 14,
  });

/** The estate with its heights as read and what dams cold air; lines can be drawn. */
export default function LieMap({
  blocks,
  barriers,
  preview,
  drawing,
  drawn,
}: {
  blocks: Schema["BlockInShort"][];
  barriers: Schema["Barrier"][];
  preview?: Schema["HeightsRead"];
  drawing: boolean;
  drawn: (line: P[]) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const state = useRef<{ map: OlMap; lines: VectorSource; seen: VectorSource; draw: Draw }>(null);
  const latest = useRef(drawn);
  const { system } = useReading();
  useEffect(() => {
    latest.current = drawn;
  });
  useEffect(() => {
    const around = new VectorSource();
    const lines = new VectorSource();
    const seen = new VectorSource();
    for (const b of blocks) {
      const f = new Feature(new Polygon([ring(b.boundary.outer), ...(b.boundary.holes ?? []).map(ring)]));
      f.setStyle(
        new Style({
          fill: new Fill({ color: "#c9d3b055" }),
          stroke: new Stroke({ color: "#2a251f", width: 1.4 }),
          text: label(b.name),
        }),
      );
      around.addFeature(f);
    }
    const map = new OlMap({
      target: box.current!,
      layers: [
        new VectorLayer({
          source: seen,
          style: new Style({
            stroke: new Stroke({ color: "#7a5a0c", width: 1.8, lineDash: [6, 5] }),
            fill: new Fill({ color: "#ddc48f33" }),
            image: new CircleStyle({ radius: 2.6, fill: new Fill({ color: "#934c28" }) }),
          }),
        }),
        new VectorLayer({ source: around, declutter: true }),
        new VectorLayer({ source: lines }),
      ],
      view: new View({ center: fromLonLat([0, 20]), zoom: 2 }),
      controls: [new ScaleLine({ units: system === "us" ? "us" : "metric" })],
      interactions: interactions({ altShiftDragRotate: false, pinchRotate: false, doubleClickZoom: false }),
    });
    const draw = new Draw({ source: new VectorSource(), type: "LineString" });
    draw.on("drawend", (e) =>
      latest.current(
        (e.feature.getGeometry() as LineString).getCoordinates().map((c) => {
          const [lon, lat] = toLonLat(c) as [number, number];
          return { lon: Number(lon.toFixed(7)), lat: Number(lat.toFixed(7)) };
        }),
      ),
    );
    draw.setActive(false);
    map.addInteraction(draw);
    const extent = around.getExtent();
    if (extent && Number.isFinite(extent[0])) map.getView().fit(extent, { padding: [40, 40, 40, 40], maxZoom: 18 });
    state.current = { map, lines, seen, draw };
    return () => map.setTarget(undefined);
    // blocks are read once when the map opens
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [system]);
  useEffect(() => {
    const s = state.current;
    if (!s) return;
    s.lines.clear();
    for (const b of barriers) {
      const f = new Feature(new LineString(b.line.map(xy)));
      const color = b.kind === "water" ? "#2f6187" : b.kind === "hedge" ? "#436330" : "#2a251f";
      f.setStyle(
        new Style({
          stroke: new Stroke({ color, width: b.kind === "hedge" ? 5 : 3, lineDash: b.kind === "hedge" ? [2, 6] : undefined }),
          text: label(b.name),
        }),
      );
      s.lines.addFeature(f);
    }
  }, [barriers, system]);
  useEffect(() => {
    const s = state.current;
    if (!s) return;
    s.seen.clear();
    if (!preview) return;
    s.seen.addFeature(new Feature(new Polygon([ring(preview.outline)])));
    if (preview.spots.length > 0) s.seen.addFeature(new Feature(new MultiPoint(preview.spots.map(xy))));
    const extent = s.seen.getExtent();
    if (extent) s.map.getView().fit(extent, { padding: [30, 30, 30, 30], maxZoom: 18 });
  }, [preview, system]);
  useEffect(() => {
    state.current?.draw.setActive(drawing);
  }, [drawing, system]);
  return (
    <div
      ref={box}
      tabIndex={0}
      className="map h-[30rem] w-full border border-line bg-paper"
      role="application"
      aria-label="Map of the estate with its heights and barriers; the lists beside it hold the same"
    />
  );
}
