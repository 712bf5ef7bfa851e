import { Description, Field as Group, Input, Label } from "@headlessui/react";
import type { ComponentProps } from "react";
import { fieldProblem } from "./ProblemNote";

type FieldProps = Omit<ComponentProps<"input">, "name" | "className" | "ref"> & {
  label: string;
  name: string;
  /** Figures are set in the figures' type. */
  figure?: boolean;
  hint?: string | undefined;
  problem?: unknown;
  className?: string;
};

/** A labelled input that shows the problem the server had with it. */
export function Field({ label, name, figure, hint, problem, className, ...input }: FieldProps) {
  const wrong = fieldProblem(problem, name);
  return (
    <Group className={className}>
      <Label className="mb-1 block text-small text-ink-2">{label}</Label>
      <Input
        {...input}
        name={name}
        invalid={wrong !== undefined}
        className={`field-input ${figure ? "num" : ""}`}
      />
      {(wrong || hint) && (
        <Description
          id={`${name}-note`}
          className={`mt-1 text-note ${wrong ? "font-semibold text-ink" : "text-ink-2"}`}
        >
          {wrong ?? hint}
        </Description>
      )}
    </Group>
  );
}
