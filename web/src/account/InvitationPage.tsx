import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { FormEvent } from "react";
import { useLocation, useNavigate } from "react-router";
import { api, carryToken, unwrap } from "../api/client";
import { Notice } from "../shared/Notice";
import { ProblemNote } from "../shared/ProblemNote";
import { Logo } from "../shared/TopBar";
import { NewPassword, useNewPassword } from "./NewPassword";

/** Taking up an invitation: the secret stands behind the mark in the address and so reaches no log. */
export function InvitationPage() {
  const secret = useLocation().hash.slice(1);
  const client = useQueryClient();
  const navigate = useNavigate();
  const typed = useNewPassword();
  const invited = useQuery({
    queryKey: ["invitation", secret],
    queryFn: () => unwrap(api.POST("/api/v1/invitation", { body: { secret } })),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const take = useMutation({
    mutationFn: async () =>
      unwrap(api.PUT("/api/v1/invitation", { body: { secret, password: typed.twice() } })),
    onSuccess: (session) => {
      carryToken(session.token);
      client.setQueryData(["session"], session);
      void navigate("/", { replace: true });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    take.mutate();
  };
  if (invited.isPending) return null;
  if (invited.isError) return <Notice title="This invitation is over" text={invited.error.message} />;
  const { shop, name, login } = invited.data;
  return (
    <main className="grid h-full min-h-[600px] grid-rows-[1fr_auto_1fr]">
      <div />
      <div className="on-dye scribed bg-dye py-10 text-scribe">
        <form
          onSubmit={submit}
          className="mx-auto grid w-[760px] grid-cols-[1fr_320px] items-center gap-16"
          data-invited={login}
        >
          <div>
            <Logo size={110} />
            <h1 className="mt-6 text-[28px]/tight font-[750] text-white">{name}</h1>
            <p className="mt-3 text-scribe-2">
              {shop} invites you to Jagged Pin. You sign in as <b className="num text-white">{login}</b>, with
              a password that only you know.
            </p>
          </div>
          <div className="grid gap-4 bg-paper p-6 text-ink">
            <input type="text" name="login" value={login} autoComplete="username" readOnly hidden />
            <NewPassword typed={typed} label="A password of your own" autoFocus problem={take.error} />
            <ProblemNote problem={take.error} />
            <button type="submit" className="btn btn-main" disabled={take.isPending}>
              Come in
            </button>
          </div>
        </form>
      </div>
    </main>
  );
}
