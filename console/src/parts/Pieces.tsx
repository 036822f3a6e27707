import { X } from "lucide-react";
import { Middle } from "./basics";
import { type Piece, type Role, roles, sizeText } from "./pieces";

interface Props {
  pieces: Piece[];
  packages: string[];
  of: Record<string, string>;
  onRole: (id: number, role: Role) => void;
  onPackage: (name: string, pkg: string) => void;
  onDrop: (id: number) => void;
}

/** What is at hand, a row each: its name, its size, and what it is taken for. */
export function PieceTable({ pieces, packages, of, onRole, onPackage, onDrop }: Props) {
  const field = "rounded border border-line bg-sheet px-1 py-0.5";
  return (
    <ul className="divide-y divide-line border-y border-line" data-list="pieces">
      {pieces.map((p) => (
        <li
          key={p.id}
          className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 gap-y-1 py-1 sm:grid-cols-[minmax(0,1fr)_6rem_auto_2rem]"
        >
          <span className="truncate font-mono text-xs">
            <Middle text={p.name} most={60} />
          </span>
          <span className="text-right text-xs text-soft">
            {p.files === undefined ? sizeText(p.content.size) : `${p.files} files`}
          </span>
          <span className="flex flex-wrap items-center gap-2">
            <select
              aria-label={`What ${p.name} is`}
              value={p.role}
              onChange={(e) => onRole(p.id, e.target.value as Role)}
              className={field}
            >
              {Object.entries(roles).map(([role, text]) => (
                <option key={role} value={role}>
                  {text}
                </option>
              ))}
            </select>
            {p.role === "notes" && packages.length > 1 && (
              <select
                aria-label={`The package of ${p.name}`}
                value={of[p.name] ?? ""}
                onChange={(e) => onPackage(p.name, e.target.value)}
                className={field}
              >
                <option value="">of any package</option>
                {packages.map((pkg) => (
                  <option key={pkg} value={pkg}>
                    of {pkg}
                  </option>
                ))}
              </select>
            )}
          </span>
          <button
            type="button"
            onClick={() => onDrop(p.id)}
            aria-label={`Remove ${p.name}`}
            className="moves justify-self-end rounded p-1 text-soft hover:bg-wash hover:text-ink"
          >
            <X className="size-3.5" aria-hidden="true" />
          </button>
        </li>
      ))}
    </ul>
  );
}
