import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import type { Recorded } from "../api/client";
import { showRecorded } from "../api/queries";
import { DialogForm } from "./DialogForm";
import { Field } from "./Field";
import { newId } from "./id";
import { Sheetlet } from "./Sheetlet";

/** What stands on the paper of a work order beside its lines. */
export type Paper = { id: string; shop: string; fillet: string; finish: string; note: string };

type PaperDialogProps = {
  title: string;
  /** What usually stands there. */
  usual: { finish: string; note: string };
  /** Whether journals are ground, whose fillets are kept. */
  fillets?: boolean;
  write: (paper: Paper) => Promise<Recorded>;
  onClose: () => void;
  /** What is said before it is written. */
  children?: ReactNode;
};

/** What the other shop has to know besides the sizes. */
export function PaperDialog({ title, usual, fillets = false, write, onClose, children }: PaperDialogProps) {
  const client = useQueryClient();
  const [paper, setPaper] = useState<Paper>(() => ({ id: newId(), shop: "", fillet: "", ...usual }));
  const writing = useMutation({
    mutationFn: () => write(paper),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  const field = (label: string, name: keyof Paper) => (
    <Field
      label={label}
      name={name}
      value={paper[name]}
      problem={writing.error}
      autoComplete="off"
      onChange={(e) => setPaper({ ...paper, [name]: e.target.value })}
    />
  );
  return (
    <Sheetlet open title={title} onClose={onClose} width={560}>
      <DialogForm
        problem={writing.error}
        action="Write it"
        disabled={writing.isPending}
        onSubmit={() => writing.mutate()}
        onClose={onClose}
      >
        {field("Which shop", "shop")}
        <div className={fillets ? "grid grid-cols-2 gap-4" : ""}>
          {fillets && field("Fillet radius to keep", "fillet")}
          {field("Finish", "finish")}
        </div>
        {field("What else they have to know", "note")}
        {children}
      </DialogForm>
    </Sheetlet>
  );
}
