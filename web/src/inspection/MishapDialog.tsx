import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Choice } from "../shared/Choice";
import { DialogForm } from "../shared/DialogForm";
import { newId } from "../shared/id";
import { NoteField } from "../shared/NoteField";
import { Sheetlet } from "../shared/Sheetlet";
import { ImpactNote } from "../work/ImpactNote";
import { BEFELL_WORD } from "./words";

type Befell = Schemas["Befell"];

const ALL = (Object.keys(BEFELL_WORD) as Befell[]).map((value) => ({ value, text: BEFELL_WORD[value] }));
const WHOLE = "";

/** Says what befell the engine, after saying what has to be measured again because of it. */
export function MishapDialog({ build, onClose }: { build: Build; onClose: () => void }) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [befell, setBefell] = useState<Befell>("hydrolock");
  const [at, setAt] = useState(WHOLE);
  const [note, setNote] = useState("");
  const cylinders = build.looks.find((l) => l.part === "bore")?.places ?? [];
  const params = { path: { build: build.code } };
  const body: Schemas["NewMishap"] = { id, befell, at: at === WHOLE ? null : at, note };
  const impact = useQuery({
    queryKey: ["impact", build.code, build.assessment.seq, befell, at],
    queryFn: () =>
      unwrap(api.POST("/api/v1/builds/{build}/mishaps/impact", { params, body: { ...body, note: "asked" } })),
  });
  const record = useMutation({
    mutationFn: () => unwrap(api.POST("/api/v1/builds/{build}/mishaps", { params, body })),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  return (
    <Sheetlet open title="Something happened to it" onClose={onClose} width={560}>
      <DialogForm
        problem={record.error}
        disabled={record.isPending}
        onSubmit={() => record.mutate()}
        onClose={onClose}
      >
        <div className="flex gap-4">
          <div className="flex-1">
            <Choice
              label="What happened"
              showLabel
              value={befell}
              options={ALL}
              onChange={setBefell}
              className="h-10 w-full"
            />
          </div>
          {cylinders.length > 0 && (
            <div className="w-44">
              <Choice
                label="Where"
                showLabel
                value={at}
                options={[
                  { value: WHOLE, text: "The engine" },
                  ...cylinders.map((c) => ({ value: c, text: c })),
                ]}
                onChange={setAt}
                className="h-10 w-full"
              />
            </div>
          )}
        </div>
        <NoteField value={note} problem={record.error} onChange={setNote} />
        <ImpactNote impact={impact.data} problem={impact.error} />
      </DialogForm>
    </Sheetlet>
  );
}
