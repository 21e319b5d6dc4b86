import { useCallback, useEffect, useRef, useState } from "react";
import {
  api,
  changed,
  inTurn,
  latest,
  patchBlock,
  Stale,
  take,
  type Block,
  type BlockDoc,
  type Patch,
  jobsTold,
  type Plan,
  type Schema,
} from "../api/client";
import { say, sayError } from "../shell/Notices";

export type Part = keyof Plan;

/** What everything dragged may change, and is read beside it. */
const beside = ["figures", "findings", "steps", "preparation"] as const;
/** The parts a preview asks for, by what is dragged. */
export const laid = [...beside, "spec", "rows", "beside", "strips", "orderBeside", "years"] as const;
export const drained = [...beside, "drains", "works"] as const;
export const dug = [...beside, "soil", "drains", "works", "checklist"] as const;
export const dated = [...beside, "network", "raised", "jobs", "years", "supplies", "cropDate", "works"] as const;
export const bound = ["network", "jobs", "findings", "steps"] as const;
const everything = [...new Set([...laid, ...dug, ...dated, ...bound])];

/**
 * useDraft answers while something is dragged: preview asks the server what the plan would be and writes
 * nothing; commit makes one change and one undo step. At most one preview is under way; the newest waits.
 */
export function useDraft(doc: BlockDoc | undefined, saved: Plan | undefined) {
  const [preview, setPreview] = useState<Plan>();
  const [error, setError] = useState<unknown>();
  const [stale, setStale] = useState<Stale>();
  const flight = useRef({
    busy: false,
    next: undefined as { patch: Patch; parts: readonly Part[] } | undefined,
    live: true,
    turn: 0,
    marks: {} as Record<string, string>, // of the parts the preview shows: one that is the same is not sent again
  });
  const id = doc?.id ?? "";

  useEffect(() => {
    const f = flight.current;
    f.live = true;
    return () => {
      f.live = false;
    };
  }, []);

  const ask = useCallback(
    async (patch: Patch, parts: readonly Part[] = everything) => {
      const f = flight.current;
      if (f.busy) {
        f.next = { patch, parts };
        return;
      }
      f.busy = true;
      const turn = f.turn;
      try {
        const named = parts.map((p) => (f.marks[p] ? `${p}@${f.marks[p]}` : p)).join(",");
        const { marks, ...sent } = await take(
          api.POST("/blocks/{id}/preview/{parts}", { params: { path: { id, parts: named } }, body: patch }),
        );
        if (f.live && turn === f.turn) {
          const some = sent as Partial<Plan>;
          if (sent.jobs) some.jobs = jobsTold(sent.jobs as Schema["Jobs"]);
          f.marks = { ...f.marks, ...marks };
          setPreview((had) => ((had ?? saved) ? ({ ...(had ?? saved), ...some } as Plan) : undefined));
          setError(undefined);
        }
      } catch (e) {
        if (f.live && turn === f.turn) setError(e);
      } finally {
        f.busy = false;
        const next = f.next;
        f.next = undefined;
        if (next && f.live) void ask(next.patch, next.parts);
      }
    },
    [id, saved],
  );

  const drop = useCallback(() => {
    flight.current.turn++;
    flight.current.marks = {};
    flight.current.next = undefined;
    setPreview(undefined);
    setError(undefined);
  }, []);

  const run = useCallback(
    async (make: Patch | ((b: Block) => Patch), done?: string) => {
      if (!doc) return false;
      flight.current.next = undefined;
      try {
        const now = latest(doc);
        const patch = typeof make === "function" ? make(now.block) : make;
        await patchBlock(now, patch);
        if (done) say(done);
        await changed();
        drop();
        return true;
      } catch (e) {
        if (e instanceof Stale) setStale(e);
        else {
          sayError(e);
          drop();
        }
        await changed();
        return false;
      }
    },
    [doc, drop],
  );
  const commit = useCallback(
    (make: Patch | ((b: Block) => Patch), done?: string): Promise<boolean> => inTurn(() => run(make, done)),
    [run],
  );

  return { preview, error, ask, commit, drop, stale, leave: () => setStale(undefined) };
}
export type Draft = ReturnType<typeof useDraft>;
