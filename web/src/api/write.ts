import type { Query } from "@tanstack/react-query";
import {
  api,
  by,
  Failed,
  person,
  queryClient,
  seenFrom,
  Stale,
  take,
  type Answer,
  type BlockDoc,
  type Patch,
  type Schema,
} from "./call";
import { put, sent, waiting } from "./outbox";

/**
 * changed makes every view read again what a change may have touched. A first reading still under way
 * would not be started again by itself and could bring what stood before the change: it is dropped.
 */
export async function changed(qc = queryClient) {
  const predicate = (q: Query) => !["sheets", "calculators", "status"].includes(String(q.queryKey[0]));
  await qc.cancelQueries({ predicate });
  await qc.invalidateQueries({ predicate });
}

export async function patchBlock(doc: { id: string; revision: number }, patch: Patch): Promise<BlockDoc> {
  const call = await api.PATCH("/blocks/{id}", {
    params: { path: { id: doc.id }, header: { "If-Match": `"${doc.revision}"`, ...by() } },
    body: patch,
  });
  if (call.response.status === 412) throw new Stale(call.error as unknown as BlockDoc, patch);
  return keep(await take(Promise.resolve(call as Answer<BlockDoc>)));
}

/** keep remembers a block as the last write answered it, so that the next write is made from its revision. */
function keep(doc: BlockDoc) {
  queryClient.setQueryData(["block", doc.id, seenFrom()], doc);
  return doc;
}

const at = (d: BlockDoc) => ({ path: { id: d.id }, header: { "If-Match": `"${latest(d).revision}"`, ...by() } });
const ofEstate = (revision: number) => ({ header: { "If-Match": `"${revision}"`, ...by() } });

