import { useQuery } from "@tanstack/react-query";
import { frontQuery } from "../api/queries";
import { Logo } from "../shared/TopBar";
import { Credentials } from "./Credentials";
import { useSignIn } from "./useSignIn";

export function SignIn() {
  const signing = useSignIn("");
  const front = useQuery(frontQuery).data;
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
            {front && <p className="mt-6 font-semibold text-white">{front.shop}</p>}
          </div>
          <div className="grid gap-4 bg-paper p-6 text-ink">
            {front && !front.people ? <NobodyYet /> : <Credentials signing={signing} />}
          </div>
        </form>
      </div>
      {front?.demo && (
        <p className="pt-4 text-center text-small text-ink-2">The start command prints the demo accounts.</p>
      )}
    </main>
  );
}

/** A shop that was not opened yet: nobody can sign in, and this says how somebody will. */
function NobodyYet() {
  return (
    <div data-front="nobody">
      <h2 className="text-lead font-bold">Nobody can sign in yet</h2>
      <p className="mt-2 text-small text-ink-2">
        Whoever runs this server opens the shop with its first lead, who then lets the others in:
      </p>
      <code className="num mt-3 block bg-steel-2 px-3 py-2 text-small">jagged-pin shop open</code>
    </div>
  );
}
