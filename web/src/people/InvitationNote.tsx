import { useState } from "react";
import type { Schemas } from "../api/client";
import { Sheetlet } from "../shared/Sheetlet";
import { momentText } from "../shared/words";

type InvitationNoteProps = {
  name: string;
  invitation: Schemas["InvitationView"];
  onClose: () => void;
};

/** The one time an invitation is shown. */
export function InvitationNote({ name, invitation, onClose }: InvitationNoteProps) {
  const [copied, setCopied] = useState(false);
  const address = `${window.location.origin}/invitation#${invitation.secret}`;
  const copy = async () => {
    await navigator.clipboard.writeText(address);
    setCopied(true);
  };
  return (
    <Sheetlet open title={`An invitation for ${name}`} onClose={onClose} width={640}>
      <div className="mt-3 grid gap-4">
        <p>
          Give this address to {name}, and to nobody else: whoever opens it chooses the password. It is good
          once, until {momentText(invitation.until)}, and is not shown again.
        </p>
        <output
          data-invitation={address}
          className="block border border-ink bg-white p-3 text-small break-all select-all"
        >
          {address}
        </output>
        <div className="flex justify-end gap-3">
          {/* Browsers lend the clipboard to secure addresses only; elsewhere a click selects it all. */}
          {window.isSecureContext && (
            <button type="button" className="btn" onClick={() => void copy()}>
              {copied ? "Copied" : "Copy"}
            </button>
          )}
          <button type="button" className="btn btn-main" onClick={onClose}>
            Done
          </button>
        </div>
      </div>
    </Sheetlet>
  );
}
