import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { keys, useUpgrades } from "../api/queries";
import { type Form, keep, type Move, reportAs, type Triage, triage } from "../api/triage";
import { Ask } from "../parts/Ask";
import { Heading, Skeleton, Trouble } from "../parts/basics";
import { ChooseFiles } from "../parts/ChooseFiles";
import { Moves } from "../parts/Moves";
import { PieceTable } from "../parts/Pieces";
import { dropped, type Piece, packedFolder, paired, piece, type Role } from "../parts/pieces";
import { Outcome, TriageView } from "../parts/TriageView";
import { UpgradeRows } from "../parts/UpgradeRows";

/** What is at hand and what came out of it: it lives as long as the page's tab does. */
interface Desk {
  pieces: Piece[];
  moves: Move[];
  packages: Record<string, string>;
  result?: Triage;
}

const empty: Desk = { pieces: [], moves: [], packages: {} };
let desk = empty;

/** Drop what broke and see the causes; below it the upgrades. */
export function StartPage() {
  const upgrades = useUpgrades();
  const [state, setState] = useState(desk);
  const set = (next: Desk) => {
    desk = next;
    setState(next);
  };
  if (upgrades.error) return <Trouble error={upgrades.error} retry={() => upgrades.refetch()} />;
  return (
    <>
      <title>Unicausa</title>
      <Try desk={state} set={set} />
      {!state.result && (
        <section className="mt-8">
          <Heading aside="recorded over days, with a baseline and a gate">Upgrades</Heading>
          {upgrades.data ? <UpgradeRows rows={upgrades.data} /> : <Skeleton rows={3} />}
        </section>
      )}
    </>
  );
}

