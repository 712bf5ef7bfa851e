import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { Digits } from "../shared/Figure";
import type { Entry } from "./useBench";
import type { Echo } from "./useEcho";

const HOW: Record<Schemas["How"], string> = {
  full: "as typed",
  tail: "the last digits",
  dial: "on the dial",
  unit: "in its own unit",
};

type EchoBarProps = {
  text: string;
  echo: Echo | undefined;
  back: Entry | undefined;
  /** The station that the text names, if it is one. */
  station: string | undefined;
  idle: string;
  /** Which place the text goes to. */
  place: string | undefined;
  /** Takes the keys while no cell does. */
  pad?: ReactNode;
};

/** Says what was understood before it is kept, or why it will not be. */
export function EchoBar({ text, echo, back, station, idle, place, pad }: EchoBarProps) {
  const sentBack = back && back.text === text.trim() ? back.problem : undefined;
  const problem =
    echo?.problem ?? (sentBack && { code: sentBack.code, detail: sentBack.detail, can_force: false });
  return (
    <div className="bg-steel-2">
      {place && (
        <p className="truncate px-3 pt-1 text-note font-semibold text-ink-2" data-echo-place="">
          {place}
        </p>
      )}
      <div className="flex items-center">
        {pad}
        <output
          id="echo"
          aria-live="polite"
          className={`flex min-h-11 flex-1 items-center gap-3 px-3 py-1 ${problem ? "border-l-4 border-ink bg-steel-3" : "bg-steel-2"}`}
          data-echo={problem ? problem.code : (echo?.understood?.shown ?? "")}
        >
          {text === "" && <span className="text-small text-ink-2">{idle}</span>}
          {station && <span className="font-semibold">Go to {station}: press Enter</span>}
          {!station && problem && (
            <span className="text-small leading-tight font-semibold">
              {problem.detail.charAt(0).toUpperCase() + problem.detail.slice(1)}
              {problem.can_force && (
                <span className="ml-2 font-medium whitespace-nowrap">
                  <kbd>Ctrl</kbd> <kbd>Enter</kbd> keeps it all the same
                </span>
              )}
            </span>
          )}
          {!problem && echo?.understood && (
            <>
              <span className="num text-ink-2">{text.trim()}</span>
              <svg width="20" height="10" viewBox="0 0 20 10" aria-hidden="true" className="flex-none">
                <path
                  d="M0 5h17M12.500 1 17 5l-4.500 4"
                  stroke="var(--color-ink-2)"
                  strokeWidth="1.5"
                  fill="none"
                />
              </svg>
              <b className="num text-cell">
                <Digits text={echo.understood.shown} />
              </b>
              <span className="text-small text-ink-2">
                {echo.understood.between_blades ? "between the blades" : HOW[echo.understood.how]}
                {echo.understood.zeroed_at && `, zeroed at ${echo.understood.zeroed_at}`}
              </span>
            </>
          )}
        </output>
      </div>
    </div>
  );
}
