import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Choice, Segments } from "../shared/Choice";
import { DialogForm } from "../shared/DialogForm";
import { newId } from "../shared/id";
import { NoteField } from "../shared/NoteField";
import { Sheetlet } from "../shared/Sheetlet";
import { capital } from "../shared/words";
import { CHECK_WORD } from "./words";

type Check = Schemas["Check"];

const ALL = (Object.keys(CHECK_WORD) as Check[]).map((value) => ({
  value,
  text: capital(CHECK_WORD[value]),
}));

type CheckDialogProps = {
  build: Build;
  /** The check that was asked for; any, to be chosen, when absent. */
  check: Check | null;
  /** Of one cylinder or journal; of the engine as a whole when absent. */
  at: string | null;
  onClose: () => void;
};

/** Records a check that was done by eye or hand, or elsewhere. */
export function CheckDialog({ build, check: asked, at, onClose }: CheckDialogProps) {
  const [check, setCheck] = useState<Check>(asked ?? "crack_test");
  const client = useQueryClient();
  const [id] = useState(newId);
  const [found, setFound] = useState<Schemas["CheckFound"]>("good");
  const [note, setNote] = useState("");
  const record = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/checks", {
          params: { path: { build: build.code } },
          body: { id, check, at, found, note },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  return (
    <Sheetlet open title={capital(CHECK_WORD[check])} onClose={onClose} width={480}>
      <DialogForm
        problem={record.error}
        disabled={record.isPending}
        onSubmit={() => record.mutate()}
        onClose={onClose}
      >
        {asked === null && (
          <Choice
            label="Which check"
            showLabel
            value={check}
            options={ALL}
            onChange={setCheck}
            className="h-10 w-full"
          />
        )}
        <div className="flex items-baseline gap-3">
          <Segments
            label="What it found"
            value={found}
            options={[
              { value: "good", text: "Good" },
              { value: "bad", text: "Bad: it is there" },
            ]}
            onChange={setFound}
          />
          <span className="text-small text-ink-2">{at ? `of ${at}` : "of the engine"}</span>
        </div>
        <NoteField value={note} problem={record.error} onChange={setNote} />
      </DialogForm>
    </Sheetlet>
  );
}
