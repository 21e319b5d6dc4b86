import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { api, Failed, seenFrom, take, type Plan, type Schema } from "./call";
import { read } from "./write";

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
    placeholderData: keepPreviousData,
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
