import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type FloorRow, unwrap } from "../api/client";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { Sheetlet } from "../shared/Sheetlet";

/** Puts a build away from the floor, or takes it out again. Nothing of it is lost, and a seal holds. */
export function PutAway({ row, onClose }: { row: FloorRow; onClose: () => void }) {
  const client = useQueryClient();
  const [reason, setReason] = useState("");
  const away = !row.archived;
  const move = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/archive", {
          params: { path: { build: row.code } },
          body: { archived: away, reason },
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ["floor"] });
      onClose();
    },
  });
  return (
    <Sheetlet open title={away ? `Put ${row.code} away` : `${row.code} back to the floor`} onClose={onClose}>
      <DialogForm
        problem={move.error}
        action={away ? "Put it away" : "Back to the floor"}
        leave="Leave it"
        onSubmit={() => move.mutate()}
        onClose={onClose}
      >
        <p className="text-small text-ink-2">
          {away
            ? "It leaves the floor and stays searchable, with everything that was recorded. A seal holds."
            : `It was put away: ${row.archived?.reason}.`}
        </p>
        {away && (
          <Field
            label="Why"
            name="reason"
            value={reason}
            autoFocus
            problem={move.error}
            onChange={(e) => setReason(e.target.value)}
          />
        )}
      </DialogForm>
    </Sheetlet>
  );
}
