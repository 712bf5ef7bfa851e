import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, carryToken, unwrap } from "../api/client";

/** Name and password on their way to a session. */
export function useSignIn(known: string, onDone?: () => void) {
  const client = useQueryClient();
  const [login, setLogin] = useState(known);
  const [password, setPassword] = useState("");
  const signIn = useMutation({
    mutationFn: () => unwrap(api.POST("/api/v1/session", { body: { login, password } })),
    onSuccess: (session) => {
      carryToken(session.token);
      client.setQueryData(["session"], session);
      onDone?.();
    },
    onError: () => setPassword(""),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate();
  };
  return { login, setLogin, password, setPassword, submit, busy: signIn.isPending, problem: signIn.error };
}

export type SigningIn = ReturnType<typeof useSignIn>;
