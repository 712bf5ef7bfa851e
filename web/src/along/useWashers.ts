import { keepPreviousData, queryOptions, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";

export type WasherChoice = Schemas["WasherChoice"];
export type AskWashers = Required<Schemas["AskWashers"]>;

/** The shop's boxes of thrust washers. */
export const washersQuery = queryOptions({
  queryKey: ["washers"],
  queryFn: () => unwrap(api.GET("/api/v1/washers")),
});

/** What is asked of a box, and the washers that answer it; the last answer stays while the next is on its way. */
export function useWashers(build: Build) {
  const boxes = useQuery(washersQuery);
  const fits = (boxes.data ?? []).filter((b) => b.washers.unit === build.unit);
  const [ask, setAsk] = useState<AskWashers>({
    from: "",
    best: "closest",
    lap: false,
    stands: "",
    max_forward: "",
    max_rearward: "",
  });
  const from = ask.from || (fits[0]?.washers.id ?? "");
  const asked = { ...ask, from };
  const proposal = useQuery({
    queryKey: ["washers", build.code, build.assessment.seq, asked],
    queryFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/washers", { params: { path: { build: build.code } }, body: asked }),
      ),
    enabled: from !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
  return { boxes, fits, asked, set: (more: Partial<AskWashers>) => setAsk({ ...ask, ...more }), proposal };
}

/** Front and rear of a choice as one key. */
export function keyOfChoice(c: WasherChoice): string {
  return [c.front, c.rear].map((side) => `${side.class ?? ""}-${side.lap}`).join("/");
}
