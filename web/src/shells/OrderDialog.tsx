import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { Sheetlet } from "../shared/Sheetlet";

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

/** What the other shop has to know besides the sizes. */
export function OrderDialog({ build, ask, choice, onClose }: OrderDialogProps) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const grinds = choice.kind === "grind" || choice.kind === "bore_to_fit";
  const [shop, setShop] = useState("");
  const [fillet, setFillet] = useState("");
  const [finish, setFinish] = useState(choice.kind === "resize" ? "0.8 um Ra" : "0.2 um Ra or better");
  const [note, setNote] = useState(grinds ? "crack test first; break the edges of the oil holes" : "");
  const write = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/orders", {
          params: { path: { build: build.code } },
          body: { id, ask, choice, shop, fillet, finish, note },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  const field = (label: string, name: string, value: string, onChange: (text: string) => void) => (
    <Field
      label={label}
      name={name}
      value={value}
      problem={write.error}
      autoComplete="off"
      onChange={(e) => onChange(e.target.value)}
    />
  );
  return (
    <Sheetlet open title={TITLE[choice.kind]} onClose={onClose} width={560}>
      <DialogForm
        problem={write.error}
        action="Write it"
        disabled={write.isPending}
        onSubmit={() => write.mutate()}
        onClose={onClose}
      >
        {field("Which shop", "shop", shop, setShop)}
        <div className="grid grid-cols-2 gap-4">
          {grinds && field("Fillet radius to keep", "fillet", fillet, setFillet)}
          {field("Finish", "finish", finish, setFinish)}
        </div>
        {field("What else they have to know", "note", note, setNote)}
        {grinds && build.assessment.end_play_first && (
          <p
            className="bg-ink px-3 py-1.5 text-small leading-snug font-semibold text-white"
            data-gate="end_play"
          >
            End play was never measured on this crank. Measure it before anything is done to it: a crank that
            is too wide or too narrow at its thrust can be sent back only untouched.
          </p>
        )}
        {grinds && (
          <p className="text-note text-ink-2">
            <b className="text-ink">Heavy crank:</b> lift with help. Crack testing is for people qualified for
            it, and local rules.
          </p>
        )}
      </DialogForm>
    </Sheetlet>
  );
}
