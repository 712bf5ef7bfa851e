import { Field } from "../shared/Field";
import { ProblemNote } from "../shared/ProblemNote";

type ChangeWhyProps = {
  /** Name of the reason's field. */
  name: string;
  reason: string;
  problem: Error | null;
  busy: boolean;
  /** What the button that records says. */
  action: string;
  onReason: (reason: string) => void;
  onLeave: () => void;
};

/** The end of a form that changes how a build is worked: why, and whether at all. */
export function ChangeWhy({ name, reason, problem, busy, action, onReason, onLeave }: ChangeWhyProps) {
  return (
    <div className="mt-2 grid gap-2">
      <Field
        label="Why"
        name={name}
        value={reason}
        problem={problem}
        autoComplete="off"
        onChange={(e) => onReason(e.target.value)}
      />
      <ProblemNote problem={problem} />
      <div className="flex justify-end gap-3">
        <button type="button" className="btn" onClick={onLeave}>
          Leave them
        </button>
        <button type="submit" className="btn btn-main" disabled={busy}>
          {action}
        </button>
      </div>
    </div>
  );
}
