import { Sheetlet } from "../shared/Sheetlet";
import { Credentials } from "./Credentials";
import { useSignIn } from "./useSignIn";

/** The session ended in the middle of work: sign in again over it, and nothing on the bench is lost. */
export function SignInAgain({ login, onDone }: { login: string; onDone: () => void }) {
  const signing = useSignIn(login, onDone);
  return (
    <Sheetlet open title="Your session has ended" onClose={() => undefined} width={400}>
      <form onSubmit={signing.submit} className="mt-3 grid gap-4">
        <p className="text-small text-ink-2">Sign in again. What was not kept is still in its cell.</p>
        <Credentials signing={signing} />
      </form>
    </Sheetlet>
  );
}
