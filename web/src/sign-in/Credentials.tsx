import { Field } from "../shared/Field";
import { ProblemNote } from "../shared/ProblemNote";
import type { SigningIn } from "./useSignIn";

/** Name, password and the button. */
export function Credentials({ signing }: { signing: SigningIn }) {
  const { login, password } = signing;
  return (
    <>
      <Field
        label="Name"
        name="login"
        value={login}
        autoComplete="username"
        autoFocus={login === ""}
        required
        onChange={(e) => signing.setLogin(e.target.value)}
      />
      <Field
        label="Password"
        name="password"
        type="password"
        value={password}
        autoComplete="current-password"
        autoFocus={login !== ""}
        required
        onChange={(e) => signing.setPassword(e.target.value)}
      />
      <ProblemNote problem={signing.problem} />
      <button type="submit" className="btn btn-main" disabled={signing.busy}>
        Sign in
      </button>
    </>
  );
}
