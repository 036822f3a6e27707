import type { Link } from "../api/client";

/** Where the entry of a link stands: the file gives way where there is little room, the line never does. */
export function NoteLabel({ link }: { link?: Link }) {
  if (!link) return <span className="text-xs text-soft">no note</span>;
  const { notes, line } = link.change;
  const certainty = link.state === "confirmed" ? "confirmed " : link.standing === "possible" ? "perhaps " : "";
  return (
    <span className="inline-flex max-w-full text-xs text-soft" title={`${notes}:${line}`}>
      <span className="truncate">
        {certainty}
        {notes.split("/").at(-1)}
      </span>
      <span className="shrink-0">:{line}</span>
    </span>
  );
}
