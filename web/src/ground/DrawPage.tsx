import { useState, type DragEvent } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { changed, patchBlock, patchEstate, Stale, useBlock, useOverview, write, type Block, type Schema } from "../api/client";
import { useReading } from "../shell/reading";
import { say } from "../shell/Notices";
import { PlaceField } from "../shell/PlaceField";
import { Busy, ErrorText, Trouble } from "../shell/States";
import { FoundInFile } from "./FoundInFile";
import { PointTable } from "./PointTable";
import { Reshape, type CutLine } from "./Reshape";
import { ToldOutline } from "./ToldOutline";
import { boundariesIn, newBlock, type Points } from "./points";
import { useMeasured } from "./useMeasured";
import { late } from "../shell/late";

const BoundaryMap = late(() => import("./BoundaryMap"), "Drawing the map");

/** Draw or edit a boundary, by pointer or as a table of points, or take it from a GeoJSON file. */
export default function DrawPage() {
  const { id } = useParams();
  const block = useBlock(id ?? "");
  const overview = useOverview();
  if (id && block.isPending) return <Busy what="Opening the boundary" />;
  if (id && block.error) return <Trouble error={block.error} />;
  if (overview.isPending) return <Busy what="Opening the map" />;
  if (overview.error) return <Trouble error={overview.error} />;
  return (
    <Editor
      key={id ?? "new"}
      doc={id ? block.data : undefined}
      estate={overview.data}
      others={overview.data.blocks.filter((b) => b.id !== id && !b.problem)}
    />
  );
}

