import type { Move } from "../api/triage";
import { Rows } from "./Rows";

interface Props {
  moves: Move[];
  said?: (m: Move) => string | undefined;
  onChange: (moves: Move[]) => void;
}

/** What moves, a row each, to be corrected: package, from version, to version. */
export function Moves({ moves, said, onChange }: Props) {
  return (
    <Rows<Move>
      rows={moves}
      columns={[
        { field: "package", label: "Package or toolchain", placeholder: "package or toolchain" },
        { field: "from", label: "From version", placeholder: "from" },
        { field: "to", label: "To version", placeholder: "to" },
      ]}
      grid="grid-cols-[minmax(0,1fr)_5rem_5rem_1.75rem] sm:grid-cols-[minmax(0,1fr)_7rem_7rem_1.75rem_minmax(0,10rem)]"
      empty={{ package: "", from: "", to: "" }}
      more={moves.length === 0 ? "Say what moves" : "Something else moves too"}
      beside={(m) => (
        <span className="hidden truncate text-xs text-soft sm:block">{said?.(m) && `read from ${said(m)}`}</span>
      )}
      onChange={onChange}
    />
  );
}
