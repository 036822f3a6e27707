import { zipSync } from "fflate";
import type { Piece } from "../parts/pieces";
import { client, data, Problem } from "./client";
import type { components } from "./schema.gen";

type Schemas = components["schemas"];
export type Move = Schemas["Move"];
export type Triage = Schemas["Triage"];
export type TriageReport = Schemas["TriageReport"];
export type ReportCause = TriageReport["causes"][number];
export type ReportSymptom = TriageReport["symptoms"][number];
export type ReportChange = TriageReport["changes"][number];

interface Asked {
  pieces: Piece[];
  moves: Move[];
  packages: Record<string, string>;
}

const order = ["source", "lock-before", "lock-after", "notes", "before", "after"];

/** The parts of a triage that is not stored, in the order in which they are read. */
function form({ pieces, moves, packages }: Asked) {
  const parts = new FormData();
  parts.append("facts", new Blob([JSON.stringify({ moves, packages })], { type: "application/json" }), "facts");
  for (const role of order) {
    for (const p of pieces) if (p.role === role) parts.append(role, p.content, p.name);
  }
  return parts;
}

/** Sends a form and tells how much of it is sent, 0 to 1: fetch cannot. */
function send(path: string, parts: FormData, kind: XMLHttpRequestResponseType, sent: (share: number) => void) {
  return new Promise<XMLHttpRequest>((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", `/api/v1${path}`);
    request.setRequestHeader("X-Requested-By", "console");
    request.responseType = kind;
    request.upload.onprogress = (e) => sent(e.total > 0 ? e.loaded / e.total : 1);
    request.onerror = () => reject(new Problem(0, "the service does not answer"));
    request.onload = () => resolve(request);
    request.send(parts);
  });
}

/** Draws the causes out of what is at hand; nothing is stored. */
export async function triage(asked: Asked, sent: (share: number) => void): Promise<Triage> {
  const answer = await send("/triage", form(asked), "json", sent);
  if (answer.status !== 200) throw new Problem(answer.status, answer.response?.detail ?? `status ${answer.status}`);
  return answer.response;
}

export type Form = "html" | "markdown" | "json" | "sarif" | "text";

/** The report of the same, as a file. */
export async function reportAs(asked: Asked, as: Form): Promise<Blob> {
  const answer = await send(`/triage?format=${as}`, form(asked), "blob", () => {});
  if (answer.status !== 200) throw new Problem(answer.status, "the report could not be written");
  return answer.response;
}

/** The name of a check whose output a file is: "build" for old/build.log. */
export function checkOf(name: string) {
  const base = name.split("/").at(-1) ?? name;
  const plain = base
    .replace(/\.[A-Za-z0-9]+$/, "")
    .replace(/[^A-Za-z0-9 ._-]+/g, "-")
    .replace(/^[^A-Za-z0-9]+/, "");
  return plain.replace(/^(before|after|old|new)[-_. ]+|[-_. ]+(before|after|old|new)$/gi, "") || "check";
}

interface Kept extends Asked {
  project: string;
  name: string;
  report: TriageReport;
  step: (what: string) => void;
}

/** Makes an upgrade of what is at hand: its notes, its baseline and its first runs. Gives its number. */
export async function keep(kept: Kept): Promise<number> {
  const { pieces, moves, report, step } = kept;
  step("Beginning the upgrade");
  const upgrade = await data(client.POST("/upgrades", { body: { project: kept.project, name: kept.name, moves } }));
  const of = (role: Piece["role"]) => pieces.filter((p) => p.role === role);
  for (const p of of("notes")) {
    step(`Adding ${p.name}`);
    await addNotes(upgrade.id, p.name, kept.packages[p.name] ?? "", await p.content.text());
  }
  const before = of("before");
  const checks = [...new Set([...of("after"), ...before].map((p) => checkOf(p.name)))];
  const source = await tree(pieces, "lock-before");
  for (const check of checks) {
    const inputs = before.filter((p) => checkOf(p.name) === check);
    step(`Recording ${check} of before the bump`);
    await record(upgrade.id, {
      check,
      exit: inputs.some((p) => failed(report, p.name)) ? 1 : 0,
      inputs,
      source,
      versions: seen(moves, "from"),
      command: inputs.length > 0 ? "" : "(nothing of before the bump was given)",
    });
  }
  await data(client.POST("/upgrades/{upgrade}/baseline", { params: { path: { upgrade: upgrade.id } } }));
  const now = await tree(pieces, "lock-after");
  for (const check of checks) {
    const inputs = of("after").filter((p) => checkOf(p.name) === check);
    if (inputs.length === 0) continue;
    step(`Recording ${check}`);
    await record(upgrade.id, {
      check,
      exit: inputs.some((p) => failed(report, p.name)) ? 1 : 0,
      inputs,
      source: now,
      versions: seen(moves, "to"),
    });
  }
  return upgrade.id;
}

const seen = (moves: Move[], side: "from" | "to") =>
  Object.fromEntries(moves.filter((m) => m[side]).map((m) => [m.package, m[side]]));

/** Whether an output shows an error. */
function failed(report: TriageReport, input: string) {
  return report.symptoms.some((s) => s.level === "error" && s.at.some((at) => at.input === input));
}

/** The source tree to record: what was given, or else the lock files alone. */
async function tree(pieces: Piece[], locks: Piece["role"]): Promise<Blob | undefined> {
  const source = pieces.find((p) => p.role === "source");
  if (source) return source.content;
  const files: Record<string, Uint8Array> = {};
  for (const p of pieces) {
    if (p.role === locks) files[p.name.split("/").at(-1) ?? p.name] = new Uint8Array(await p.content.arrayBuffer());
  }
  return Object.keys(files).length > 0 ? new Blob([zipSync(files) as Uint8Array<ArrayBuffer>]) : undefined;
}

/** Adds a document of notes to an upgrade. */
export function addNotes(upgrade: number, name: string, pkg: string, text: string) {
  return data(
    client.POST("/upgrades/{upgrade}/notes", { params: { path: { upgrade } }, body: { name, package: pkg, text } }),
  );
}

interface Recording {
  check: string;
  target?: string;
  exit: number;
  inputs: { name: string; content: Blob }[];
  source?: Blob;
  versions?: Record<string, string>;
  command?: string;
}

/** Records a run from files, and waits until it is processed. */
export async function record(upgrade: number, run: Recording, sent: (share: number) => void = () => {}) {
  const parts = new FormData();
  const facts = {
    check: run.check,
    target: run.target,
    exit: run.exit,
    command: run.command,
    versions: run.versions,
    startedAt: new Date().toISOString(),
  };
  parts.append("run", new Blob([JSON.stringify(facts)], { type: "application/json" }), "run");
  for (const i of run.inputs) parts.append("input", i.content, i.name);
  if (run.inputs.length === 0) parts.append("input", new Blob([]), `${run.check}.log`);
  if (run.source) parts.append("source", run.source, "source");
  const answer = await send(`/upgrades/${upgrade}/runs`, parts, "json", sent);
  if (answer.status !== 200 && answer.status !== 201)
    throw new Problem(answer.status, answer.response?.detail ?? `status ${answer.status}`);
  return processed(upgrade, answer.response.number);
}

async function processed(upgrade: number, number: number) {
  for (;;) {
    const run = await data(
      client.GET("/upgrades/{upgrade}/runs/{run}", { params: { path: { upgrade, run: number } } }),
    );
    if (run.status !== "stored") return run;
    await new Promise((again) => setTimeout(again, 150));
  }
}
