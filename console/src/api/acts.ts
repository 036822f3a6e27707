import { useMutation, useQueryClient } from "@tanstack/react-query";
import { did } from "../parts/Undo";
import { client, data, Problem } from "./client";
import { keys } from "./queries";
import type { components } from "./schema.gen";

export function useAcceptBaseline(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: () => data(client.POST("/upgrades/{upgrade}/baseline", { params: { path: { upgrade } } })),
    onSuccess: refresh,
  });
}

/** Tries a run again that was set aside. */
export function useRetry(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (run: number) =>
      data(client.POST("/upgrades/{upgrade}/retry", { params: { path: { upgrade } }, body: { run } })),
    onSuccess: refresh,
  });
}

/** The patch of a change, for certain places or, with none named, for all. */
export type ChangeWord = components["schemas"]["ChangeWord"];

function sayOfChange(upgrade: number, change: string, word: ChangeWord) {
  const path = { upgrade, change };
  return data(client.PUT("/upgrades/{upgrade}/changes/{change}", { params: { path }, body: { ...word } }));
}

export function useSayOfChange(upgrade: number, change: string) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (word: ChangeWord) => sayOfChange(upgrade, change, word),
    onSuccess: (detail, word) => {
      refresh();
      const before = detail.words.find((w) => word.state === undefined || w.state !== word.state);
      did(`${detail.row.change.title}: ${word.state || word.kind || "as the notes say"}`, async () => {
        const undone = { state: before?.state ?? "", kind: before?.kind ?? "", renames: before?.renames };
        await sayOfChange(upgrade, change, { ...undone, reason: before?.reason ?? "undone" } as ChangeWord);
        await refresh();
      });
    },
  });
}

export function useAddChange(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (change: components["schemas"]["NewChange"]) =>
      data(
        client.POST("/upgrades/{upgrade}/changes", {
          params: { path: { upgrade } },
          body: { ...change },
        }),
      ),
    onSuccess: refresh,
  });
}

/** An act that gives nothing back, or a Problem. */
async function done(answer: Promise<{ error?: { detail?: string; title?: string }; response: Response }>) {
  const { error, response } = await answer;
  if (!response.ok) throw new Problem(response.status, error?.detail ?? error?.title ?? response.statusText);
}

/** Reads everything of an upgrade again. */
export function useRefresh(upgrade: number) {
  const queries = useQueryClient();
  return () => queries.invalidateQueries({ queryKey: keys.upgrade(upgrade) });
}

export function useJudgeLink(upgrade: number, cause: string) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (judgement: { change: string; state: LinkState; was?: LinkState }) =>
      data(
        client.PUT("/upgrades/{upgrade}/causes/{cause}/links/{change}", {
          params: { path: { upgrade, cause, change: judgement.change } },
          body: { state: judgement.state, was: judgement.was },
        }),
      ),
    onSuccess: (_, { change, state, was }) => {
      refresh();
      if (!was) return;
      did(`${cause}: the entry is ${state === "proposed" ? "not judged" : state}`, async () => {
        const back = { params: { path: { upgrade, cause, change } }, body: { state: was, was: state } };
        await data(client.PUT("/upgrades/{upgrade}/causes/{cause}/links/{change}", back));
        await refresh();
      });
    },
  });
}

type LinkState = "proposed" | "confirmed" | "rejected";
export type DecisionKind = "fix" | "defer" | "accept" | "wait" | "dismiss";

export function useDecide(upgrade: number, cause: string) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (decision: Omit<components["schemas"]["NewDecision"], "author">) =>
      data(
        client.POST("/upgrades/{upgrade}/causes/{cause}/decisions", {
          params: { path: { upgrade, cause } },
          body: { ...decision },
        }),
      ),
    onSuccess: (made, decision) => {
      refresh();
      did(`${cause}: ${decision.kind}`, () => takeBack(upgrade, [made.cause]).then(refresh));
    },
  });
}

/** Takes the latest decisions of causes back, one after the other. */
async function takeBack(upgrade: number, causes: components["schemas"]["Cause"][]) {
  for (const decision of causes.map((c) => c.decision?.id ?? 0)) {
    await done(client.DELETE("/upgrades/{upgrade}/decisions/{decision}", { params: { path: { upgrade, decision } } }));
  }
}

