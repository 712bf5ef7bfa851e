import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { DialogForm } from "../shared/DialogForm";
import { newId } from "../shared/id";
import { NoteField } from "../shared/NoteField";
import { Sheetlet } from "../shared/Sheetlet";
import { type AskWashers, type WasherChoice, washersQuery } from "./useWashers";

type FitWashersProps = { build: Build; ask: AskWashers; choice: WasherChoice; onClose: () => void };

/** Takes the halves off the shelf and records that they are in, once somebody looked how they face. */
export function FitWashersDialog({ build, ask, choice, onClose }: FitWashersProps) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [backs, setBacks] = useState(false);
  const [grooves, setGrooves] = useState(false);
  const [note, setNote] = useState("");
  const fit = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/washers/fit", {
          params: { path: { build: build.code } },
          body: {
            id,
            ask,
            front: choice.front.class ?? null,
            front_lap: choice.front.lap,
            rear: choice.rear.class ?? null,
            rear_lap: choice.rear.lap,
            backs_to_housing: backs,
            grooves_open: grooves,
            note,
          },
        }),
      ),
    onSuccess: async (recorded) => {
      showRecorded(client, recorded);
      await client.invalidateQueries(washersQuery);
      onClose();
    },
  });
  const tick = (checked: boolean, set: (to: boolean) => void, text: string) => (
    <label className="flex items-start gap-2 leading-snug">
      <input
        type="checkbox"
        checked={checked}
        onChange={(e) => set(e.target.checked)}
        className="mt-0.5 size-4 flex-none"
      />
      {text}
    </label>
  );
  return (
    <Sheetlet
      open
      title={`Fit ${choice.front.name} front, ${choice.rear.name} rear`}
      onClose={onClose}
      width={560}
    >
      <DialogForm
        problem={fit.error}
        action="They are in"
        leave="Leave them"
        disabled={fit.isPending || !backs || !grooves}
        onSubmit={() => fit.mutate()}
        onClose={onClose}
      >
        <p className="leading-snug">
          <b>A washer the wrong way round shows in no figure.</b> Look at each of them before the cap goes on.
        </p>
        {tick(backs, setBacks, "Steel backs to the housing, linings to the crank, on both sides")}
        {tick(
          grooves,
          setGrooves,
          "Grooves open to the oil, tangs in their slots, no half in the other's place",
        )}
        <p className="text-small leading-snug">
          <b>End play becomes predicted</b> until it is pushed again: thrust seated, all caps torqued. Fingers
          out from between cheek and block; the crank is heavy.
        </p>
        <NoteField value={note} problem={fit.error} onChange={setNote} />
      </DialogForm>
    </Sheetlet>
  );
}
