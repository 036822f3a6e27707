import { useMutation, useQuery } from "@tanstack/react-query";
import { useRefresh } from "./acts";
import { client, data } from "./client";
import { keys } from "./queries";
import type { components } from "./schema.gen";

export function usePatch(upgrade: number, change: string, only: string[]) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "patch", change, only],
    queryFn: () =>
      data(
        client.GET("/upgrades/{upgrade}/changes/{change}/patch", {
          params: { path: { upgrade, change }, query: { only } },
        }),
      ),
  });
}

export type Example = components["schemas"]["Example"];

/** Learns an edit from examples: shows its patch, or keeps it for the change as well. */
export function usePatchByExample(upgrade: number, change: string) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: ({ examples, keep }: { examples: Example[]; keep: boolean }) =>
      data(
        client.POST("/upgrades/{upgrade}/patches", {
          params: { path: { upgrade } },
          body: { examples, change, keep },
        }),
      ),
    onSuccess: (_, { keep }) => (keep ? refresh() : undefined),
  });
}

export type Review = components["schemas"]["Review"];
export type ReviewHunk = components["schemas"]["ReviewHunk"];

/** What changed since the baseline, or with a commit, and what asks for it. */
export function useReview(upgrade: number, commit: string) {
  return useQuery({
    queryKey: [...keys.upgrade(upgrade), "review", commit],
    queryFn: () =>
      data(
        client.GET("/upgrades/{upgrade}/review", {
          params: { path: { upgrade }, query: commit ? { commit } : {} },
        }),
      ),
  });
}

export function useReviewDiff(upgrade: number) {
  return useMutation({
    mutationFn: (diff: string) =>
      data(
        client.POST("/upgrades/{upgrade}/review", {
          params: { path: { upgrade } },
          body: { diff, of: "The diff that was given" },
        }),
      ),
  });
}
