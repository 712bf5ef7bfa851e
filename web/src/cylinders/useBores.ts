import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Build, unwrap } from "../api/client";

/** The plan of the cylinders, for a honer that holds that much to either side. */
export function useBores(build: Build, tolerance: string) {
  return useQuery({
    queryKey: ["bores", build.code, build.assessment.seq, tolerance],
    queryFn: () =>
      unwrap(
        api.GET("/api/v1/builds/{build}/bores", {
          params: { path: { build: build.code }, query: { tolerance } },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
}
