import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Build, type Schemas, unwrap } from "../api/client";

export type Best = Schemas["Best"];

/** What is asked of the shells, besides which is best. */
export type WhatIf = {
  mix: boolean;
  buy: boolean;
  kept: string[];
  without: string[];
  coating: string;
  /** By how many gauge steps every window is moved. */
  moved: number;
};

export const NOTHING_ASKED: WhatIf = { mix: true, buy: true, kept: [], without: [], coating: "", moved: 0 };

/** The question as the server takes it. */
export function askOf(
  family: string | undefined,
  undersize: number,
  best: Best,
  ask: WhatIf,
): Schemas["AskShells"] {
  return { family: family ?? "", undersize, best, ...ask };
}

/** The best shells for a question; the last answer stays while the next is on its way. */
export function useProposal(build: Build, ask: Schemas["AskShells"]) {
  return useQuery({
    queryKey: ["shells", build.code, build.assessment.seq, ask],
    queryFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/shells", { params: { path: { build: build.code } }, body: ask }),
      ),
    enabled: ask.family !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
}