/** read asks what a file holds, or what stands now; nothing is written. */
export const read = {
  heights: (body: Schema["HeightsFile"]) => take(api.POST("/import/heights", { body })),
  weather: (body: Schema["NamedText"]) => take(api.POST("/import/weather", { body })),
  normals: (body: Schema["NamedText"]) => take(api.POST("/import/normals", { body })),
  lab: (body: Schema["LabFile"]) => take(api.POST("/import/lab", { body })),
  place: (text: string) => take(api.GET("/place", { params: { query: { text } } })),
  outline: (body: Schema["Outline"]) => take(api.POST("/outline", { body })),
  boundaries: (file: File) =>
    take(
      api.POST("/import/boundaries", {
        body: file as unknown as string,
        bodySerializer: (b) => b as unknown as string,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    ),
  steps: () => take(api.GET("/steps", { params: { header: by() } })),
};

let line: Promise<unknown> = Promise.resolve();

/**
 * inTurn makes one change after the other, each from what the one before left: two fields left in quick succession are
 * two changes, a field left right after an undo is made on what the undo left.
 */
export function inTurn<T>(change: () => Promise<T>): Promise<T> {
  const next = line.then(change, change);
  line = next.catch(() => undefined);
  return next;
}

export type Told = Omit<Schema["Record"], "id">;

/**
 * record keeps what happened on a block. It is kept on this device first and sent at once; without a connection it waits
 * and is sent when there is one again. Each record has its own id: sent twice it is kept once. True says that it was sent.
 */
export const record = (block: string, ...told: Told[]): Promise<boolean> => {
  put({ block, who: person.get(), records: told.map((t) => ({ ...t, id: crypto.randomUUID() })) });
  return inTurn(send);
};

/** send sends what waits, oldest first, until one does not get through. What the program refuses is not kept: it throws. */
export async function send(): Promise<boolean> {
  let any = false;
  try {
    for (let p = waiting()[0]; p; p = waiting()[0]) {
      const header = { "X-Person": encodeURIComponent(p.who) };
      try {
        await take(api.POST("/blocks/{id}/records", { params: { path: { id: p.block }, header }, body: { records: p.records } }));
      } catch (e) {
        if (e instanceof Failed && (e.problem.type === "offline" || e.problem.status >= 500)) return false;
        sent(p);
        throw e;
      }
      sent(p);
      any = true;
    }
    return true;
  } finally {
    if (any || waiting().length === 0) await changed();
  }
}

/** latest is the newest state of a block that this page has seen. */
export const latest = (doc: BlockDoc) => queryClient.getQueryData<BlockDoc>(["block", doc.id, seenFrom()]) ?? doc;

export const write = {
  addBlocks: (blocks: Schema["NewBlock"][]) => take(api.POST("/blocks", { params: { header: by() }, body: { blocks } })),
  level: (from: string, to: string) => take(api.POST("/jobs/level", { params: { query: { from, to }, header: by() } })),
  succession: (body: Schema["SuccessionWanted"]) => take(api.POST("/succession/keep", { params: { header: by() }, body })),
  remove: (d: BlockDoc) =>
    take(
      api.DELETE("/blocks/{id}", { params: { path: { id: d.id }, header: { "If-Match": `"${latest(d).revision}"`, ...by() } } }),
    ),
  adopt: (d: BlockDoc) =>
    take(
      api.POST("/blocks/{id}/adopt", {
        params: { path: { id: d.id }, header: { "If-Match": `"${latest(d).revision}"`, ...by() } },
      }),
    ).then(keep),
  planted: (d: BlockDoc, on: string) =>
    take(
      api.POST("/blocks/{id}/planted", {
        params: { path: { id: d.id }, header: { "If-Match": `"${latest(d).revision}"`, ...by() } },
        body: { on },
      }),
    ).then(keep),
  estate: (revision: number, patch: Patch) =>
    take(api.PATCH("/estate", { params: { header: { "If-Match": `"${revision}"`, ...by() } }, body: patch })).then(async (d) => {
      await queryClient.invalidateQueries({ queryKey: ["sheets"] }); // their texts speak the estate's units
      return d;
    }),
  heights: (revision: number, body: Schema["HeightsFile"]) => take(api.POST("/heights", { params: ofEstate(revision), body })),
  weather: (revision: number, body: Schema["NamedText"]) => take(api.POST("/weather", { params: ofEstate(revision), body })),
  poll: () => take(api.POST("/station/poll")),
  tests: (d: BlockDoc, body: Schema["LabFile"]) => take(api.POST("/blocks/{id}/tests", { params: at(d), body })).then(keep),
  drains: (d: BlockDoc, body: Schema["NamedText"]) => take(api.POST("/blocks/{id}/drains", { params: at(d), body })).then(keep),
  sample: (d: BlockDoc, body: Schema["SampleRequest"]) =>
    take(api.POST("/blocks/{id}/samples", { params: at(d), body })).then(keep),
  report: (d: BlockDoc, sample: string) => {
    const p = at(d);
    return take(
      api.POST("/blocks/{id}/samples/{sample}/report", { params: { path: { ...p.path, sample }, header: p.header } }),
    ).then(keep);
  },
  copySheet: (from: string, name: string) => take(api.POST("/sheets", { params: { header: by() }, body: { from, name } })),
  takeSheet: (text: string) => take(api.POST("/sheets", { params: { header: by() }, body: { text } })),
  editSheet: (d: Schema["SheetDoc"], edits: Schema["SheetEdit"][]) =>
    take(
      api.PATCH("/sheets/{sheet}", {
        params: { path: { sheet: d.id }, header: { "If-Match": `"${d.revision}"`, ...by() } },
        body: { edits },
      }),
    ),
  removeSheet: (d: Schema["SheetDoc"]) =>
    take(
      api.DELETE("/sheets/{sheet}", { params: { path: { sheet: d.id }, header: { "If-Match": `"${d.revision}"`, ...by() } } }),
    ),
  undo: (change: number) => take(api.POST("/undo", { params: { header: { "If-Match": `"${change}"`, ...by() } } })),
  redo: (change: number) => take(api.POST("/redo", { params: { header: { "If-Match": `"${change}"`, ...by() } } })),
  plan: (d: BlockDoc, body: Schema["Planting"]) => take(api.POST("/blocks/{id}/plantings", { params: at(d), body })),
  end: (d: BlockDoc, body: Schema["PlantingEnd"]) => take(api.POST("/blocks/{id}/end", { params: at(d), body })).then(keep),
  split: (d: BlockDoc, from: Schema["Point"], to: Schema["Point"]) =>
    take(api.POST("/blocks/{id}/split", { params: at(d), body: { from, to } })),
  choose: (d: BlockDoc, planting: string, aside: Record<string, string>) =>
    take(api.POST("/blocks/{id}/options", { params: at(d), body: { planting, aside } })).then(keep),
  merge: (d: BlockDoc, other: string) => take(api.POST("/blocks/{id}/merge", { params: at(d), body: { other } })).then(keep),
  duplicate: (d: BlockDoc, name: string) =>
    take(api.POST("/blocks/{id}/duplicate", { params: { path: { id: d.id }, header: by() }, body: { name } })),
  area: async (rings: number[][][]) => {
    const r = await take(
      api.POST("/calculators/{name}", { params: { path: { name: "polygon-area" } }, body: { inputs: { rings } } }),
    );
    return r.outputs as { areaM2: number; perimeterM: number };
  },
  sides: async (points: { lon: number; lat: number }[]) => {
    const r = await take(
      api.POST("/calculators/{name}", { params: { path: { name: "side-lengths" } }, body: { inputs: { points } } }),
    );
    return r.outputs.sidesM as number[];
  },
};

/** changeSheets makes one change of the estate's own sheets, and reads them and everything planned with them again. */
export const changeSheets = <T>(make: () => Promise<T>) =>
  inTurn(async () => {
    try {
      return await make();
    } finally {
      await queryClient.invalidateQueries({ queryKey: ["sheets"] });
      await changed();
    }
  });

/** patchEstate makes one change of the estate on what the change before it left, and reads everything again. */
export const patchEstate = (make: (e: Schema["Estate"]) => Patch) =>
  inTurn(async () => {
    try {
      const now = queryClient.getQueryData<Schema["EstateDoc"]>(["estate"]) ?? (await take(api.GET("/estate")));
      queryClient.setQueryData(["estate"], await write.estate(now.revision, make(now.estate)));
    } finally {
      await changed();
    }
  });