function Try({ desk, set }: { desk: Desk; set: (d: Desk) => void }) {
  const { pieces, moves, packages, result } = desk;
  const [sent, setSent] = useState<number>();
  const [pasting, setPasting] = useState(false);
  const [over, setOver] = useState(false);
  const draw = useMutation({
    mutationFn: () => triage({ pieces, moves: stated(moves), packages }, setSent),
    onSettled: () => setSent(undefined),
    onSuccess: (r) => set({ ...desk, result: r, moves: r.moves, packages: { ...r.packages, ...packages } }),
  });
  const add = (more: Piece[]) => {
    draw.reset();
    set({ ...desk, result: undefined, pieces: paired([...pieces, ...more]) });
  };
  const take = useMutation({
    mutationFn: async (more: Promise<Piece[]>) => more,
    onSuccess: add,
  });
  usePaste((text) => add([piece("pasted.log", new Blob([text]), "after")]));
  const ready = pieces.some((p) => p.role === "after");
  return (
    <section
      aria-label="Look at what broke"
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        take.mutate(dropped(e.dataTransfer.items));
      }}
    >
      <h1 className="text-lg font-semibold">What broke after the bump?</h1>
      <p className="mb-3 text-soft">
        Give the output of your checks and see the few causes behind it. Nothing is stored until you keep it.
      </p>
      <div
        className={`rounded border border-dashed px-4 ${pieces.length > 0 ? "py-3" : "py-6"} ${over ? "border-copper bg-wash" : "border-line bg-sheet"}`}
      >
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <span>Drop outputs, release notes, lock files or the source folder here</span>
          <ChooseFiles text="Choose files" onChoose={(files) => add(files.map((f) => piece(f.name, f)))} />
          <ChooseFiles
            text="Choose a folder"
            folder
            onChoose={(files) => take.mutate(packedFolder(files).then((p) => [p]))}
          />
          <button
            type="button"
            onClick={() => setPasting(!pasting)}
            className="moves rounded border border-line px-2 py-0.5 hover:border-copper"
          >
            Paste text
          </button>
        </div>
        {pieces.length === 0 && !pasting && (
          <p className="mt-2 text-xs text-soft">
            One output is enough. With the output of before the bump, what was broken already is told apart; with the
            notes, causes are explained; with the source, places are shown.
          </p>
        )}
        {take.error && <p className="mt-2 text-xs text-alarm">{take.error.message}</p>}
        {pasting && (
          <Paste
            onPasted={(p) => {
              setPasting(false);
              add([p]);
            }}
          />
        )}
      </div>
      {pieces.length > 0 && (
        <div className="mt-3 space-y-4">
          <details key={result ? "folded" : "open"} open={!result}>
            <summary className={result ? "cursor-pointer" : "hidden"}>
              {pieces.length} {pieces.length === 1 ? "file" : "files"}
              <span className="text-soft">
                {" "}
                ·{" "}
                {stated(moves)
                  .map((m) => `${m.package} ${m.from} → ${m.to}`)
                  .join(", ") || "nothing said to move"}
              </span>
            </summary>
            <div className="mt-2 space-y-4">
              <PieceTable
                pieces={pieces}
                packages={stated(moves).map((m) => m.package)}
                of={packages}
                onRole={(id, role: Role) =>
                  set({ ...desk, result: undefined, pieces: pieces.map((p) => (p.id === id ? { ...p, role } : p)) })
                }
                onPackage={(name, pkg) => set({ ...desk, packages: { ...packages, [name]: pkg } })}
                onDrop={(id) => set({ ...desk, result: undefined, pieces: pieces.filter((p) => p.id !== id) })}
              />
              <div>
                <Heading
                  aside={
                    moves.length === 0
                      ? "read from the lock files and the outputs, where they tell"
                      : "bounds what the notes can explain"
                  }
                >
                  What moves
                </Heading>
                <Moves
                  moves={moves}
                  said={(m) =>
                    result?.offered.find((o) => o.package === m.package && o.from === m.from && o.to === m.to)?.said
                  }
                  onChange={(m) => set({ ...desk, moves: m })}
                />
              </div>
            </div>
          </details>
          <div className="flex flex-wrap items-center gap-4">
            <button
              type="button"
              disabled={!ready || draw.isPending}
              onClick={() => draw.mutate()}
              className="rounded bg-copper px-3 py-1 text-paper disabled:opacity-50"
            >
              {result ? "Analyse again" : "Show the causes"}
            </button>
            <button type="button" onClick={() => set(empty)} className="text-soft hover:text-ink">
              Start over
            </button>
            {!ready && <span className="text-xs text-soft">Say which piece is the output of after the bump.</span>}
            {draw.isPending && <Progress sent={sent} />}
          </div>
          {draw.error && (
            <p role="alert" className="border-l-2 border-alarm pl-3 text-alarm">
              {draw.error.message}
            </p>
          )}
        </div>
      )}
      {result && (
        <section className="mt-6" aria-label="The causes">
          <Outcome report={result.report} />
          {result.problems.map((p) => (
            <p key={p} className="mb-2 text-xs text-alarm">
              Not read: {p}
            </p>
          ))}
          <After desk={desk} result={result} />
          <TriageView report={result.report} pieces={pieces} />
        </section>
      )}
    </section>
  );
}

/** The moves that are filled in. */
const stated = (moves: Move[]) => moves.filter((m) => m.package.trim() !== "");

function Progress({ sent }: { sent?: number }) {
  const share = sent ?? 0;
  return (
    <span className="flex items-center gap-2 text-xs text-soft" role="status">
      <progress value={share < 1 ? share : undefined} max={1} className="h-1.5 w-40 accent-copper" />
      {share < 1 ? `sending, ${Math.round(share * 100)} %` : "reading"}
    </span>
  );
}

