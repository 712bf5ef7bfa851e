import type { Build, Schemas } from "../api/client";
import { momentText, ROLE_WORD } from "../shared/words";
import { shortSeal } from "./SealRule";

type SignaturesProps = { build: Build; onSign: (role: Schemas["SignerRole"]) => void };

/** The two places to sign. They open when nothing blocks. */
export function Signatures({ build, onSign }: SignaturesProps) {
  const { status, signatures, next } = build.assessment.sign_off;
  const roles: Schemas["SignerRole"][] = ["assembler", "checker"];
  return (
    <div className="mt-3 grid flex-none grid-cols-2 gap-4">
      {roles.map((role) => {
        const signed = signatures.find((s) => s.role === role);
        const due = next.kind === "sign" && next.role === role;
        return (
          <div key={role} data-signature={role}>
            <div className="pb-1.5 text-small text-ink-2">{ROLE_WORD[role]}</div>
            <div className="flex h-11 items-end border-b border-ink pb-1">
              {signed ? (
                <>
                  {status === "does_not_match" ? (
                    <s className="text-lead text-ink-2 italic decoration-2">{signed.by.name}</s>
                  ) : (
                    <b className="text-lead text-dye italic">{signed.by.name}</b>
                  )}
                  <span className="print-only num ml-3">{shortSeal(signed.digest)}</span>
                </>
              ) : (
                <button
                  type="button"
                  disabled={status !== "ready"}
                  onClick={() => onSign(role)}
                  className={`btn min-h-10 w-full px-2 text-small ${due ? "btn-main" : ""}`}
                >
                  Sign as {role}
                </button>
              )}
            </div>
            <div className="pt-1 text-note text-ink-2">
              {signed
                ? momentText(signed.at)
                : status === "ready"
                  ? "own name and password"
                  : "opens when nothing blocks"}
            </div>
          </div>
        );
      })}
    </div>
  );
}
