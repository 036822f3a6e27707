import { Check, Copy } from "lucide-react";
import { Tooltip } from "radix-ui";
import { type ReactNode, useState } from "react";
import { Problem } from "../api/client";
import { SignIn } from "./SignIn";

/** A heading of a part of the page. */
export function Heading({ children, aside }: { children: ReactNode; aside?: ReactNode }) {
  return (
    <div className="mb-2 flex items-baseline justify-between gap-4">
      <h2 className="shrink-0 font-semibold">{children}</h2>
      <span className="text-xs text-soft">{aside}</span>
    </div>
  );
}

/** A long value cut in the middle, with the whole in a tooltip. */
export function Middle({ text, most }: { text: string; most: number }) {
  if (text.length <= most) return <>{text}</>;
  const head = Math.ceil(most * 0.6);
  return (
    <Hint text={text}>
      <span>
        {text.slice(0, head)}…{text.slice(text.length - (most - head - 1))}
      </span>
    </Hint>
  );
}

/** Something with a tooltip. */
export function Hint({ text, children }: { text: ReactNode; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={4}
          className="z-10 max-w-md rounded border border-line bg-sheet px-2 py-1 text-xs shadow-md [overflow-wrap:anywhere]"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

/** A button that copies a text. */
export function CopyButton({ text, label }: { text: string; label: string }) {
  const [done, setDone] = useState(false);
  const copy = async () => {
    await navigator.clipboard.writeText(text);
    setDone(true);
    setTimeout(() => setDone(false), 1500);
  };
  return (
    <button
      type="button"
      onClick={copy}
      aria-label={done ? "Copied" : label}
      className="moves no-print rounded p-1 text-soft hover:bg-wash hover:text-ink"
    >
      {done ? <Check className="size-3.5" /> : <Copy className="size-3.5" />}
    </button>
  );
}

/** The command to run next, ready to copy. */
export function Command({ text }: { text: string }) {
  return (
    <span className="inline-flex max-w-full items-center gap-1 rounded border border-line bg-sheet py-0.5 pl-2 pr-1">
      <code className="text-xs [overflow-wrap:anywhere]">{text}</code>
      <CopyButton text={text} label="Copy the command" />
    </span>
  );
}

/** Something wide, which scrolls sideways by pointer and by keyboard. */
export function Wide({ children }: { children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: no fieldset, it only scrolls
    // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, and the keyboard has to reach it
    <div role="group" tabIndex={0} aria-label="A wide table" className="overflow-x-auto">
      {children}
    </div>
  );
}

/** What went wrong, and what to do. */
export function Trouble({ error, retry }: { error: Error; retry?: () => void }) {
  const missing = error instanceof Problem && error.status === 404;
  if (error instanceof Problem && error.status === 401) return <SignIn />;
  return (
    <div role="alert" className="my-8 border-l-2 border-alarm pl-4">
      <p className="font-semibold">{missing ? "This is not here" : "This could not be read"}</p>
      <p className="text-soft">{error.message}</p>
      {retry && !missing && (
        <button type="button" onClick={retry} className="mt-2 text-copper underline underline-offset-2">
          Try again
        </button>
      )}
    </div>
  );
}

/** The shape of what is being read. */
export function Skeleton({ rows }: { rows: number }) {
  return (
    <div aria-busy="true" className="space-y-3 py-4">
      <span className="sr-only">Reading</span>
      {Array.from({ length: rows }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rows of a skeleton are alike
        <div key={i} className="h-8 rounded bg-wash" style={{ width: `${96 - ((i * 13) % 40)}%` }} />
      ))}
    </div>
  );
}