/** What can be done with a result: keep it, or take the report along. */
function After({ desk, result }: { desk: Desk; result: Triage }) {
  const [asking, setAsking] = useState(false);
  const [step, setStep] = useState("");
  const navigate = useNavigate();
  const queries = useQueryClient();
  const moves = stated(desk.moves);
  const keeping = useMutation({
    mutationFn: (values: Record<string, string>) =>
      keep({
        pieces: desk.pieces,
        moves,
        packages: result.packages,
        report: result.report,
        project: values.project ?? "",
        name: values.name ?? "",
        step: setStep,
      }),
    onSuccess: (id) => {
      queries.invalidateQueries({ queryKey: keys.upgrades });
      navigate(`/upgrades/${id}`);
    },
  });
  const download = useMutation({
    mutationFn: async (as: Form) => {
      const blob = await reportAs({ pieces: desk.pieces, moves, packages: desk.packages }, as);
      const link = document.createElement("a");
      link.href = URL.createObjectURL(blob);
      link.download = `report.${{ html: "html", markdown: "md", json: "json", sarif: "sarif", text: "txt" }[as]}`;
      link.click();
      URL.revokeObjectURL(link.href);
    },
  });
  const first = moves[0];
  const folder = desk.pieces.find((p) => p.role === "source")?.name.replace(/\/$|\.(zip|tar|tgz|tar\.gz)$/, "");
  return (
    <div className="mb-3">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <button
          type="button"
          onClick={() => setAsking(!asking)}
          className="moves rounded border border-copper px-2 py-0.5 text-copper hover:bg-wash"
        >
          Keep it as an upgrade
        </button>
        <span className="flex flex-wrap gap-x-3 text-xs text-soft">
          The report as
          {(["html", "markdown", "json", "sarif", "text"] as const).map((as) => (
            <button
              key={as}
              type="button"
              onClick={() => download.mutate(as)}
              className="text-copper underline underline-offset-2"
            >
              {{ html: "HTML", markdown: "Markdown", json: "JSON", sarif: "SARIF", text: "text" }[as]}
            </button>
          ))}
        </span>
        {download.error && <span className="text-xs text-alarm">{download.error.message}</span>}
      </div>
      {asking && moves.length === 0 && (
        <p className="mt-2 text-xs text-alarm">Say above what moves: an upgrade is one move of a project.</p>
      )}
      {asking && moves.length > 0 && !desk.pieces.some((p) => p.role === "before") && (
        <p className="mt-2 text-xs text-soft">
          There is no output of before the bump: the baseline is taken as passing, and everything counts as new.
        </p>
      )}
      {asking && moves.length > 0 && (
        <Ask
          fields={[
            { name: "project", label: "Project", value: folder },
            { name: "name", label: "Name of the upgrade", value: first && `${shortOf(first.package)} ${first.to}` },
          ]}
          act={keeping.isPending ? step : "Keep it"}
          busy={keeping.isPending}
          error={keeping.error?.message}
          onDone={(values) => keeping.mutate(values)}
          onCancel={() => setAsking(false)}
        />
      )}
    </div>
  );
}

/** The last part of a package's name. */
const shortOf = (pkg: string) =>
  pkg
    .replace(/\/v\d+$/, "")
    .split("/")
    .at(-1) ?? pkg;

/** Takes what is pasted anywhere but into a field. */
function usePaste(onText: (text: string) => void) {
  const latest = useRef(onText);
  latest.current = onText;
  useEffect(() => {
    const paste = (e: ClipboardEvent) => {
      const text = e.clipboardData?.getData("text/plain") ?? "";
      if (e.target instanceof HTMLElement && e.target.closest("input, textarea, select")) return;
      if (text.trim()) latest.current(text);
    };
    window.addEventListener("paste", paste);
    return () => window.removeEventListener("paste", paste);
  }, []);
}

function Paste({ onPasted }: { onPasted: (p: Piece) => void }) {
  const [text, setText] = useState("");
  const put = (name: string, role: Role) => text.trim() && onPasted(piece(name, new Blob([text]), role));
  const button = "moves rounded border border-line px-2 py-0.5 hover:border-copper";
  return (
    <div className="mt-3">
      <textarea
        // biome-ignore lint/a11y/noAutofocus: a button has just asked for it
        autoFocus
        aria-label="Text to look at"
        value={text}
        onChange={(e) => setText(e.target.value)}
        rows={6}
        placeholder="What a check printed, or the notes"
        className="w-full rounded border border-line bg-paper px-2 py-1 font-mono text-xs"
      />
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <span className="text-soft">This is</span>
        <button type="button" className={button} onClick={() => put("pasted.log", "after")}>
          output after the bump
        </button>
        <button type="button" className={button} onClick={() => put("pasted-before.log", "before")}>
          output before
        </button>
        <button type="button" className={button} onClick={() => put("pasted-notes.md", "notes")}>
          release notes
        </button>
      </div>
    </div>
  );
}
