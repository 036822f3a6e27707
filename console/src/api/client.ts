import createClient from "openapi-fetch";
import type { components, paths } from "./schema.gen";

type Schemas = components["schemas"];
export type Cause = Schemas["Cause"];
export type CauseDetail = Schemas["CauseDetail"];
export type Change = Schemas["Change"];
export type ChangeDetail = Schemas["ChangeDetail"];
export type ChangeRow = Schemas["ChangeRow"];
export type Check = Schemas["Check"];
export type Compared = Schemas["Compared"];
export type Commit = Schemas["Commit"];
export type Comparison = Schemas["Comparison"];
export type Correction = Schemas["Correction"];
export type Debt = Schemas["Debt"];
export type Decision = Schemas["Decision"];
export type FoundDebt = Schemas["FoundDebt"];
export type Gate = Schemas["Gate"];
export type GateReason = Schemas["GateReason"];
export type HistoryPoint = Schemas["HistoryPoint"];
export type LegRow = Schemas["LegRow"];
export type Lines = Schemas["Lines"];
export type Link = Schemas["Link"];
export type Moved = Schemas["Moved"];
export type Need = Schemas["Need"];
export type NotesDocument = Schemas["Notes"];
export type Overview = Schemas["Overview"];
export type Patch = Schemas["Patch"];
export type Preparation = Schemas["Preparation"];
export type Place = Schemas["Place"];
export type Run = Schemas["Run"];
export type RunSymptom = Schemas["RunSymptom"];
export type SettledCase = Schemas["SettledCase"];
export type Symptom = Schemas["Symptom"];
export type TestRow = Schemas["TestRow"];
export type TestTable = Schemas["TestTable"];
export type Upgrade = Schemas["Upgrade"];
export type UpgradeRow = Schemas["UpgradeRow"];
export type Versions = Schemas["Versions"];

export const client = createClient<paths>({ baseUrl: "/api/v1" });

// No form of another page can send this header: the service asks for it.
client.use({
  onRequest({ request }) {
    request.headers.set("X-Requested-By", "console");
    return request;
  },
});

/** An answer that was no success, with what the service said. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** The data of an answer, or a Problem. */
export async function data<T>(
  answer: Promise<{ data?: T; error?: { detail?: string; title?: string }; response: Response }>,
): Promise<T> {
  let result: Awaited<typeof answer>;
  try {
    result = await answer;
  } catch {
    throw new Problem(0, "the service does not answer");
  }
  if (result.data === undefined) {
    throw new Problem(
      result.response.status,
      result.error?.detail ?? result.error?.title ?? `status ${result.response.status}`,
    );
  }
  return result.data;
}
