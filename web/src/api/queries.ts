import {
  type InfiniteData,
  infiniteQueryOptions,
  type QueryClient,
  queryOptions,
} from "@tanstack/react-query";
import { keepCatalog } from "./catalog";
import { follows, merged } from "./changes";
import {
  api,
  type Build,
  carryToken,
  Problem,
  type Recorded,
  type Schemas,
  type Unit,
  unwrap,
} from "./client";

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
  // A server that is away comes back: nobody has to reload the page.
  refetchInterval: (query) => (query.state.status === "error" ? 2_000 : false),
});

/** What can be measured and judged; it does not change while a server runs. */
export const catalogQuery = queryOptions({
  queryKey: ["catalog"],
  queryFn: async () => {
    const catalog = await unwrap(api.GET("/api/v1/catalog"));
    keepCatalog(catalog);
    return catalog;
  },
  staleTime: Number.POSITIVE_INFINITY,
  refetchInterval: (query) => (query.state.status === "error" ? 2_000 : false),
});

/** Which builds of the floor are looked for. */
export type FloorAsk = { q: string; archived: boolean };

/** The floor, a page after the other. */
export function floorQuery({ q, archived }: FloorAsk) {
  return infiniteQueryOptions({
    queryKey: ["floor", q, archived],
    queryFn: ({ pageParam }) => {
      const after = pageParam === "" ? {} : { after: pageParam };
      const query = { ...(q === "" ? {} : { q }), ...(archived ? { archived } : {}), ...after };
      return unwrap(api.GET("/api/v1/builds", { params: { query } }));
    },
    initialPageParam: "",
    getNextPageParam: (page) => (page.more ? (page.last ?? undefined) : undefined),
  });
}

export const shopQuery = queryOptions({
  queryKey: ["shop"],
  queryFn: () => unwrap(api.GET("/api/v1/shop")),
});

export const rolesQuery = queryOptions({
  queryKey: ["roles"],
  queryFn: () => unwrap(api.GET("/api/v1/roles")),
});

/** The windows the shop starts its targets from, worked out for shafts as they are typed. */
export function presetsQuery(shafts: { unit: Unit; main_journal?: string; pin?: string; bore?: string }) {
  return queryOptions({
    queryKey: ["presets", shafts.unit, shafts.main_journal ?? "", shafts.pin ?? "", shafts.bore ?? ""],
    queryFn: () => unwrap(api.GET("/api/v1/presets", { params: { query: shafts } })),
  });
}

/** Everybody of the shop. */
export const peopleQuery = queryOptions({
  queryKey: ["people"],
  queryFn: () => unwrap(api.GET("/api/v1/people")),
});

/** The last lines of the shop's own log. */
export const shopLogQuery = queryOptions({
  queryKey: ["shop-log"],
  queryFn: () => unwrap(api.GET("/api/v1/shop-log")),
});

/** Where one is signed in. */
export const sessionsQuery = queryOptions({
  queryKey: ["sessions"],
  queryFn: () => unwrap(api.GET("/api/v1/sessions")),
});

/** What stands before anybody has signed in. */
export const frontQuery = queryOptions({
  queryKey: ["front"],
  queryFn: () => unwrap(api.GET("/api/v1/front")),
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

/** The build as if a candidate stood in it. */
export function asIfQuery(code: string, part: string) {
  return queryOptions({
    queryKey: ["as-if", code, part],
    queryFn: () =>
      unwrap(api.GET("/api/v1/builds/{build}/as-if/{part}", { params: { path: { build: code, part } } })),
  });
}

/** Works changes into the build as it is shown, and fetches what is missing between. Returns the build as shown then. */
export function showChanges(client: QueryClient, changes: Schemas["ChangesView"]): Build | undefined {
  const key = buildQuery(changes.code).queryKey;
  const shown = client.getQueryData<Build>(key);
  if (shown && shown.assessment.seq >= changes.seq) return shown;
  if (shown ? follows(shown, changes) : changes.whole) {
    const next = shown ? merged(shown, changes) : (changes.whole ?? undefined);
    client.setQueryData(key, next);
    return next;
  }
  if (shown) void catchUp(client, shown);
  return shown;
}

/** Shows what a write changed, unless something later is shown already. */
export function showRecorded(client: QueryClient, recorded: Recorded): Build | undefined {
  return showChanges(client, recorded.changes);
}

/** Fetches what changed since what is shown; the whole build where that cannot be had. */
export async function catchUp(client: QueryClient, shown: Build): Promise<void> {
  const { queryKey } = buildQuery(shown.code);
  try {
    const params = { path: { build: shown.code }, query: { since: shown.assessment.seq } };
    showChanges(client, await unwrap(api.GET("/api/v1/builds/{build}/changes", { params })));
  } catch {
    await client.invalidateQueries({ queryKey });
  }
}

type FloorPages = InfiniteData<Schemas["FloorPage"]>;

/** Puts what one build shows on the floor now in the place of what it showed, wherever the floor is shown. */
export async function refreshOnFloor(client: QueryClient, build: string): Promise<void> {
  const shown = client.getQueriesData<FloorPages>({ queryKey: ["floor"] });
  const known = shown.some(([, data]) => data?.pages.some((p) => p.rows.some((r) => r.id === build)));
  if (!known) return client.invalidateQueries({ queryKey: ["floor"] });
  const page = await unwrap(api.GET("/api/v1/builds", { params: { query: { only: build } } }));
  const now = page.rows[0];
  if (!now) return;
  const pages = (data: FloorPages | undefined) =>
    data && {
      ...data,
      pages: data.pages.map((p) => ({ ...p, rows: p.rows.map((r) => (r.id === build ? now : r)) })),
    };
  client.setQueriesData<FloorPages>({ queryKey: ["floor"] }, pages);
}
