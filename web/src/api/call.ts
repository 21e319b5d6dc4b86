import createClient from "openapi-fetch";
import { QueryClient } from "@tanstack/react-query";
import { answered } from "./away";
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

api.use({
  onResponse({ response }) {
    answered(response);
  },
});

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

export interface Answer<T> {
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
export const by = () => ({ "X-Person": encodeURIComponent(person.get()) });

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: { retry: false, staleTime: 10_000, refetchOnWindowFocus: true, refetchOnReconnect: true, networkMode: "always" },
  },
});
