import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Segments } from "../shared/Choice";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { Sheetlet } from "../shared/Sheetlet";
import { PART_KIND_WORD } from "../shared/words";

type Kind = Schemas["PartKind"];
const KINDS: Kind[] = ["crank", "rod", "block"];

/** Enters a part that did not come with the engine. */
export function EnterPart({ build, onClose }: { build: Build; onClose: () => void }) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [kind, setKind] = useState<Kind>("crank");
  const [form, setForm] = useState({ tag: "", provenance: "", marks: "" });
  const enter = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/parts", {
          params: { path: { build: build.code } },
          body: { id, kind, ...form },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  const field = (name: keyof typeof form, label: string, hint?: string) => (
    <Field
      label={label}
      name={name}
      hint={hint}
      value={form[name]}
      autoFocus={name === "tag"}
      problem={enter.error}
      onChange={(e) => setForm((all) => ({ ...all, [name]: e.target.value }))}
    />
  );
  return (
    <Sheetlet open title="Enter a part" onClose={onClose}>
      <DialogForm problem={enter.error} action="Enter it" onSubmit={() => enter.mutate()} onClose={onClose}>
        <Segments
          label="What it is"
          value={kind}
          onChange={setKind}
          options={KINDS.map((value) => ({ value, text: PART_KIND_WORD[value] }))}
        />
        {field("tag", "What it is called in this build", "Such as crank B, or spare 1")}
        {field("provenance", "Where it comes from")}
        {field("marks", "What is stamped, cast or painted on it", "May stay empty")}
      </DialogForm>
    </Sheetlet>
  );
}

/** Condemns a part, or takes it up again. */
export function CondemnPart({
  build,
  part,
  onClose,
}: {
  build: Build;
  part: Schemas["PartView"];
  onClose: () => void;
}) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [reason, setReason] = useState("");
  const lifted = part.condemned != null;
  const condemn = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/condemnations", {
          params: { path: { build: build.code } },
          body: { id, part: part.tag, lifted, reason },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  return (
    <Sheetlet open title={lifted ? `Take ${part.tag} up again` : `Condemn ${part.tag}`} onClose={onClose}>
      <DialogForm
        problem={condemn.error}
        action={lifted ? "Take it up again" : "Condemn it"}
        onSubmit={() => condemn.mutate()}
        onClose={onClose}
      >
        <p className="text-small leading-snug text-ink-2">
          {lifted
            ? `It was condemned: ${part.condemned?.reason}. What it has to prove is open again.`
            : "What it would still have to prove is moot; another part has to be put in before the sheet can be signed. Mark the part itself, so that nobody builds with it."}
        </p>
        <Field
          label="Why"
          name="reason"
          value={reason}
          autoFocus
          problem={condemn.error}
          onChange={(e) => setReason(e.target.value)}
        />
      </DialogForm>
    </Sheetlet>
  );
}
