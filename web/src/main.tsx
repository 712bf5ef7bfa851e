import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import { Problem } from "./api/client";
import "./index.css";
import { UnitsProvider } from "./shared/units";

const client = new QueryClient({
  defaultOptions: {
    queries: {
      // A refusal stays a refusal; only an unreachable server is worth another try.
      retry: (count, error) => error instanceof Problem && error.code === "unreachable" && count < 3,
      staleTime: 5_000,
    },
  },
});

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        {/* Whoever presses a key twice in a blink goes two stations on: what is drawn never lags behind the address. */}
        <BrowserRouter useTransitions={false}>
          <UnitsProvider>
            <App />
          </UnitsProvider>
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
}
