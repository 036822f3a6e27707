import { useRef } from "react";

/** A button that lets files be chosen, or with folder all those of one. */
export function ChooseFiles({
  text,
  label = text,
  onChoose,
  folder,
  className = "border-line hover:border-copper",
}: {
  text: string;
  label?: string;
  onChoose: (files: File[]) => void;
  folder?: boolean;
  className?: string;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        onClick={() => input.current?.click()}
        className={`moves rounded border px-2 py-0.5 ${className}`}
      >
        {text}
      </button>
      <input
        ref={input}
        type="file"
        hidden
        aria-label={label}
        {...(folder ? { webkitdirectory: "" } : { multiple: true })}
        onChange={(e) => {
          onChoose([...(e.target.files ?? [])]);
          e.target.value = "";
        }}
      />
    </>
  );
}
