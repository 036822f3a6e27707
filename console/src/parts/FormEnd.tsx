interface Props {
  act: string;
  busy: boolean;
  error?: string;
  onCancel: () => void;
}

/** The end of a form: what sends it, what drops it, and why it was not taken. */
export function FormEnd({ act, busy, error, onCancel }: Props) {
  return (
    <div className="flex items-center gap-3">
      <button type="submit" disabled={busy} className="rounded bg-copper px-3 py-1 text-paper disabled:opacity-50">
        {act}
      </button>
      <button type="button" onClick={onCancel} className="text-soft hover:text-ink">
        Cancel
      </button>
      {error && (
        <span role="alert" className="text-xs text-alarm">
          {error}
        </span>
      )}
    </div>
  );
}
