import { api, type Build, type Schemas, unwrap } from "../api/client";
import { PaperDialog } from "../shared/PaperDialog";

type OrderDialogProps = {
  build: Build;
  ask: Schemas["AskMachining"];
  choice: Schemas["ChosenPlan"];
  onClose: () => void;
};

const TITLE: Record<Schemas["ChosenPlan"]["kind"], string> = {
  grind: "Order: grind all to one size",
  bore_to_fit: "Order: grind until clean, bore to fit",
  polish: "Order: polish to size",
  resize: "Order: bring housings to size",
};

/** The paper for what is ground, polished, bored to fit or brought to size. */
export function OrderDialog({ build, ask, choice, onClose }: OrderDialogProps) {
  const grinds = choice.kind === "grind" || choice.kind === "bore_to_fit";
  return (
    <PaperDialog
      title={TITLE[choice.kind]}
      usual={{
        finish: choice.kind === "resize" ? "0.8 um Ra" : "0.2 um Ra or better",
        note: grinds ? "crack test first; break the edges of the oil holes" : "",
      }}
      fillets={grinds}
      write={(paper) =>
        unwrap(
          api.POST("/api/v1/builds/{build}/orders", {
            params: { path: { build: build.code } },
            body: { ...paper, ask, choice },
          }),
        )
      }
      onClose={onClose}
    >
      {grinds && build.assessment.end_play_first && (
        <p
          className="bg-ink px-3 py-1.5 text-small leading-snug font-semibold text-white"
          data-gate="end_play"
        >
          End play was never measured on this crank. Measure it before anything is done to it: a crank that is
          too wide or too narrow at its thrust can be sent back only untouched.
        </p>
      )}
      {grinds && (
        <p className="text-note text-ink-2">
          <b className="text-ink">Heavy crank:</b> lift with help. Crack testing is for people qualified for
          it, and local rules.
        </p>
      )}
    </PaperDialog>
  );
}
