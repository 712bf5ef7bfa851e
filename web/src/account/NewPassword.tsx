import { useState } from "react";
import { Problem } from "../api/client";
import { Field } from "../shared/Field";

/** A new password, typed twice. */
export function useNewPassword() {
  const [password, setPassword] = useState("");
  const [again, setAgain] = useState("");
  return {
    password,
    setPassword,
    again,
    setAgain,
    /** The password, where both are the same; throws a {@link Problem} where they are not. */
    twice: () => {
      if (password === again) return password;
      throw new Problem(undefined, "The two new passwords are different: nothing was changed.");
    },
    clear: () => {
      setPassword("");
      setAgain("");
    },
  };
}

type NewPasswordProps = {
  typed: ReturnType<typeof useNewPassword>;
  label: string;
  autoFocus?: boolean;
  problem: unknown;
};

/** Its two fields. */
export function NewPassword({ typed, label, autoFocus = false, problem }: NewPasswordProps) {
  return (
    <>
      <Field
        label={label}
        name="password"
        type="password"
        autoComplete="new-password"
        autoFocus={autoFocus}
        required
        hint="10 characters or more: some words that belong to nobody else."
        problem={problem}
        value={typed.password}
        onChange={(e) => typed.setPassword(e.target.value)}
      />
      <Field
        label="The same again"
        name="again"
        type="password"
        autoComplete="new-password"
        required
        value={typed.again}
        onChange={(e) => typed.setAgain(e.target.value)}
      />
    </>
  );
}
