import createClient from "openapi-fetch";
import { QueryClient, useInfiniteQuery, useQuery, type Query } from "@tanstack/react-query";
import { put, sent, waiting } from "./outbox";
import type { components, paths } from "./schema";

export type Schema = components["schemas"];
/** A plan as it is read: its jobs with what is said of each. */
export type Plan = Omit<Schema["Plan"], "jobs"> & { jobs: Schema["Job"][] };
export type Block = Schema["Block"];
export type BlockDoc = Schema["BlockDoc"];
export type Patch = Record<string, unknown>;

export const api = createClient<paths>({ baseUrl: "/api/v1" });

/** seenFrom is the planting the block on the page is seen from, as the address says; "" is the one under way. */
export const seenFrom = () => new URLSearchParams(window.location.search).get("planting") ?? "";

/** What is asked of the block on the page is asked of the planting it is seen from. */
api.use({
  onRequest({ request }) {
    const planting = seenFrom();
    const here = /^\/blocks\/([^/]+)/.exec(window.location.pathname)?.[1];
    const url = new URL(request.url);
    if (!planting || !here || !url.pathname.startsWith(`/api/v1/blocks/${here}`)) return undefined;
    url.searchParams.set("planting", planting);
    return new Request(url, request);
  },
});

/** Failed is a problem document the server answered with. */
export class Failed extends Error {
  constructor(readonly problem: Schema["Problem"]) {
    super(problem.detail || problem.title);
  }
}

/** Stale is a write that lost against somebody else's; current is what stands now. */
export class Stale extends Error {
  constructor(
    readonly current: BlockDoc,
    readonly patch: Patch,
  ) {
    super("Somebody changed this block since you opened it.");
  }
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** take unwraps an answer or throws what went wrong. */
export async function take<T>(call: Promise<Answer<T>>): Promise<T> {
  let a: Answer<T>;
  try {
    a = await call;
  } catch (cause) {
    if (cause instanceof DOMException) throw cause;
    throw new Failed({
      type: "offline",
      title: "The program does not answer",
      status: 0,
      detail: "The program does not answer. Is it still running? Nothing was changed.",
    });
  }
  if (a.error !== undefined || !a.response.ok) {
    const p = a.error as Schema["Problem"] | undefined;
    throw new Failed(
      p?.title
        ? p
        : {
            type: "unexpected",
            title: "Unexpected answer",
            status: a.response.status,
            detail: `The program answered ${a.response.status}.`,
          },
    );
  }
  return a.data as T;
}

const personKey = "slowroot.person";
export const person = {
  get: () => localStorage.getItem(personKey) ?? "",
  set: (name: string) => localStorage.setItem(personKey, name),
};
const by = () => ({ "X-Person": encodeURIComponent(person.get()) });

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: { retry: false, staleTime: 10_000, refetchOnWindowFocus: true, refetchOnReconnect: true, networkMode: "always" },
  },
});

export const useStatus = () => useQuery({ queryKey: ["status"], queryFn: () => take(api.GET("/status")) });
export const useOverview = () => useQuery({ queryKey: ["overview"], queryFn: () => take(api.GET("/overview")) });
export const useSheets = () => useQuery({ queryKey: ["sheets"], queryFn: () => take(api.GET("/sheets")), staleTime: Infinity });
export const useSheet = (id: string, against = "") =>
  useQuery({
    queryKey: ["sheet", id, against],
    queryFn: () =>
      take(api.GET("/sheets/{sheet}", { params: { path: { sheet: id }, query: { against: against || undefined } } })),
    enabled: id !== "",
  });
export const useCalculators = () =>
  useQuery({ queryKey: ["calculators"], queryFn: () => take(api.GET("/calculators")), staleTime: Infinity });
export const useCopies = () => useQuery({ queryKey: ["copies"], queryFn: () => take(api.GET("/copies")) });
export const useHistory = (block?: string, who?: string) =>
  useInfiniteQuery({
    queryKey: ["history", block, who],
    queryFn: ({ pageParam }) =>
      take(api.GET("/history", { params: { query: { block, who, n: historyPage, before: pageParam || undefined } } })),
    initialPageParam: 0,
    getNextPageParam: (page) => (page.length === historyPage ? page.at(-1)?.id : undefined),
  });
