import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { DialogForm } from "../shared/DialogForm";
import { newId } from "../shared/id";
import { NoteField } from "../shared/NoteField";
import { Sheetlet } from "../shared/Sheetlet";
import type { Row } from "./ShellsHead";

type FitTrayProps = {
  build: Build;
  row: Row;
  view: Schemas["TrayView"];
  proposal: Schemas["TrayProposal"];
  onClose: () => void;
};

/** Records that what was chosen from the tray is in. */
export function FitTrayDialog({ build, row, view, proposal, onClose }: FitTrayProps) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [note, setNote] = useState("");
  const fit = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/tray/fittings", {
          params: { path: { build: build.code } },
          body: { id, row, version: view.version, seq: build.assessment.seq, note },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  return (
    <Sheetlet
      open
      title={`Fit ${proposal.places.map((p) => p.station).join(", ")} from the tray`}
      onClose={onClose}
    >
      <DialogForm
        problem={fit.error}
        action="They are in"
        leave="Leave them"
        disabled={fit.isPending}
        onSubmit={() => fit.mutate()}
        onClose={onClose}
      >
        <p className="text-small leading-snug">
          <b>These bearings become predicted</b> until they are measured over the torqued caps.
        </p>
        <NoteField value={note} problem={fit.error} onChange={setNote} />
      </DialogForm>
    </Sheetlet>
  );
}
