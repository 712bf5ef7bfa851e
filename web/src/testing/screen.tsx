import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { vi } from "vitest";

/** Renders a part of a screen as it stands in the application: with an address and a cache of answers. */
export function show(part: ReactNode) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={client}>
      <MemoryRouter>{part}</MemoryRouter>
    </QueryClientProvider>,
  );
}

/** Renders a whole page at its address: of the build `T-1`, unless another one is said. */
export function showPage(page: ReactNode, address = "/builds/T-1/page", path = "/builds/:code/page") {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[address]}>
        <Routes>
          <Route path={path} element={page} />
          <Route path="/" element={<p>The floor</p>} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

export type Asked = { method: string; path: string; body: unknown };

/** Stands in for the server: answers by method and path, and keeps what was asked. */
export function server(answers: Record<string, unknown>): Asked[] {
  const asked: Asked[] = [];
  vi.stubGlobal("fetch", async (input: Request) => {
    const path = new URL(input.url).pathname.replace("/api/v1", "");
    const text = await input.clone().text();
    asked.push({ method: input.method, path, body: text === "" ? undefined : JSON.parse(text) });
    const answer = answers[`${input.method} ${path}`];
    const refused = typeof answer === "object" && answer !== null && "status" in answer && "code" in answer;
    return new Response(
      JSON.stringify(answer ?? { status: 404, code: "no_such_address", detail: "nothing here" }),
      {
        status: answer === undefined ? 404 : refused ? Number(answer.status) : 200,
        headers: { "content-type": "application/json" },
      },
    );
  });
  return asked;
}