const historyPage = 50;
export const useChange = (change: number) =>
  useQuery({
    queryKey: ["change", change],
    queryFn: () => take(api.GET("/history/{change}", { params: { path: { change } } })),
  });
export const useSteps = (who: string) => useQuery({ queryKey: ["steps", who], queryFn: () => read.steps() });
export const useRecords = (id: string) =>
  useQuery({ queryKey: ["records", id], queryFn: () => take(api.GET("/blocks/{id}/records", { params: { path: { id } } })) });
export const useEstate = () => useQuery({ queryKey: ["estate"], queryFn: () => take(api.GET("/estate")) });
export const useBlock = (id: string) =>
  useQuery({ queryKey: ["block", id, seenFrom()], queryFn: () => take(api.GET("/blocks/{id}", { params: { path: { id } } })) });
export const usePlan = (id: string) =>
  useQuery({
    queryKey: ["plan", id, seenFrom()],
    queryFn: async (): Promise<Plan> => {
      const plan = await take(api.GET("/blocks/{id}/plan", { params: { path: { id } } }));
      return { ...plan, jobs: jobsTold(plan.jobs) };
    },
  });

/** jobsTold gives each job what is said of it: that is sent once for all the times it comes. */
export const jobsTold = (jobs: Schema["Jobs"]): Plan["jobs"] =>
  jobs.each.map(({ at, ...job }) => ({ ...jobs.said[at]!, ...job }));
export const useForks = (id: string) =>
  useQuery({
    queryKey: ["forks", id, seenFrom()],
    queryFn: () => take(api.GET("/blocks/{id}/forks", { params: { path: { id } } })),
  });
export const useWorking = (id: string, figure: string) =>
  useQuery({
    queryKey: ["working", id, figure, seenFrom()],
    queryFn: () => take(api.GET("/blocks/{id}/working", { params: { path: { id }, query: { figure } } })),
  });
export const useBearings = (id: string, revision: number) =>
  useQuery({
    queryKey: ["bearings", id, revision, seenFrom()],
    queryFn: () => take(api.GET("/blocks/{id}/bearings", { params: { path: { id } } })),
  });
export const usePegs = (id: string) =>
  useQuery({
    queryKey: ["pegs", id, seenFrom()],
    queryFn: () => take(api.GET("/blocks/{id}/pegs", { params: { path: { id } } })),
  });
export const useOptions = (id: string) =>
  useQuery({
    queryKey: ["options", id],
    queryFn: () => take(api.GET("/blocks/{id}/options", { params: { path: { id } } })),
  });
export const useLists = () => useQuery({ queryKey: ["lists"], queryFn: () => take(api.GET("/lists")) });
export const useRains = () => useQuery({ queryKey: ["rains"], queryFn: () => take(api.GET("/estate/rains")) });
export const useClimate = () => useQuery({ queryKey: ["climate"], queryFn: () => take(api.GET("/climate")) });
export const useLand = (id: string) =>
  useQuery({
    queryKey: ["land", id],
    queryFn: () =>
      take(api.GET("/blocks/{id}/land", { params: { path: { id } } })).catch((e: unknown) => {
        if (e instanceof Failed && e.problem.status === 404) return null; // no heights reach it
        throw e;
      }),
  });
export const useFit = (id: string) =>
  useQuery({ queryKey: ["fit", id, seenFrom()], queryFn: () => take(api.GET("/blocks/{id}/fit", { params: { path: { id } } })) });
export const useFitOf = (sheet: string) =>
  useQuery({
    queryKey: ["fitOf", sheet],
    queryFn: () => take(api.GET("/fit/{sheet}", { params: { path: { sheet } } })),
    enabled: sheet !== "",
  });
export const useJobs = (from: string, to: string) =>
  useQuery({
    queryKey: ["jobs", from, to],
    queryFn: () => take(api.GET("/jobs", { params: { query: { from, to } } })),
    enabled: from !== "",
  });

export const useJobWeeks = (from: string, to: string) =>
  useQuery({
    queryKey: ["jobs", "weeks", from, to],
    queryFn: () => take(api.GET("/jobs/weeks", { params: { query: { from, to } } })),
    enabled: from !== "",
  });
export const useOrders = () => useQuery({ queryKey: ["orders"], queryFn: () => take(api.GET("/orders")) });

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
