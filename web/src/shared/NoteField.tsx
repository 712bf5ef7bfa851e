import { Field } from "./Field";

type NoteFieldProps = { value: string; problem: unknown; onChange: (note: string) => void };

/** Why something is done and what was seen: the note that goes with a fact, and the first thing to type in its dialog. */
export function NoteField({ value, problem, onChange }: NoteFieldProps) {
  return (
    <Field
      label="Why, and what was seen"
      name="note"
      value={value}
      problem={problem}
      autoFocus
      autoComplete="off"
      onChange={(e) => onChange(e.target.value)}
    />
  );
}
