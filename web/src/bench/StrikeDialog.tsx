import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Build, type Reading, type Unit, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Field } from "../shared/Field";
import { Figure } from "../shared/Figure";
import { newId } from "../shared/id";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { momentText } from "../shared/words";

type StrikeDialogProps = { build: Build; reading: Reading; unit: Unit; onClose: () => void };

/** Strikes a reading with a reason: nothing is ever edited or deleted. */
export function StrikeDialog({ build, reading, unit, onClose }: StrikeDialogProps) {
  const client = useQueryClient();
  const [reason, setReason] = useState("");
  const [id] = useState(newId);
  const strike = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/strikes", {
          params: { path: { build: build.code } },
          body: { id, reading: reading.id, reason },
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
    <Sheetlet open title={`Strike a reading at ${reading.station}`} onClose={onClose}>
      <form onSubmit={submit} className="mt-3 grid gap-4">
        <p>
          <Figure nm={reading.size} unit={unit} className="text-title font-bold" />
          <span className="ml-3 text-small text-ink-2">
            typed {reading.raw} by {reading.by.name}, {momentText(reading.at)}
          </span>
        </p>
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
