import Feature from "ol/Feature";
import OlMap from "ol/Map";
import View from "ol/View";
import ScaleLine from "ol/control/ScaleLine";
import LineString from "ol/geom/LineString";
import Polygon from "ol/geom/Polygon";
import Draw from "ol/interaction/Draw";
import Modify from "ol/interaction/Modify";
import Snap from "ol/interaction/Snap";
import { defaults as interactions } from "ol/interaction/defaults";
import { altKeyOnly, singleClick } from "ol/events/condition";
import VectorLayer from "ol/layer/Vector";
import { fromLonLat, toLonLat } from "ol/proj";
import VectorSource from "ol/source/Vector";
import CircleStyle from "ol/style/Circle";
import Fill from "ol/style/Fill";
import Stroke from "ol/style/Stroke";
import Style from "ol/style/Style";
import MultiPoint from "ol/geom/MultiPoint";
import { useEffect, useRef, useState } from "react";
import type { Schema } from "../api/client";
import { useReading } from "../shell/reading";
import type { Points } from "./points";
import type { CutLine } from "./Reshape";
import "ol/ol.css";

/** A closed ring on the map; the points themselves do not repeat the first one. */
const xy = (r: Points) => [...r, ...r.slice(0, 1)].map((p) => fromLonLat([p.lon, p.lat]));
const back = (c: number[]) => {
  const [lon, lat] = toLonLat(c) as [number, number];
  return { lon: Number(lon.toFixed(8)), lat: Number(lat.toFixed(8)) };
};
const own = new Style({ fill: new Fill({ color: "#c9d3b088" }), stroke: new Stroke({ color: "#2a251f", width: 2 }) });
const corners = new Style({
  image: new CircleStyle({ radius: 5, fill: new Fill({ color: "#fffdf8" }), stroke: new Stroke({ color: "#934c28", width: 2 }) }),
  geometry: (f) => new MultiPoint(((f.getGeometry() as Polygon).getCoordinates()[0] ?? []).slice(0, -1)),
});
const other = new Style({ fill: new Fill({ color: "#efe7d7" }), stroke: new Stroke({ color: "#8a7f6e", width: 1 }) });
const slice = new Style({ stroke: new Stroke({ color: "#9c2218", width: 2, lineDash: [8, 5] }) });
const fresh = new Style({
  fill: new Fill({ color: "#ddc48f66" }),
  stroke: new Stroke({ color: "#7a5a0c", width: 2, lineDash: [6, 4] }),
});

/** About 800 m across the map at middle latitudes. */
const fieldZoom = 16.5;

