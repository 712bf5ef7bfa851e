import { useQuery } from "@tanstack/react-query";
import { api, type Build, unwrap } from "../api/client";

/** What is weighed, poured and read off the parts of a build, and where its pistons are measured. */
export function useNotes(build: Build) {
  return useQuery({
    queryKey: ["noted", build.code, build.assessment.seq],
    queryFn: () =>
      unwrap(api.GET("/api/v1/builds/{build}/noted", { params: { path: { build: build.code } } })),
    placeholderData: (before) => before,
    retry: false,
  });
}
