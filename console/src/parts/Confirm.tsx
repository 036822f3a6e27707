import { AlertDialog } from "radix-ui";

interface Props {
  ask: string;
  title: string;
  text: string;
  act: () => void;
}

/** A button that asks once more before it acts. */
export function Confirm({ ask, title, text, act }: Props) {
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger className="moves text-copper underline underline-offset-2">{ask}</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 bg-black/30" />
        <AlertDialog.Content className="fixed left-1/2 top-1/3 w-[26rem] max-w-[92vw] -translate-x-1/2 rounded border border-line bg-sheet p-4 shadow-lg">
          <AlertDialog.Title className="mb-2 font-semibold">{title}</AlertDialog.Title>
          <AlertDialog.Description className="text-soft">{text}</AlertDialog.Description>
          <div className="mt-4 flex gap-3">
            <AlertDialog.Action
              onClick={act}
              className="moves rounded border border-copper px-3 py-1 text-copper hover:bg-wash"
            >
              {ask}
            </AlertDialog.Action>
            <AlertDialog.Cancel className="moves rounded border border-line px-3 py-1 hover:bg-wash">
              Leave it
            </AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
