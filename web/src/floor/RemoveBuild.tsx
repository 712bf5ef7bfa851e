import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "../api/client";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { Sheetlet } from "../shared/Sheetlet";

/** Removes a build for good: the lead's, with its name typed once more and a reason that the shop's log keeps. */
export function RemoveBuild({ code, onClose }: { code: string; onClose: () => void }) {
  const client = useQueryClient();
  const [typed, setTyped] = useState("");
  const [reason, setReason] = useState("");
  const remove = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/removal", {
          params: { path: { build: code } },
          body: { code: typed, reason },
        }),
      ),
    onSuccess: () => {
      client.removeQueries({ queryKey: ["build", code] });
      void client.invalidateQueries({ queryKey: ["floor"] });
      onClose();
    },
  });
  return (
    <Sheetlet open title={`Remove ${code} for good`} onClose={onClose}>
      <DialogForm
        problem={remove.error}
        action="Remove it for good"
        disabled={typed.trim() !== code || remove.isPending}
        onSubmit={() => remove.mutate()}
        onClose={onClose}
      >
        <p className="text-small text-ink-2">
          Everything recorded of it is gone afterwards. Export it first if anybody may ask for it. What left
          the shop is better put away.
        </p>
        <Field
          label={`Type ${code}`}
          name="code"
          figure
          value={typed}
          autoFocus
          problem={remove.error}
          onChange={(e) => setTyped(e.target.value)}
        />
        <Field
          label="Why"
          name="reason"
          value={reason}
          problem={remove.error}
          onChange={(e) => setReason(e.target.value)}
        />
      </DialogForm>
    </Sheetlet>
  );
}
