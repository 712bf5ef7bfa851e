import { useQuery } from "@tanstack/react-query";
import type { Build, Schemas } from "../api/client";
import { shellsQuery } from "../api/queries";

/** The shop's families for a row of a build, and the usual one: the first that goes round its journals. */
export function useFamilies(build: Build, row: Schemas["BearingRow"]) {
  const shells = useQuery(shellsQuery);
  const nominal = row === "mains" ? build.layout.main_journal : build.layout.rods?.pin;
  const ofRow = shells.data?.filter((f) => f.family.row === row) ?? [];
  return { known: shells.data !== undefined, ofRow, usual: ofRow.find((f) => f.family.journal === nominal) };
}
