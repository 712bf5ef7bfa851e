import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Build = Schemas["BuildView"];
export type Assessment = Schemas["Assessment"];
export type FigureAssessment = Schemas["FigureAssessment"];
export type Measured = Schemas["Measured"];
export type PositionAssessment = Schemas["PositionAssessment"];
export type Reading = Schemas["ReadingView"];
export type Judged = Schemas["Judged"];
export type Target = Schemas["Target"];
export type Unit = Schemas["Unit"];
export type State = Schemas["State"];
export type Side = Schemas["Side"];
export type Method = Schemas["Method"];
export type Characteristic = Schemas["Characteristic"];
export type Read = Schemas["Read"];
export type Role = Schemas["Role"];
export type Group = Schemas["Group"];
export type Gauge = Schemas["GaugeStatus"];
export type GaugeUse = Schemas["GaugeUse"];
export type Stale = Schemas["Ending"];
export type Row = Schemas["BearingRow"];
export type FloorRow = Schemas["FloorRow"];
export type Session = Schemas["SessionView"];
/** Somebody of the shop, as whoever runs it sees them. */
export type Member = Schemas["MemberView"];
export type Recorded = Schemas["RecordedView"];
export type ProblemBody = Schemas["ProblemBody"];

/** A refused request, or a server that could not be reached. */
export class Problem extends Error {
  readonly code: string;
  readonly field: string | undefined;
  readonly body: ProblemBody | undefined;

  constructor(body: ProblemBody | undefined, fallback = "The server cannot be reached: nothing was kept.") {
    super(body?.detail ?? fallback);
    this.name = "Problem";
    this.code = body?.code ?? "unreachable";
    this.field = body?.field ?? undefined;
    this.body = body;
  }
}

/** Told to the window when the server no longer knows the session. */
export const SESSION_ENDED = "session-ended";

let token = "";

/** Every write carries the token of the session it belongs to. */
export function carryToken(next: string): void {
  token = next;
}

const writesCarryTheToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("x-csrf-token", token);
    return request;
  },
};

export const api = createClient<paths>({
  baseUrl: window.location.origin,
  // Looked up at each call: tests stand in for the server.
  fetch: (request) => globalThis.fetch(request),
});
api.use(writesCarryTheToken);

function isProblem(error: unknown): error is ProblemBody {
  return typeof error === "object" && error !== null && "code" in error && "detail" in error;
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer; a refusal or an unreachable server is thrown as a {@link Problem}. */
export async function unwrap<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await request;
  } catch {
    throw new Problem(undefined);
  }
  if (answer.error !== undefined) {
    const problem = isProblem(answer.error) ? answer.error : undefined;
    // A wrong password under a signature is refused by 401 too, and ends nobody's session.
    if (problem?.code === "not_signed_in") window.dispatchEvent(new Event(SESSION_ENDED));
    throw new Problem(problem, `The server answered ${answer.response.status}.`);
  }
  return answer.data as T;
}
