import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { api, type Build, carryToken, Problem, type Recorded, unwrap } from "./client";

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  queryFn: async () => {
    try {
      const session = await unwrap(api.GET("/api/v1/session"));
      carryToken(session.token);
      return session;
    } catch (error) {
      if (error instanceof Problem && error.code === "not_signed_in") return null;
      throw error;
    }
  },
  staleTime: Number.POSITIVE_INFINITY,
});

export const floorQuery = queryOptions({
  queryKey: ["floor"],
  queryFn: () => unwrap(api.GET("/api/v1/builds")),
});

export const shopQuery = queryOptions({
  queryKey: ["shop"],
  queryFn: () => unwrap(api.GET("/api/v1/shop")),
});

export const gaugesQuery = queryOptions({
  queryKey: ["gauges"],
  queryFn: () => unwrap(api.GET("/api/v1/gauges")),
});

export const shellsQuery = queryOptions({
  queryKey: ["families"],
  queryFn: () => unwrap(api.GET("/api/v1/shells")),
});

export function buildQuery(code: string) {
  return queryOptions({
    queryKey: ["build", code],
    queryFn: () => unwrap(api.GET("/api/v1/builds/{build}", { params: { path: { build: code } } })),
  });
}

/** Shows what a write returned, unless something later is shown already. */
export function showRecorded(client: QueryClient, recorded: Recorded): void {
  client.setQueryData<Build>(["build", recorded.build.code], (shown) =>
    shown && shown.assessment.seq > recorded.build.assessment.seq ? shown : recorded.build,
  );
}
