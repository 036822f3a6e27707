import { type ReactNode, useState } from "react";

/** An act that an empty page, or the head of a full one, offers: a button that opens its form. */
export function Offer({ act, children }: { act: string; children: (close: () => void) => ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <div className="no-print">
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="moves rounded border border-copper px-2 py-0.5 text-copper hover:bg-wash"
      >
        {act}
      </button>
      {open && <div className="mt-3">{children(() => setOpen(false))}</div>}
    </div>
  );
}
