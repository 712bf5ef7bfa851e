import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, carryToken, unwrap } from "../api/client";
import { Field } from "../shared/Field";
import { ProblemNote } from "../shared/ProblemNote";
import { Logo } from "../shared/TopBar";

export function SignIn() {
  const client = useQueryClient();
  const [login, setLogin] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useMutation({
    mutationFn: () => unwrap(api.POST("/api/v1/session", { body: { login, password } })),
    onSuccess: (session) => {
      carryToken(session.token);
      client.setQueryData(["session"], session);
    },
    onError: () => setPassword(""),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate();
  };
  return (
    <main className="grid h-full min-h-[600px] grid-rows-[1fr_auto_1fr]">
      <div />
      <div className="on-dye scribed bg-dye py-10 text-scribe">
        <form onSubmit={submit} className="mx-auto grid w-[760px] grid-cols-[1fr_320px] items-center gap-16">
          <div>
            <Logo size={150} />
            <h1 className="mt-6 text-[34px]/none font-[750] text-white [font-stretch:108%]">Jagged Pin</h1>
            <p className="mt-3 text-scribe-2">Measure it, judge it, sign it.</p>
          </div>
          <div className="grid gap-4 bg-paper p-6 text-ink">
            <Field
              label="Name"
              name="login"
              value={login}
              autoComplete="username"
              autoFocus
              required
              onChange={(e) => setLogin(e.target.value)}
            />
            <Field
              label="Password"
              name="password"
              type="password"
              value={password}
              autoComplete="current-password"
              required
              onChange={(e) => setPassword(e.target.value)}
            />
            <ProblemNote problem={signIn.error} />
            <button type="submit" className="btn btn-main" disabled={signIn.isPending}>
              Sign in
            </button>
          </div>
        </form>
      </div>
      <p className="pt-4 text-center text-small text-ink-2">The start command prints the demo accounts.</p>
    </main>
  );
}
