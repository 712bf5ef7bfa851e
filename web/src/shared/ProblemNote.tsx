import { Problem } from "../api/client";

/** A refusal, shown where it happened. */
export function ProblemNote({ problem, id }: { problem: unknown; id?: string }) {
  if (!problem) return null;
  const text = problem instanceof Error ? problem.message : "Something went wrong.";
  return (
    <p
      id={id}
      role="alert"
      data-problem={problem instanceof Problem ? problem.code : "unknown"}
      className="border-l-4 border-ink bg-steel-2 px-3 py-2 text-small font-semibold"
    >
      {text.charAt(0).toUpperCase() + text.slice(1)}
    </p>
  );
}

/** The message of a problem if it is about that field. */
export function fieldProblem(problem: unknown, field: string): string | undefined {
  return problem instanceof Problem && problem.field === field ? problem.message : undefined;
}
