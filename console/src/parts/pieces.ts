import { type Zippable, zip } from "fflate";

/** What a piece is taken for. */
export type Role = "after" | "before" | "notes" | "lock-before" | "lock-after" | "source" | "none";

export const roles: Record<Role, string> = {
  after: "output after the bump",
  before: "output before the bump",
  notes: "release notes",
  "lock-before": "lock file before",
  "lock-after": "lock file after",
  source: "source after the bump",
  none: "leave it out",
};

/** Something that was dropped, chosen or pasted. */
export interface Piece {
  id: number;
  name: string;
  content: Blob;
  role: Role;
  files?: number; // in a folder that was packed
}

const lockNames =
  /(^|\/)(package(-lock)?\.json|npm-shrinkwrap\.json|yarn\.lock|pnpm-lock\.yaml|go\.mod|cargo\.(toml|lock)|pom\.xml|build\.gradle(\.kts)?|gradle\.lockfile|requirements[^/]*\.txt|pyproject\.toml|poetry\.lock|uv\.lock|pipfile(\.lock)?|composer\.(json|lock)|gemfile(\.lock)?|mix\.(exs|lock)|pubspec\.(yaml|lock)|packages\.lock\.json|package\.resolved|[^/]+\.csproj)$/i;
const archives = /\.(zip|tar|tgz|tar\.gz)$/i;
const noteNames = /(^|[/_.-])(change|changelog|changes|release|news|history|migrat|upgrad|what'?s.?new|notes)/i;
const noteForms = /\.(md|markdown|rst|html?|adoc)$/i;
const earlier = /(^|[/_.-])(before|old|baseline|was|prior|previous)([/_.-]|$)/i;

/** What a file most likely is, by its name. */
export function roleOf(name: string): Role {
  if (archives.test(name)) return "source";
  if (lockNames.test(name)) return earlier.test(name) ? "lock-before" : "lock-after";
  if (noteForms.test(name) || (noteNames.test(name) && !/\.(log|xml|json)$/i.test(name))) return "notes";
  return earlier.test(name) ? "before" : "after";
}

let made = 0;

export function piece(name: string, content: Blob, role = roleOf(name)): Piece {
  made += 1;
  return { id: made, name, content, role };
}

/** Of two lock files with one name, the older one is that of before. */
export function paired(pieces: Piece[]): Piece[] {
  const seen = new Map<string, Piece>();
  return pieces.map((p) => {
    const base = p.name.split("/").at(-1) ?? p.name;
    const other = p.role === "lock-after" ? seen.get(base) : undefined;
    if (p.role === "lock-after") seen.set(base, p);
    if (!other || !(p.content instanceof File) || !(other.content instanceof File)) return p;
    const older = p.content.lastModified < other.content.lastModified;
    if (!older) other.role = "lock-before";
    return older ? { ...p, role: "lock-before" as const } : p;
  });
}

// Folders that hold what others wrote or what a tool made, and the size from which a file is data.
const skipped = new Set([
  ".git",
  "node_modules",
  "vendor",
  "dist",
  "build",
  "target",
  "out",
  "__pycache__",
  ".venv",
  "venv",
]);
const mostFile = 2 << 20;
// Files that hold keys never leave the machine.
const secrets = /(^|\/)(\.env(\..+)?|\.netrc|\.npmrc|\.pypirc|id_[a-z0-9]+|.+\.(pem|key|p12|pfx|jks))$/i;

/** A chosen folder, packed: its files know their paths from its parent. */
export function packedFolder(files: File[]): Promise<Piece> {
  const name = files[0]?.webkitRelativePath.split("/")[0] ?? "source";
  return packed(
    name,
    files.map((file) => ({ path: file.webkitRelativePath.slice(name.length + 1), file })),
  );
}

/** Packs a folder's files as a zip. */
export async function packed(name: string, files: { path: string; file: File }[]): Promise<Piece> {
  const kept = files.filter(
    ({ path, file }) =>
      file.size <= mostFile && !secrets.test(path) && !path.split("/").some((part) => skipped.has(part)),
  );
  const tree: Zippable = {};
  for (const { path, file } of kept) tree[path] = new Uint8Array(await file.arrayBuffer());
  const data = await new Promise<Uint8Array>((resolve, reject) =>
    zip(tree, { level: 1 }, (error, zipped) => (error ? reject(error) : resolve(zipped))),
  );
  return { ...piece(`${name}/`, new Blob([data as Uint8Array<ArrayBuffer>]), "source"), files: kept.length };
}

/** What was dropped: files, and folders packed as source. */
export async function dropped(items: DataTransferItemList): Promise<Piece[]> {
  const entries = [...items].map((i) => i.webkitGetAsEntry()).filter((e) => e !== null);
  const pieces: Piece[] = [];
  for (const entry of entries) {
    if (entry.isDirectory) pieces.push(await packed(entry.name, await below(entry as FileSystemDirectoryEntry, "")));
    else pieces.push(piece(entry.name, await fileOf(entry as FileSystemFileEntry)));
  }
  return paired(pieces);
}

const fileOf = (entry: FileSystemFileEntry) => new Promise<File>((resolve, reject) => entry.file(resolve, reject));

async function below(folder: FileSystemDirectoryEntry, path: string): Promise<{ path: string; file: File }[]> {
  const reader = folder.createReader();
  const files: { path: string; file: File }[] = [];
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) return files;
    for (const entry of some) {
      const name = path ? `${path}/${entry.name}` : entry.name;
      if (skipped.has(entry.name)) continue;
      if (entry.isDirectory) files.push(...(await below(entry as FileSystemDirectoryEntry, name)));
      else files.push({ path: name, file: await fileOf(entry as FileSystemFileEntry) });
    }
  }
}

/** Some lines of a text, read as far as they stand. */
export async function linesOf(content: Blob, from: number, count: number): Promise<string[]> {
  const reader = content.stream().pipeThrough(new TextDecoderStream()).getReader();
  const lines: string[] = [];
  let line = 1;
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    const parts = (rest + (value ?? "")).split("\n");
    rest = done ? "" : (parts.pop() ?? "");
    for (const text of parts) {
      if (line >= from && line < from + count) lines.push(text.replace(/\r$/, ""));
      line += 1;
      if (line >= from + count) {
        await reader.cancel();
        return lines;
      }
    }
    if (done) return lines;
  }
}

export function sizeText(bytes: number) {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 1e6) return `${Math.round(bytes / 1000)} kB`;
  return `${(bytes / 1e6).toFixed(1)} MB`;
}
