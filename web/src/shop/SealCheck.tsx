import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, type Schemas, unwrap } from "../api/client";
import { ProblemNote } from "../shared/ProblemNote";
import { faultText, ledgerText } from "../sheet/faults";

type DoubtView = Schemas["SealsView"]["doubts"][number];

function Doubt({ doubt }: { doubt: DoubtView }) {
  return (
    <li data-doubt={doubt.code} className="border-t border-hair py-2">
      <Link to={`/builds/${doubt.code}/sheet`} className="num font-bold underline underline-offset-2">
        {doubt.code}
      </Link>
      <ul className="text-small text-ink-2">
        {doubt.kind === "unreadable" ? (
          <li>Cannot be read: {doubt.why}</li>
        ) : (
          doubt.faults.map((fault) => <li key={`${fault.seq} ${fault.flaw}`}>{faultText(fault)}</li>)
        )}
      </ul>
    </li>
  );
}

/** Looks through every seal of the shop when somebody asks. */
export function SealCheck() {
  const client = useQueryClient();
  const look = useMutation({
    mutationFn: () => unwrap(api.POST("/api/v1/seals")),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ["floor"] });
      void client.invalidateQueries({ queryKey: ["build"] });
    },
  });
  const found = look.data;
  return (
    <section aria-label="Seals" className="mt-6">
      <h2 className="text-lead font-bold">Seals</h2>
      <p className="mb-2 text-small text-ink-2">
        Every seal is held against what it stands under when a build is loaded; at the start and each hour
        against its pictures and the ledger as well.
      </p>
      <button type="button" className="btn" disabled={look.isPending} onClick={() => look.mutate()}>
        {look.isPending ? "Looking" : "Look at every seal now"}
      </button>
      <div role="status" className="mt-3">
        {found && (
          <p
            data-seals={found.doubts.length + found.ledger.length === 0 ? "hold" : "doubt"}
            className="font-semibold"
          >
            {found.doubts.length === 0
              ? `All ${found.looked_at} builds are as they were signed.`
              : `${found.doubts.length} of ${found.looked_at} builds are not as they were signed.`}
            {found.key && <span className="ml-2 text-small text-ink-2">Key {found.key}</span>}
          </p>
        )}
      </div>
      {found && found.ledger.length > 0 && (
        <div className="mt-2">
          <h3 className="font-semibold">The ledger of seals is not as it was written.</h3>
          <ul className="text-small text-ink-2">
            {found.ledger.map((fault) => (
              <li key={JSON.stringify(fault)}>{ledgerText(fault)}</li>
            ))}
          </ul>
        </div>
      )}
      {found && found.taken_over > 0 && (
        <p className="mt-2 text-small text-ink-2">
          {found.taken_over} of the signatures are older than the ledger: what was forged before it began
          shows nowhere.
        </p>
      )}
      <ul className="mt-2">
        {found?.doubts.map((doubt) => (
          <Doubt key={doubt.id} doubt={doubt} />
        ))}
      </ul>
      <ProblemNote problem={look.error} />
    </section>
  );
}
