import { useState } from "react";
import type { Build, Schemas } from "../api/client";
import { Digits } from "../shared/Figure";
import { StrikeButton, StrikeDialog } from "../shared/StrikeDialog";
import { momentText } from "../shared/words";

type TrialRead = Schemas["TrialRead"];

const SAYS: Record<Schemas["DragSays"], string> = {
  light: "turns lightly and evenly",
  light_and_bent: "turns lightly, but drags on one side: bent all the same",
  tight_all_along: "drags all along: sizes, not straightness",
  bent: "drags once a turn: bent, or one journal eccentric",
  unclear: "says nothing clearly: oil it, clock it anew, turn it again",
};

const R = 34;

/** What it took to turn the cam, trial by trial, the latest first. */
export function Trials({ build, trials }: { build: Build; trials: TrialRead[] }) {
  const [striking, setStriking] = useState<TrialRead>();
  if (trials.length === 0) return null;
  const newtons = (thousandths: number) => <Digits text={(thousandths / 1000).toFixed(2)} />;
  return (
    <>
      {striking && (
        <StrikeDialog
          build={build}
          entry={striking.id}
          title="Strike a trial of the cam"
          onClose={() => setStriking(undefined)}
        >
          Mean <b className="num">{newtons(striking.mean)}</b> N m, {striking.by.name},{" "}
          {momentText(striking.at)}
        </StrikeDialog>
      )}
      <ul className="mt-2 border-t border-hair-strong" aria-label="Trials of the cam">
        {[...trials].reverse().map((t) => (
          <li key={t.seq} data-trial={t.says} className="flex items-center gap-4 border-b border-hair py-1.5">
            <Clock trial={t} />
            <p className="flex-1 text-small leading-snug">
              <b>{SAYS[t.says].charAt(0).toUpperCase() + SAYS[t.says].slice(1)}.</b> Mean{" "}
              <b className="num">{newtons(t.mean)}</b> N m, once a turn{" "}
              <b className="num">{newtons(t.first)}</b>, ratio{" "}
              <span className="num">
                <Digits text={t.ratio.toFixed(2)} />
              </span>
              , most at <span className="num">{t.clock}°</span>.
              <span className="block text-note text-ink-2">
                {t.oiled ? "Oiled" : "Dry"}, {t.by.name}, {momentText(t.at)}: {t.note}
              </span>
            </p>
            <StrikeButton onPress={() => setStriking(t)} />
          </li>
        ))}
      </ul>
    </>
  );
}

/** The torque around the clock; the mean as a circle. */
function Clock({ trial }: { trial: TrialRead }) {
  const most = Math.max(trial.mean * 1.2, ...trial.turn.map((t) => t.torque), 1);
  const at = (angle: number, torque: number) => {
    const a = ((angle - 90) * Math.PI) / 180;
    const r = (R * torque) / most;
    return `${40 + r * Math.cos(a)} ${40 + r * Math.sin(a)}`;
  };
  return (
    <svg width="80" height="80" viewBox="0 0 80 80" aria-hidden="true">
      <path d="M40 4V76M4 40H76" stroke="var(--color-hair-strong)" />
      <circle cx="40" cy="40" r={(R * trial.mean) / most} className="b-finished" />
      <path
        d={`M${trial.turn.map((t) => at(t.angle, t.torque)).join("L")}Z`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="2"
      />
      <path d={`M40 40L${at(trial.clock, most)}`} stroke="var(--color-dye)" strokeWidth="2" />
    </svg>
  );
}
