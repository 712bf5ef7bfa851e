import { useEffect, useRef } from "react";
import { Digits } from "../shared/Figure";
import { useBenchKeys } from "./BenchKeys";
import type { BenchState } from "./useBench";

type CellInputProps = { name: string; lead: string; bench: BenchState; problem: boolean };

/** The cell one types into. It keeps the focus while the bench is worked along. */
export function CellInput({ name, lead, bench, problem }: CellInputProps) {
  const input = useRef<HTMLInputElement>(null);
  const onKeyDown = useBenchKeys();
  useEffect(() => {
    // Never under the echo at the foot, nor under the edge of the window.
    // At the foot it is always in sight, and nothing moves for it.
    if (!input.current?.closest("[data-foot]")) input.current?.scrollIntoView({ block: "nearest" });
    input.current?.focus({ preventScroll: true });
  }, []);
  return (
    <span className="num flex h-full items-center justify-center">
      <span className="lead" aria-hidden="true">
        <Digits text={lead} />
      </span>
      <input
        ref={input}
        data-entry=""
        aria-label={name}
        aria-invalid={problem || undefined}
        aria-describedby="echo"
        value={bench.text}
        inputMode="decimal"
        autoComplete="off"
        spellCheck={false}
        maxLength={40}
        onChange={(e) => bench.setText(e.target.value)}
        onKeyDown={onKeyDown}
        style={{ width: `${Math.max(1.2, bench.text.length * 0.63 + 0.3)}em` }}
        className={`h-7 scroll-mt-14 scroll-mb-32 font-bold outline-none focus-visible:outline-none ${
          bench.text ? (problem ? "bg-tight text-white" : "bg-dye text-white") : "bg-transparent"
        } ${lead ? "" : "px-0.5 text-center"}`}
      />
    </span>
  );
}