/** Drawing and editing on a bare map: snaps to the neighbours' boundaries. */
export default function BoundaryMap({
  points,
  holes,
  others,
  change,
  preview,
  place,
  drawing,
  cut,
  cutting,
}: {
  points: Points;
  holes: Points[];
  others: Schema["BlockInShort"][];
  change: (p: Points) => void;
  preview?: Schema["Polygon"][];
  place?: Schema["Point"]; // where a map without a block opens
  drawing: (corners: Points) => void; // the corners so far and the pointer, while a boundary is drawn
  cut?: CutLine; // the line a block is to be cut along; nothing else is drawn meanwhile
  cutting: (l: CutLine) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const state = useRef<{
    map: OlMap;
    mine: VectorSource;
    file: VectorSource;
    knife: VectorSource;
    draw: Draw;
    stroke: Draw;
    modify: Modify;
  }>(null);
  const latest = useRef({ change, points, drawing, cutting });
  const [pointer, setPointer] = useState<Points[number]>();
  const { system } = useReading();
  useEffect(() => {
    latest.current = { change, points, drawing, cutting };
  });

  useEffect(() => {
    const mine = new VectorSource();
    const around = new VectorSource();
    const file = new VectorSource();
    const knife = new VectorSource();
    for (const b of others)
      around.addFeature(new Feature(new Polygon([xy(b.boundary.outer), ...(b.boundary.holes ?? []).map(xy)])));
    const map = new OlMap({
      target: box.current!,
      layers: [
        new VectorLayer({ source: around, style: other }),
        new VectorLayer({ source: file, style: fresh }),
        new VectorLayer({ source: mine, style: [own, corners] }),
        new VectorLayer({ source: knife, style: slice }),
      ],
      view: new View({ center: fromLonLat([0, 20]), zoom: 2 }),
      controls: [new ScaleLine({ units: system === "us" ? "us" : "metric" })],
      interactions: interactions({ altShiftDragRotate: false, pinchRotate: false, doubleClickZoom: false }),
    });
    const modify = new Modify({ source: mine, deleteCondition: (e) => altKeyOnly(e) && singleClick(e) });
    modify.on("modifyend", (e) => {
      const g = e.features.item(0)?.getGeometry() as Polygon;
      latest.current.change((g.getCoordinates()[0] ?? []).slice(0, -1).map(back));
    });
    const draw = new Draw({ source: mine, type: "Polygon" });
    draw.on("drawstart", (e) => {
      const g = e.feature.getGeometry() as Polygon;
      g.on("change", () => latest.current.drawing((g.getCoordinates()[0] ?? []).slice(0, -1).map(back)));
    });
    draw.on("drawabort", () => latest.current.drawing([]));
    map.on("pointermove", (e) => setPointer(back(e.coordinate)));
    draw.on("drawend", (e) => {
      const g = e.feature.getGeometry() as Polygon;
      latest.current.change((g.getCoordinates()[0] ?? []).slice(0, -1).map(back));
    });
    const stroke = new Draw({ type: "LineString", maxPoints: 2 });
    stroke.setActive(false);
    stroke.on("drawend", (e) => {
      const [from, to] = (e.feature.getGeometry() as LineString).getCoordinates().map(back);
      latest.current.cutting({ from, to });
    });
    map.addInteraction(modify);
    map.addInteraction(stroke);
    map.addInteraction(draw);
    map.addInteraction(new Snap({ source: around }));
    map.addInteraction(new Snap({ source: mine }));
    const key = (e: KeyboardEvent) => {
      if (e.key === "Backspace" && draw.getActive() && document.activeElement === map.getTargetElement()) draw.removeLastPoint();
      if (e.key === "Escape" && draw.getActive()) draw.abortDrawing();
    };
    window.addEventListener("keydown", key);
    const start = latest.current.points;
    const extent = start.length > 2 ? new Polygon([xy(start)]).getExtent() : around.getExtent();
    if (extent && Number.isFinite(extent[0])) map.getView().fit(extent, { padding: [50, 50, 50, 50], maxZoom: 19 });
    else if (place) map.setView(new View({ center: fromLonLat([place.lon, place.lat]), zoom: fieldZoom }));
    state.current = { map, mine, file, knife, draw, stroke, modify };
    return () => {
      window.removeEventListener("keydown", key);
      map.setTarget(undefined);
    };
    // the neighbours are read once when the map opens
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [system, place?.lon, place?.lat]);

  useEffect(() => {
    const s = state.current;
    if (!s) return;
    s.mine.clear();
    s.draw.setActive(points.length === 0);
    if (points.length === 0) return;
    const mine = new Polygon([xy(points), ...holes.map(xy)]);
    s.mine.addFeature(new Feature(mine));
    const seen = s.map.getSize() && s.map.getView().calculateExtent(s.map.getSize());
    if (!seen || !mine.intersectsExtent(seen)) s.map.getView().fit(mine.getExtent(), { padding: [50, 50, 50, 50], maxZoom: 19 });
  }, [points, holes]);

  useEffect(() => {
    const s = state.current;
    if (!s) return;
    s.knife.clear();
    s.stroke.setActive(cut !== undefined);
    s.modify.setActive(cut === undefined);
    if (cut?.from && cut.to)
      s.knife.addFeature(new Feature(new LineString([cut.from, cut.to].map((p) => fromLonLat([p.lon, p.lat])))));
  }, [cut]);

  useEffect(() => {
    const s = state.current;
    if (!s) return;
    s.file.clear();
    for (const p of preview ?? []) s.file.addFeature(new Feature(new Polygon([xy(p.outer), ...(p.holes ?? []).map(xy)])));
    const extent = s.file.getExtent();
    if (preview?.length && extent) s.map.getView().fit(extent, { padding: [50, 50, 50, 50], maxZoom: 19 });
  }, [preview]);

  return (
    <div className="relative mt-3">
      <div
        ref={box}
        tabIndex={0}
        className="map h-[26rem] w-full border border-line bg-paper"
        role="application"
        aria-label="Map for drawing; the table of points does the same. Backspace takes back the last corner while drawing."
      />
      <p className="mt-1 h-6 text-sm text-faint" aria-hidden>
        {pointer && `pointer at ${pointer.lat.toFixed(6)}°, ${pointer.lon.toFixed(6)}°`.replaceAll("-", "−")}
      </p>
      {points.length === 0 && (
        <button className="act absolute top-2 right-2 bg-paper" onClick={() => state.current?.draw.removeLastPoint()}>
          Take back the last corner
        </button>
      )}
    </div>
  );
}
