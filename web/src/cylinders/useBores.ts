import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Build, unwrap } from "../api/client";

/** The plan of the cylinders, for a honer that holds that much to either side, with these pistons on their rods. */
export function useBores(build: Build, tolerance: string, married = "") {
  return useQuery({
    queryKey: ["bores", build.code, build.assessment.seq, tolerance, married],
    queryFn: () =>
      unwrap(
        api.GET("/api/v1/builds/{build}/bores", {
          params: { path: { build: build.code }, query: { tolerance, married } },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
}
