import { Logo } from "../shared/TopBar";
import { Credentials } from "./Credentials";
import { useSignIn } from "./useSignIn";

export function SignIn() {
  const signing = useSignIn("");
  return (
    <main className="grid h-full min-h-[600px] grid-rows-[1fr_auto_1fr]">
      <div />
      <div className="on-dye scribed bg-dye py-10 text-scribe">
        <form
          onSubmit={signing.submit}
          className="mx-auto grid w-[760px] grid-cols-[1fr_320px] items-center gap-16"
        >
          <div>
            <Logo size={150} />
            <h1 className="mt-6 text-[34px]/none font-[750] text-white [font-stretch:108%]">Jagged Pin</h1>
            <p className="mt-3 text-scribe-2">Measure it, judge it, sign it.</p>
          </div>
          <div className="grid gap-4 bg-paper p-6 text-ink">
            <Credentials signing={signing} />
          </div>
        </form>
      </div>
      <p className="pt-4 text-center text-small text-ink-2">The start command prints the demo accounts.</p>
    </main>
  );
}
