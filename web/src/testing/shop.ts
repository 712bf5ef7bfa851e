import type { Member, Schemas, Session } from "../api/client";

const everything: Schemas["Capabilities"] = {
  measure: true,
  strike_others: true,
  correct_shelf: true,
  open_builds: true,
  set_targets: true,
  concede: true,
  concede_tight: true,
  sign_assembler: true,
  sign_checker: true,
  run_shop: true,
};

/** A lead who is signed in. */
export const lead: Session = {
  capabilities: everything,
  login: "harrow",
  person: { id: "00000000-0000-4000-8000-000000000001", name: "M. Harrow" },
  role: "lead",
  shop: "Saltmarsh Engines",
  token: "t",
};

/** Somebody who measures and runs nothing. */
export const apprentice: Session = {
  ...lead,
  capabilities: { ...everything, open_builds: false, run_shop: false },
  login: "fenn",
  person: { id: "00000000-0000-4000-8000-000000000005", name: "P. Fenn" },
  role: "apprentice",
};

/** Somebody of the shop. */
export function member(login: string, more: Partial<Member> = {}): Member {
  return {
    person: {
      id: `00000000-0000-4000-8000-${login.padEnd(12, "0").slice(0, 12)}`,
      name: login.toUpperCase(),
    },
    login,
    role: "assembler",
    disabled: false,
    has_password: true,
    sessions: 0,
    version: 1,
    ...more,
  };
}
