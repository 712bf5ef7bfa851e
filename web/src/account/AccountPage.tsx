import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Schemas, type Session, unwrap } from "../api/client";
import { sessionsQuery } from "../api/queries";
import { Field } from "../shared/Field";
import { ProblemNote } from "../shared/ProblemNote";
import { momentText } from "../shared/words";
import { NewPassword, useNewPassword } from "./NewPassword";

type OwnSession = Schemas["OwnSession"];

/** What a browser is called, as far as it says. */
function browserWord(session: OwnSession): string {
  const said = session.browser ?? "";
  const system = ["Android", "iPad", "iPhone", "Windows", "Mac OS", "Linux"].find((s) => said.includes(s));
  return system ? `A browser on ${system}` : "A browser";
}

/** One's own account: the password, and where one is signed in. */
export function AccountPage({ session }: { session: Session }) {
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,560fr)_minmax(0,720fr)] relative overflow-auto">
      <section aria-label="Password" className="px-6 pt-3 pb-6">
        <h1 className="flex h-12 items-center text-title font-bold">{session.person.name}</h1>
        <div className="grad" />
        <p className="mt-3 text-ink-2">
          {session.role}, signs in as <b className="num text-ink">{session.login}</b>
        </p>
        <ChangePassword />
      </section>
      <section aria-label="Sessions" className="relative border-l-[1.5px] border-ink bg-paper px-7 pt-4 pb-6">
        <div className="grad-down absolute inset-y-0 left-0" />
        <Sessions />
      </section>
    </main>
  );
}

function ChangePassword() {
  const client = useQueryClient();
  const [old, setOld] = useState("");
  const typed = useNewPassword();
  const change = useMutation({
    mutationFn: async () => unwrap(api.PUT("/api/v1/password", { body: { old, password: typed.twice() } })),
    onSuccess: () => {
      setOld("");
      typed.clear();
      void client.invalidateQueries(sessionsQuery);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-5 grid max-w-[420px] gap-4">
      <h2 className="text-lead font-bold">Change the password</h2>
      <Field
        label="The password so far"
        name="old"
        type="password"
        autoComplete="current-password"
        required
        value={old}
        onChange={(e) => setOld(e.target.value)}
      />
      <NewPassword typed={typed} label="The new one" problem={change.error} />
      <ProblemNote problem={change.error} />
      {change.isSuccess && (
        <p role="status" className="border-l-4 border-dye bg-dye-wash px-3 py-2 text-small font-semibold">
          It is changed. Every other session of yours has ended.
        </p>
      )}
      <button type="submit" className="btn btn-main justify-self-start" disabled={change.isPending}>
        Change it
      </button>
    </form>
  );
}

function Sessions() {
  const client = useQueryClient();
  const sessions = useQuery(sessionsQuery);
  const end = useMutation({
    mutationFn: (handle: string) =>
      unwrap(api.DELETE("/api/v1/sessions/{handle}", { params: { path: { handle } } })),
    onSettled: () => void client.invalidateQueries(sessionsQuery),
  });
  return (
    <>
      <h2 className="text-lead font-bold">Where you are signed in</h2>
      <p className="mb-2 text-small text-ink-2">
        A session ends 14 hours after its last use. End one that you do not know, and change the password.
      </p>
      <ProblemNote problem={sessions.error ?? end.error} />
      <ul>
        {sessions.data?.map((s) => (
          <li
            key={s.handle}
            data-session={s.this ? "this" : s.handle}
            className="flex min-h-14 items-center gap-4 border-t border-hair py-2"
          >
            <span className="min-w-0 flex-1">
              <b>{browserWord(s)}</b>
              {s.this && <span className="ml-2 bg-dye px-2 text-note font-bold text-white">this one</span>}
              <span className="block truncate text-small text-ink-2">
                since {momentText(s.begun)}, last used {momentText(s.seen)}, from {s.address ?? "here"}
              </span>
            </span>
            {!s.this && (
              <button type="button" className="btn" onClick={() => end.mutate(s.handle)}>
                End it
              </button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
