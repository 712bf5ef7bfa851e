import type { FormEvent, ReactNode } from "react";
import { ProblemNote } from "./ProblemNote";

type DialogFormProps = {
  children: ReactNode;
  problem: unknown;
  /** What keeping it is called. */
  action?: string;
  /** What not keeping it is called. */
  leave?: string;
  disabled?: boolean;
  onSubmit: () => void;
  onClose: () => void;
};

/** The form of a sheet: its fields, what was wrong with them, and two ways out. Enter keeps it. */
export function DialogForm(props: DialogFormProps) {
  const { children, problem, action = "Record it", leave = "Leave it", disabled, onSubmit, onClose } = props;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onSubmit();
  };
  return (
    <form onSubmit={submit} className="mt-3 grid gap-4">
      {children}
      <ProblemNote problem={problem} />
      <div className="flex justify-end gap-3">
        <button type="button" className="btn" onClick={onClose}>
          {leave}
        </button>
        <button type="submit" className="btn btn-main" disabled={disabled}>
          {action}
        </button>
      </div>
    </form>
  );
}
