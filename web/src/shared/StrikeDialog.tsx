import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useState } from "react";
import { api, type Build, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Field } from "./Field";
import { newId } from "./id";
import { fieldProblem, ProblemNote } from "./ProblemNote";
import { Sheetlet } from "./Sheetlet";

type StrikeDialogProps = {
  build: Build;
  /** What is struck: a reading, strokes, a trial, a grid or a picture. */
  entry: string;
  title: string;
  /** What it says, and who typed it. */
  children: ReactNode;
  onClose: () => void;
};

/** Strikes an entry with a reason: nothing is ever edited or deleted. */
export function StrikeDialog({ build, entry, title, children, onClose }: StrikeDialogProps) {
  const client = useQueryClient();
  const [reason, setReason] = useState("");
  const [id] = useState(newId);
  const strike = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/strikes", {
          params: { path: { build: build.code } },
          body: { id, reading: entry, reason },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    strike.mutate();
  };
  return (
    <Sheetlet open title={title} onClose={onClose}>
      <form onSubmit={submit} className="mt-3 grid gap-4">
        <p>{children}</p>
        <p className="text-small text-ink-2">It stays on the record, crossed out, and counts no more.</p>
        <Field
          label="Why is it wrong?"
          name="reason"
          value={reason}
          problem={strike.error}
          autoFocus
          autoComplete="off"
          onChange={(e) => setReason(e.target.value)}
        />
        {!fieldProblem(strike.error, "reason") && <ProblemNote problem={strike.error} />}
        <div className="flex justify-end gap-3">
          <button type="button" className="btn" onClick={onClose}>
            Leave it
          </button>
          <button type="submit" className="btn btn-main" disabled={strike.isPending}>
            Strike it
          </button>
        </div>
      </form>
    </Sheetlet>
  );
}

/** Opens the dialog that strikes an entry of a list. */
export function StrikeButton({ onPress }: { onPress: () => void }) {
  return (
    <button
      type="button"
      className="h-7 px-1.5 text-note text-ink-2 underline underline-offset-2"
      onClick={onPress}
    >
      Strike
    </button>
  );
}
