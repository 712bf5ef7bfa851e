import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from "@headlessui/react";
import type { ReactNode } from "react";

type SheetletProps = {
  open: boolean;
  title: string;
  onClose: () => void;
  children: ReactNode;
  width?: number;
};

/** A sheet of paper laid over the screen for one decision. Escape takes it away. */
export function Sheetlet({ open, title, onClose, children, width = 520 }: SheetletProps) {
  return (
    <Dialog open={open} onClose={onClose} className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-ink/45" />
      <div className="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel
          className="max-h-full relative overflow-auto border-t-4 border-dye bg-paper"
          style={{ width }}
        >
          <div className="grad" />
          <div className="p-6 pt-4">
            <DialogTitle className="text-lead font-bold">{title}</DialogTitle>
            {children}
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