/** Takes one decision on several causes, all or none. */
export function useDecideAll(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: ({
      causes,
      ...decision
    }: {
      causes: string[];
      kind: DecisionKind;
      reason: string;
      due?: string;
      seen: number;
    }) =>
      data(
        client.POST("/upgrades/{upgrade}/decisions", {
          params: { path: { upgrade } },
          body: { causes, decision: { ...decision } },
        }),
      ),
    onSuccess: (made, { causes, kind }) => {
      refresh();
      did(`${causes.length} causes: ${kind}`, () => takeBack(upgrade, made).then(refresh));
    },
  });
}

type NewCorrection = components["schemas"]["NewCorrection"];

/** Says where symptoms belong, one correction after the other; the causes are drawn anew in the background. */
export function useCorrect(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: async (corrections: NewCorrection[]) => {
      const made: number[] = [];
      for (const correction of corrections) {
        const path = { upgrade };
        const c = await data(client.POST("/upgrades/{upgrade}/corrections", { params: { path }, body: correction }));
        made.push(c.id);
      }
      return made;
    },
    onSuccess: (made, corrections) => {
      did(said(corrections), async () => {
        for (const correction of made.toReversed()) {
          const path = { upgrade, correction };
          await done(client.DELETE("/upgrades/{upgrade}/corrections/{correction}", { params: { path } }));
        }
        await refresh();
      });
    },
    onSettled: refresh,
  });
}

/** What corrections did, in a few words. */
function said(corrections: NewCorrection[]) {
  const [first] = corrections;
  if (!first) return "nothing";
  if (first.kind === "merge") return `${corrections.map((c) => c.from).join(", ")} merged into ${first.cause}`;
  const n = first.symptoms?.length ?? 0;
  const what = n === 1 ? "1 symptom" : `${n} symptoms`;
  if (first.kind === "split") return `${what} split off ${first.cause}`;
  return `${what} ${first.kind === "pin" ? "pinned in" : "moved to"} ${first.cause}`;
}

export function useUndoCorrection(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (correction: number) =>
      done(
        client.DELETE("/upgrades/{upgrade}/corrections/{correction}", {
          params: { path: { upgrade, correction } },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useUndoDecision(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (decision: number) =>
      done(
        client.DELETE("/upgrades/{upgrade}/decisions/{decision}", {
          params: { path: { upgrade, decision } },
        }),
      ),
    onSuccess: refresh,
  });
}

/** Gives a person's word on a reason of the gate, or on a preparation. */
export function useVouch(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (word: { about: string; reason: string }) =>
      data(
        client.POST("/upgrades/{upgrade}/words", {
          params: { path: { upgrade } },
          body: { ...word },
        }),
      ),
    onSuccess: (made) => {
      refresh();
      did("Vouched for", async () => {
        const path = { upgrade, word: made.id };
        await done(client.DELETE("/upgrades/{upgrade}/words/{word}", { params: { path } }));
        await refresh();
      });
    },
  });
}

export function useTakeWordBack(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (word: number) =>
      done(
        client.DELETE("/upgrades/{upgrade}/words/{word}", {
          params: { path: { upgrade, word } },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useChangeRoute(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (leg: components["schemas"]["NewLeg"]) =>
      data(
        client.POST("/upgrades/{upgrade}/legs", {
          params: { path: { upgrade } },
          body: { ...leg },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useAddDebt(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: (debt: components["schemas"]["NewDebt"]) =>
      data(
        client.POST("/upgrades/{upgrade}/debts", {
          params: { path: { upgrade } },
          body: { ...debt },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useSettleDebt(upgrade: number) {
  const refresh = useRefresh(upgrade);
  return useMutation({
    mutationFn: ({ debt, how }: { debt: number; how: string }) =>
      data(
        client.PUT("/upgrades/{upgrade}/debts/{debt}", {
          params: { path: { upgrade, debt } },
          body: { how },
        }),
      ),
    onSuccess: refresh,
  });
}
