import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, data } from "./client";

/** The keys under which answers are kept; all of one upgrade's begin with its own. */
const keys = {
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

export function useCause(upgrade: number, cause: string) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "cause", cause],
    queryFn: () => data(client.GET("/upgrades/{upgrade}/causes/{cause}", { params: { path: { upgrade, cause } } })),
  });
}

/** Lines of a raw output; stored output never changes. */
export function useInputLines(upgrade: number, input: number, from: number, count: number) {
  return useQuery({
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

/** Reads everything of an upgrade again. */
export function useRefresh(upgrade: number) {
  const queries = useQueryClient();
  return () => queries.invalidateQueries({ queryKey: keys.upgrade(upgrade) });
}

export function useJudgeLink(upgrade: number, cause: string) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (judgement: { change: string; state: "proposed" | "confirmed" | "rejected" }) =>
      data(
        client.PUT("/upgrades/{upgrade}/causes/{cause}/links/{change}", {
          params: { path: { upgrade, cause, change: judgement.change } },
          body: { state: judgement.state, author: "console" },
        }),
      ),
    onSuccess: refresh,
  });
}

export type DecisionKind = "fix" | "defer" | "accept" | "wait" | "dismiss";

export function useDecide(upgrade: number, cause: string) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (decision: { kind: DecisionKind; reason: string; due?: string }) =>
      data(
        client.POST("/upgrades/{upgrade}/causes/{cause}/decisions", {
          params: { path: { upgrade, cause } },
          body: { ...decision, author: "console" },
        }),
      ),
    onSuccess: refresh,
  });
}