function Editor({
  doc,
  others,
  estate,
}: {
  doc?: Schema["BlockDoc"];
  others: Schema["BlockInShort"][];
  estate: Schema["Overview"];
}) {
  const go = useNavigate();
  const { text } = useReading();
  const [points, setPoints] = useState<Points>(doc?.block.boundary.outer ?? []);
  const [past, setPast] = useState<Points[]>([]);
  const [name, setName] = useState(doc?.block.name ?? `Block ${others.length + 1}`);
  const [told, setTold] = useState<Schema["OutlineDrawn"]>();
  const [line, setLine] = useState<CutLine>();
  const [accuracy, setAccuracy] = useState(String(doc?.block.accuracyM ?? 0));
  const [error, setError] = useState<unknown>();
  const [found, setFound] = useState<Schema["Candidate"][]>();
  const [taken, setTaken] = useState<Schema["Candidate"][]>([]);
  const [over, setOver] = useState(false);
  const [corners, setCorners] = useState<Points>([]);
  const placeless = !doc && others.length === 0;
  const holes = doc?.block.boundary.holes ?? [];

  const change = (next: Points) => {
    setPast((p) => [...p.slice(-100), points]);
    setPoints(next);
    setCorners([]);
    setTold(undefined);
  };
  const undo = () => {
    const last = past.at(-1);
    if (!last) return;
    setPast(past.slice(0, -1));
    setPoints(last);
  };

  // while a boundary is drawn its corners so far are measured, the pointer being the last of them
  const shape = points.length > 0 ? points : corners;
  const { measured, sides, trouble } = useMeasured(shape, holes, points.length > 0);

  const keep = async () => {
    setError(undefined);
    try {
      if (doc) {
        await patchBlock(doc, {
          boundary: { outer: points },
          accuracyM: Number(accuracy),
          surveyed: told ? told.surveyed : past.length ? "edited on the map" : doc.block.surveyed,
        });
        say("The boundary is kept");
        await changed();
        void go(`/blocks/${doc.id}/ground`);
        return;
      }
      const block = {
        name: name.trim(),
        number: 0,
        boundary: { outer: points },
        surveyed: told?.surveyed ?? "drawn on the map",
        accuracyM: Number(accuracy) || (told?.accuracyM ?? 0),
        notes: "",
      } as Block;
      const [made] = await write.addBlocks([block]);
      await changed();
      void go(`/blocks/${made!.id}`);
    } catch (e) {
      setError(
        e instanceof Stale
          ? new Error(
              "Somebody changed this block meanwhile. Your points are still here; keep again to put them in place of theirs.",
            )
          : e,
      );
      await changed();
    }
  };

  const read = async (file: File) => {
    setError(undefined);
    setFound(undefined);
    try {
      const list = await boundariesIn(file);
      setFound(list);
      setTaken(list.filter((c) => !c.problem && !c.doubt));
    } catch (e) {
      setError(e);
    }
  };
  const bring = async (list: Schema["Candidate"][]) => {
    try {
      const made = await write.addBlocks(list.map(newBlock));
      say(made.length === 1 ? `${made[0]!.block.name} is added` : `${made.length} blocks are added`);
      await changed();
      void go(made.length === 1 ? `/blocks/${made[0]!.id}` : "/");
    } catch (e) {
      setError(e);
    }
  };
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    const f = e.dataTransfer.files[0];
    if (f && !doc) void read(f);
  };

  const inNumbers = (
    <ToldOutline
      place={doc ? doc.block.boundary.outer[0] : others.length === 0 ? estate.estate.at : undefined}
      draw={(d) => {
        if (d) change(d.boundary.outer);
        setTold(d);
      }}
    />
  );
  return (
    <div
      className={`grid grid-cols-[minmax(0,1fr)] gap-6 px-5 py-4 lg:grid-cols-[minmax(0,1fr)_22rem] ${over ? "bg-soil" : ""}`}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <section className="min-w-0">
        <h1>{doc ? `Boundary of ${doc.block.name}` : "Add a block"}</h1>
        <p className="text-faint">
          {doc
            ? "Drag a point or the middle of a line; with Alt a click takes a point away."
            : "Click the corners one after another and the first one again to close, say the field in numbers, or drop a file of boundaries anywhere on this page."}
        </p>
        {placeless && (
          <div className="mt-2">
            <PlaceField
              label={
                estate.estate.at ? "The map opens at" : "Where does the estate lie? The map goes there, at the scale of a field"
              }
              value={estate.estate.at}
              keep={(p) => void patchEstate(() => ({ at: p ?? null })).then(() => say("Where the estate lies is kept"), setError)}
            />
          </div>
        )}
        <BoundaryMap
          points={points}
          holes={holes}
          others={others}
          change={change}
          place={estate.estate.at}
          drawing={setCorners}
          preview={found && taken.map((c) => c.boundary)}
          cut={line}
          cutting={setLine}
        />
      </section>
      <section className="min-w-0">
        {doc ? (
          <details className="mb-2">
            <summary className="cursor-pointer font-semibold">Say it in numbers instead</summary>
            {inNumbers}
          </details>
        ) : (
          inNumbers
        )}
        <p className="mt-3 text-2xl font-semibold" aria-live="polite">
          {measured ? text(measured.areaM2, "area") : "–"}
          <span className="block text-sm font-normal text-faint">
            {measured
              ? `${text(measured.perimeterM, "distance")} round`
              : points.length > 0
                ? `${points.length} points`
                : "no boundary yet"}
          </span>
        </p>
        {sides.length > 0 && sides.length <= 40 && (
          <p className="text-sm text-faint">
            {sides.length === 1 ? "side" : "sides"}: {sides.map((s) => text(s, "distance")).join(", ")}
          </p>
        )}
        {trouble !== undefined && <ErrorText error={trouble} />}
        {error !== undefined && (
          <div className="mt-2">
            <ErrorText error={error} />
          </div>
        )}
        {found && (
          <FoundInFile
            found={found}
            shown={setTaken}
            bring={(list) => void bring(list)}
            leave={() => {
              setFound(undefined);
              setTaken([]);
            }}
          />
        )}
        <form
          className="mt-3 flex flex-col gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            void keep();
          }}
        >
          {!doc && (
            <label className="flex flex-col">
              Name
              <input className="field" required maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
            </label>
          )}
          <label className="flex flex-col">
            Points known to ± m (0 if not known)
            <input
              className="field w-28 text-right"
              inputMode="decimal"
              pattern="[0-9]+(\.[0-9]+)?"
              value={accuracy}
              onChange={(e) => setAccuracy(e.target.value)}
            />
          </label>
          <div className="flex flex-wrap gap-2">
            <button className="act act-first" disabled={!measured || points.length < 3}>
              {doc ? "Keep the boundary" : "Add the block"}
            </button>
            <button type="button" className="act" disabled={past.length === 0} onClick={undo}>
              Undo point
            </button>
            <Link className="act" to={doc ? `/blocks/${doc.id}/ground` : "/"}>
              Leave
            </Link>
          </div>
        </form>
        {!doc && (
          <label className="act mt-3 inline-block cursor-pointer focus-within:outline-2">
            File of boundaries …
            <input
              type="file"
              className="sr-only"
              accept=".geojson,.json,.kml,.kmz,.gpx,.csv,.txt,application/geo+json"
              onChange={(e) => {
                const f = e.target.files?.[0];
                if (f) void read(f);
                e.target.value = "";
              }}
            />
          </label>
        )}
        {!doc && <p className="text-sm text-faint">GeoJSON, KML, KMZ, GPX, or a table of corners or outlines</p>}
        <PointTable points={points} change={change} />
        {doc && <Reshape doc={doc} others={others} line={line} setLine={setLine} />}
      </section>
    </div>
  );
}
