import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from "@headlessui/react";
import type { ReactNode } from "react";

/** A panel over the page: from the right edge, or in the middle. */
export function Panel({
  title,
  close,
  side,
  wide,
  children,
}: {
  title: ReactNode;
  close: () => void;
  side?: boolean;
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <Dialog open onClose={close} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink/25" />
      <div className={`fixed inset-0 flex ${side ? "justify-end" : "items-start justify-center p-4 pt-[10vh]"}`}>
        <DialogPanel
          className={`flex max-h-full flex-col overflow-auto bg-paper ${side ? "w-full max-w-md border-l border-ink" : `max-h-[80vh] w-full border border-ink ${wide ? "max-w-3xl" : "max-w-lg"}`}`}
        >
          <div className="flex items-start justify-between gap-4 border-b border-line px-5 py-3">
            <DialogTitle className="font-serif text-lg font-semibold">{title}</DialogTitle>
            <button className="act" onClick={close}>
              Close
            </button>
          </div>
          <div className="px-5 py-4">{children}</div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
