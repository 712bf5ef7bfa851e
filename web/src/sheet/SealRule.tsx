import type { Build } from "../api/client";
import { ROLE_WORD } from "../shared/words";

/** The short form of a digest: its first twelve digits in fours. */
export function shortSeal(digest: string): string {
  return (digest.slice(0, 12).toUpperCase().match(/.{4}/g) ?? []).join(" ");
}

function Lock({ broken }: { broken?: boolean }) {
  return (
    <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden="true" className="flex-none">
      <path
        d={broken ? "M5.5 9V5.500a4.500 4.500 0 0 1 8.600-1.800" : "M5.500 9V6.500a4.500 4.500 0 0 1 9 0V9"}
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
      />
      <path d="M3.500 9h13v9h-13z" fill="currentColor" />
    </svg>
  );
}

/** The brass rule: what was signed and locked, by its seal. */
export function SealRule({ build }: { build: Build }) {
  const { status, signatures, broken, revision, proof } = build.assessment.sign_off;
  const roles = ["assembler", "checker"] as const;
  if (status === "does_not_match") {
    const seal = signatures.at(-1)?.digest ?? broken?.signatures.at(-1)?.digest ?? "";
    return (
      <footer
        data-seal="does_not_match"
        className="flex h-[46px] flex-none items-center gap-4 border-t-2 border-ink bg-ink px-6 text-white"
      >
        <Lock broken />
        <s className="num text-[20px] font-bold decoration-2">{shortSeal(seal)}</s>
        <b>does not match what it stands under</b>
        <span className="ml-auto text-small">
          {proof.faults.length === 1 ? "1 fault" : `${proof.faults.length} faults`}, named on the sheet
        </span>
      </footer>
    );
  }
  if (signatures.length === 0 && broken) {
    const seal = broken.signatures.at(-1)?.digest ?? "";
    return (
      <footer
        data-seal="broken"
        className="flex h-[46px] flex-none items-center gap-4 border-t border-ink bg-steel-3 px-6"
      >
        <Lock broken />
        <span>Seal of revision {broken.signatures[0]?.revision}</span>
        <s className="num text-[20px] font-bold decoration-2">{shortSeal(seal)}</s>
        <b>broken by a later change</b>
        <span className="ml-auto text-small">Revision {revision} is not sealed</span>
      </footer>
    );
  }
  return (
    <footer
      data-seal={status === "sealed" ? "sealed" : "open"}
      className="grid h-[46px] flex-none grid-cols-2 border-t border-brass"
    >
      {roles.map((role) => {
        const signed = signatures.find((s) => s.role === role);
        return (
          <div
            key={role}
            className={`flex items-center gap-4 overflow-hidden px-6 whitespace-nowrap ${signed ? "bg-brass-bright text-ink" : "bg-brass-wash text-brass-ink"}`}
          >
            {signed ? <Lock /> : <span className="size-4 border-2 border-current" />}
            <span className="text-small">
              {ROLE_WORD[role]}'s seal{signed && `, revision ${signed.revision}`}
              {signed && proof.before_key.length > 0 && ", made before the shop had a key"}
            </span>
            {signed ? (
              <b className="num text-[20px]" title={signed.digest} data-digest={signed.digest}>
                {shortSeal(signed.digest)}
              </b>
            ) : (
              <b>not struck</b>
            )}
          </div>
        );
      })}
    </footer>
  );
}
