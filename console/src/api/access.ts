import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, data } from "./client";

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
