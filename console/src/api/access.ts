import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, data } from "./client";
import type { components } from "./schema.gen";

/** Who is signed in. */
export function useMe() {
  return useQuery({ queryKey: ["me"], queryFn: () => data(client.GET("/me")), retry: false });
}

/** Signs in with a token; what was asked before is asked again. */
export function useSignIn() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (token: string) => data(client.POST("/sign-in", { body: { token } })),
    onSuccess: () => queries.resetQueries(),
  });
}

/** Ends the sign-in of this browser. */
export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async () => {
      await client.DELETE("/sign-in");
    },
    onSuccess: () => queries.resetQueries(),
  });
}

export type Role = components["schemas"]["Role"];

/** The people with their roles and tokens. */
export function usePeople() {
  return useQuery({ queryKey: ["people"], queryFn: () => data(client.GET("/people")), retry: false });
}

/** What was done to the service itself, the latest first. */
export function useDeeds() {
  return useQuery({ queryKey: ["deeds"], queryFn: () => data(client.GET("/deeds")), retry: false });
}

function useService() {
  const queries = useQueryClient();
  return () => Promise.all(["people", "deeds"].map((k) => queries.invalidateQueries({ queryKey: [k] })));
}

/** Gives a person a role and a token, which is told this once. */
export function useAddPerson() {
  const refresh = useService();
  return useMutation({
    mutationFn: (person: components["schemas"]["NewPerson"]) => data(client.POST("/people", { body: person })),
    onSuccess: refresh,
  });
}

/** Removes a person, or one token alone. */
export function useRemovePerson() {
  const refresh = useService();
  return useMutation({
    mutationFn: async ({ name, token }: { name: string; token?: string }) => {
      await client.DELETE("/people/{person}", { params: { path: { person: name }, query: { token } } });
    },
    onSuccess: refresh,
  });
}

/** Lets go of raw output older than some days. */
export function usePrune() {
  const refresh = useService();
  return useMutation({
    mutationFn: (days: number) =>
      data(client.POST("/storage/prune", { body: { before: new Date(Date.now() - days * 86_400_000).toISOString() } })),
    onSuccess: refresh,
  });
}
