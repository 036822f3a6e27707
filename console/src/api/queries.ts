import { queryOptions, useQuery } from "@tanstack/react-query";
import { client, data } from "./client";

/** The keys under which answers are kept; all of one upgrade's begin with its own. */
export const keys = {
  upgrades: ["upgrades"] as const,
  upgrade: (id: number) => ["upgrade", id] as const,
};

export function useUpgrades() {
  return useQuery({ queryKey: keys.upgrades, queryFn: () => data(client.GET("/upgrades")) });
}

export function useOverview(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "overview"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}", { params: { path: { upgrade } } })),
  });
}

/** What stands at the head of each page of an upgrade. */
export function useHead(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "head"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/head", { params: { path: { upgrade } } })),
  });
}

/** All causes of the current leg, in the order to tackle them. */
export function useCauses(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "causes"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/causes", { params: { path: { upgrade } } })),
  });
}

export function useCause(upgrade: number, cause: string) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "cause", cause],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/causes/{cause}", { params: { path: { upgrade, cause } } })),
  });
}

export function useRuns(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "runs"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/runs", { params: { path: { upgrade } } })),
  });
}

export function useRun(upgrade: number, run: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "run", run],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/runs/{run}", { params: { path: { upgrade, run } } })),
  });
}

export function useRunSymptoms(upgrade: number, run: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "run", run, "symptoms"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/runs/{run}/symptoms", { params: { path: { upgrade, run } } })),
  });
}

export function useComparison(upgrade: number, other: number, run: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "against", other, run],
    queryFn: () =>
      data(client.GET("/upgrades/{upgrade}/runs/{run}/against/{other}", { params: { path: { upgrade, run, other } } })),
  });
}

export function useTests(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "tests"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/tests", { params: { path: { upgrade } } })),
  });
}

/** The lines of a raw output that hold a text, none for an empty one. */
export function useHits(upgrade: number, input: number, text: string) {
  return useQuery({
    queryKey: ["hits", upgrade, input, text],
    enabled: text !== "",
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () =>
      data(
        client.GET("/upgrades/{upgrade}/inputs/{input}/search", {
          params: { path: { upgrade, input }, query: { text } },
        }),
      ),
  });
}

/** How lines of a raw output are asked for; stored output never changes. */
export function inputLines(upgrade: number, input: number, from: number, count: number) {
  return queryOptions({
    queryKey: ["input", upgrade, input, from, count],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () =>
      data(
        client.GET("/upgrades/{upgrade}/inputs/{input}/lines", {
          params: { path: { upgrade, input }, query: { from, count } },
        }),
      ),
  });
}

export function useInputLines(upgrade: number, input: number, from: number, count: number) {
  return useQuery(inputLines(upgrade, input, from, count));
}

export function useNotesLines(upgrade: number, notes: number, from: number, count: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "notes", notes, from, count],
    queryFn: () =>
      data(
        client.GET("/upgrades/{upgrade}/notes/{notes}/lines", {
          params: { path: { upgrade, notes }, query: { from, count } },
        }),
      ),
  });
}

export function useNotes(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "notes"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/notes", { params: { path: { upgrade } } })),
  });
}

export function useChanges(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "changes"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/changes", { params: { path: { upgrade } } })),
  });
}

export function useChange(upgrade: number, change: string) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "changes", change],
    enabled: change !== "",
    queryFn: () => data(client.GET("/upgrades/{upgrade}/changes/{change}", { params: { path: { upgrade, change } } })),
  });
}

export function useReady(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "ready"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/ready", { params: { path: { upgrade } } })),
  });
}

export function useVersions(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "versions"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/versions", { params: { path: { upgrade } } })),
  });
}

export function useWords(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "words"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/words", { params: { path: { upgrade } } })),
  });
}

/** The causes of one leg, for those that are not current. */
export function useLegCauses(upgrade: number, leg: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "leg", leg],
    enabled: leg > 0,
    queryFn: () => data(client.GET("/upgrades/{upgrade}/causes", { params: { path: { upgrade }, query: { leg } } })),
  });
}

export function useRoute(upgrade: number, wanted: boolean) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "route"],
    enabled: wanted,
    queryFn: () => data(client.GET("/upgrades/{upgrade}/route", { params: { path: { upgrade } } })),
  });
}

export function useCommits(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "commits"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/commits", { params: { path: { upgrade } } })),
  });
}

export function useDebts(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "debts"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/debts", { params: { path: { upgrade } } })),
  });
}

export function useFoundDebts(upgrade: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "debts", "found"],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/debts/found", { params: { path: { upgrade } } })),
  });
}

export function useDebt(upgrade: number, debt: number, wanted: boolean) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "debts", debt],
    enabled: wanted,
    queryFn: () => data(client.GET("/upgrades/{upgrade}/debts/{debt}", { params: { path: { upgrade, debt } } })),
  });
}

export function useActivity(upgrade: number, count: number) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "activity", count],
    queryFn: () =>
      data(client.GET("/upgrades/{upgrade}/activity", { params: { path: { upgrade }, query: { count } } })),
  });
}

export function useCasebook() {
  return useQuery({
    queryKey: ["casebook"],
    queryFn: () => data(client.GET("/casebook", { params: { query: { private: true } } })),
  });
}
