import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { Sheetlet } from "../shared/Sheetlet";
import { movesText, PART_WORD } from "../shared/words";

type AssignDialogProps = {
  build: Build;
  title: string;
  moves: Schemas["PartMove"][];
  children: ReactNode;
  onClose: () => void;
};

/** Puts parts somewhere, with a reason, and says first what of their evidence ends. */
export function AssignDialog({ build, title, moves, children, onClose }: AssignDialogProps) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [reason, setReason] = useState("");
  const params = { path: { build: build.code } };
  const impact = useQuery({
    queryKey: ["assign-impact", build.code, build.assessment.seq, moves],
    queryFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/assignments/impact", {
          params,
          body: { id, moves, reason: "asked" },
        }),
      ),
    retry: false,
  });
  const assign = useMutation({
    mutationFn: () =>
      unwrap(api.POST("/api/v1/builds/{build}/assignments", { params, body: { id, moves, reason } })),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  return (
    <Sheetlet open title={title} onClose={onClose}>
      <DialogForm
        problem={assign.error ?? impact.error}
        action="Do it"
        onSubmit={() => assign.mutate()}
        onClose={onClose}
      >
        <p className="font-semibold" data-moves={moves.length}>
          {movesText(moves)}.
        </p>
        <p className="text-small leading-snug text-ink-2">{children}</p>
        {impact.data && <Ends impact={impact.data} />}
        <Field
          label="Why"
          name="reason"
          value={reason}
          autoFocus
          problem={assign.error}
          onChange={(e) => setReason(e.target.value)}
        />
      </DialogForm>
    </Sheetlet>
  );
}

function Ends({ impact }: { impact: Schemas["Impact"] }) {
  if (impact.ended.length === 0 && impact.clearances.length === 0) {
    return <p className="text-small">Nothing that is known ends.</p>;
  }
  const ended = impact.ended.map((e) => `${PART_WORD[e.part]} of ${e.station} (${e.readings})`);
  return (
    <div
      className="border-l-4 border-ink bg-steel-2 px-3 py-1.5 text-small"
      data-ends={impact.clearances.length}
    >
      {ended.length > 0 && <p>Readings that no longer count there: {ended.join(", ")}.</p>}
      {impact.clearances.length > 0 && <p>Judged no longer: {impact.clearances.join(", ")}.</p>}
    </div>
  );
}
