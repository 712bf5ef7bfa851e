import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { bearingsOf, otherFigures } from "../api/catalog";
import { api, type Build, type Schemas, type Session, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";

const counted = (n: number, what: string) => `${n} ${what}${n === 1 ? "" : "s"}`;

type SignDialogProps = { build: Build; role: Schemas["SignerRole"]; session: Session; onClose: () => void };

/** One of the two signatures. Whoever signs gives their own name and password, at anybody's bench. */
export function SignDialog({ build, role, session, onClose }: SignDialogProps) {
  const client = useQueryClient();
  const [login, setLogin] = useState(
    role === "assembler" && session.capabilities.sign_assembler ? session.login : "",
  );
  const name = useRef<HTMLDivElement>(null);
  const [password, setPassword] = useState("");
  const [id] = useState(newId);
  const [seq] = useState(build.assessment.seq);
  const sign = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/signatures", {
          params: { path: { build: build.code } },
          body: { id, role, login, password, seq },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
    onError: () => setPassword(""),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (login.trim() === "") name.current?.querySelector("input")?.focus();
    else sign.mutate();
  };
  const { revision, signatures } = build.assessment.sign_off;
  const mains = bearingsOf(build, "mains").length;
  const rods = bearingsOf(build, "rods").length;
  const others = otherFigures(build).filter((f) => f.asked).length;
  const of = [
    counted(mains, "main"),
    ...(rods > 0 ? [counted(rods, "rod")] : []),
    ...(others > 0 ? [counted(others, "other figure")] : []),
  ];
  return (
    <Sheetlet open title={`Sign ${build.code} as ${role}`} onClose={onClose}>
      <form onSubmit={submit} className="mt-3 grid gap-4">
        <p className="text-small text-ink-2">
          Revision {revision}: {of.join(", ")},{" "}
          {counted(build.readings.filter((r) => !r.struck).length, "reading")}.
          {signatures.length === 1 &&
            ` ${signatures[0]?.by.name} has signed; the second signature closes the seal.`}{" "}
          Whatever is recorded afterwards breaks it.
        </p>
        <div className="grid grid-cols-2 gap-4">
          {/* The hand begins at the password, whoever signs: what is typed there is never read over a shoulder. */}
          <Field
            label="Your password"
            name="password"
            type="password"
            value={password}
            autoFocus
            autoComplete="off"
            onChange={(e) => setPassword(e.target.value)}
          />
          <div ref={name}>
            <Field
              label="Your name"
              name="login"
              value={login}
              placeholder="as you sign in"
              autoComplete="off"
              onChange={(e) => setLogin(e.target.value)}
            />
          </div>
        </div>
        <ProblemNote problem={sign.error} />
        <div className="flex justify-end gap-3">
          <button type="button" className="btn" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className="btn btn-main" disabled={sign.isPending}>
            Sign
          </button>
        </div>
      </form>
    </Sheetlet>
  );
}
