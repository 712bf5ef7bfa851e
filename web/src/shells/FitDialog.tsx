import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { shellsQuery, showRecorded } from "../api/queries";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { NoteField } from "../shared/NoteField";
import { Sheetlet } from "../shared/Sheetlet";
import { minutesText } from "../shared/words";

type FitDialogProps = {
  build: Build;
  proposal: Schemas["Proposal"];
  ask: Schemas["AskShells"];
  onClose: () => void;
};

/** Takes the halves off the shelf and records that they are in. */
export function FitDialog({ build, proposal, ask, onClose }: FitDialogProps) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [back, setBack] = useState(true);
  const [minutes, setMinutes] = useState("");
  const [note, setNote] = useState("");
  const changing = proposal.places.filter((p) => p.changes);
  const lacking = proposal.picks.some((p) => p.from.kind === "set");
  const fit = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/fittings", {
          params: { path: { build: build.code } },
          body: {
            id,
            ask,
            pairs: changing.map((p) => ({ station: p.station, upper: p.pair.upper, lower: p.pair.lower })),
            back,
            minutes: /^\d+$/.test(minutes.trim()) ? Number(minutes) : null,
            note,
          },
        }),
      ),
    onSuccess: async (recorded) => {
      showRecorded(client, recorded);
      await client.invalidateQueries(shellsQuery);
      onClose();
    },
  });
  return (
    <Sheetlet open title={`Fit ${changing.map((p) => p.station).join(", ")}`} onClose={onClose} width={560}>
      <DialogForm
        problem={fit.error}
        action="They are in"
        leave="Leave them"
        disabled={fit.isPending || lacking}
        onSubmit={() => fit.mutate()}
        onClose={onClose}
      >
        <ul className="text-small">
          {changing.map((p) => (
            <li key={p.station} className="flex gap-3 border-b border-hair py-1">
              <b className="w-8">{p.station}</b>
              <span className="flex-1">
                <b className="num">{p.pair.upper}</b> over <b className="num">{p.pair.lower}</b>, where{" "}
                <span className="num">{p.now.upper}</span> over <span className="num">{p.now.lower}</span> was
              </span>
            </li>
          ))}
        </ul>
        {lacking && (
          <p className="bg-ink px-3 py-1.5 text-small font-semibold text-white">
            A set of this choice has to come in first: order it, then receive it on the shelf.
          </p>
        )}
        <p className="text-small leading-snug">
          <b>These bearings become predicted</b> until they are measured again. Caps back in their places,
          facing forward, drawn down square by hand before any torque.
        </p>
        <div className="grid grid-cols-[1fr_150px] gap-4">
          <NoteField value={note} problem={fit.error} onChange={setNote} />
          <Field
            label={`Minutes (estimate ${minutesText(proposal.estimate.minutes)})`}
            name="minutes"
            value={minutes}
            problem={fit.error}
            inputMode="numeric"
            autoComplete="off"
            onChange={(e) => setMinutes(e.target.value)}
          />
        </div>
        <label className="flex items-center gap-2 text-small">
          <input
            type="checkbox"
            checked={back}
            onChange={(e) => setBack(e.target.checked)}
            className="size-4"
          />
          The halves that come out go back on the shelf, fit to be used again
        </label>
      </DialogForm>
    </Sheetlet>
  );
}
