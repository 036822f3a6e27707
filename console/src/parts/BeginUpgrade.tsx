import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, data } from "../api/client";
import { keys } from "../api/queries";
import type { Move } from "../api/triage";
import { Command } from "./basics";
import { FormEnd } from "./FormEnd";
import { Moves } from "./Moves";

/** Begins an upgrade here, or names the command that does it in the project's folder. */
export function BeginUpgrade({ first }: { first: boolean }) {
  const [open, setOpen] = useState(false);
  const [project, setProject] = useState("");
  const [name, setName] = useState("");
  const [moves, setMoves] = useState<Move[]>([{ package: "", from: "", to: "" }]);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const begin = useMutation({
    mutationFn: () =>
      data(client.POST("/upgrades", { body: { project, name, moves: moves.filter((m) => m.package) } })),
    onSuccess: (u) => {
      queries.invalidateQueries({ queryKey: keys.upgrades });
      navigate(`/upgrades/${u.id}`);
    },
  });
  if (!open) {
    return (
      <div className="no-print mt-3 flex flex-wrap items-center gap-x-3 gap-y-1 text-soft">
        {first && <span>None yet.</span>}
        <button
          type="button"
          onClick={() => setOpen(true)}
          className="moves rounded border border-copper px-2 py-0.5 text-copper hover:bg-wash"
        >
          Begin an upgrade
        </button>
        <span>or in the project's folder, before the bump:</span>
        <Command text="unicausa begin" />
      </div>
    );
  }
  const field = "block w-full rounded border border-line bg-sheet px-2 py-1";
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        begin.mutate();
      }}
      onKeyDown={(e) => e.key === "Escape" && setOpen(false)}
      className="no-print mt-3 max-w-2xl space-y-3 border-l-2 border-copper pl-4"
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <label>
          <span className="text-xs text-soft">Project</span>
          {/* biome-ignore lint/a11y/noAutofocus: a button has just asked for it */}
          <input autoFocus required value={project} onChange={(e) => setProject(e.target.value)} className={field} />
        </label>
        <label>
          <span className="text-xs text-soft">Name of the upgrade</span>
          <input required value={name} onChange={(e) => setName(e.target.value)} className={field} />
        </label>
      </div>
      <div>
        <span className="text-xs text-soft">What moves</span>
        <Moves moves={moves} onChange={setMoves} />
      </div>
      <FormEnd
        act="Begin"
        busy={begin.isPending || !moves.some((m) => m.package)}
        error={begin.error?.message}
        onCancel={() => setOpen(false)}
      />
    </form>
  );
}
