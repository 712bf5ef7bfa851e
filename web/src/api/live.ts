import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Build } from "./client";

type Moved = { build: string; seq: number };

/**
 * Follows what others record: whatever is shown and has moved on is fetched again. Returns whether the
 * server is there.
 */
export function useLiveEvents(): boolean {
  const client = useQueryClient();
  const [connected, setConnected] = useState(true);
  useEffect(() => {
    const onMoved = (event: MessageEvent<string>) => {
      const moved = JSON.parse(event.data) as Moved;
      const isBehind = (build: Build | undefined) =>
        build?.id === moved.build && build.assessment.seq < moved.seq;
      for (const query of client.getQueryCache().findAll({ queryKey: ["build"] })) {
        if (isBehind(query.state.data as Build | undefined)) {
          void client.invalidateQueries({ queryKey: query.queryKey });
        }
      }
      void client.invalidateQueries({ queryKey: ["floor"] });
    };
    let events: EventSource | undefined;
    const follow = () => {
      events?.close();
      events = undefined;
      if (document.visibilityState === "hidden") return;
      // Every build is told once at the start, so nothing that moved meanwhile is missed.
      events = new EventSource("/api/v1/events");
      events.addEventListener("build", onMoved);
      events.addEventListener("open", () => setConnected(true));
      events.addEventListener("error", () => setConnected(false));
    };
    const leave = () => events?.close();
    follow();
    // A browser keeps few connections to one server: pages that nobody looks at must not hold any.
    document.addEventListener("visibilitychange", follow);
    window.addEventListener("pageshow", follow);
    window.addEventListener("pagehide", leave);
    return () => {
      leave();
      document.removeEventListener("visibilitychange", follow);
      window.removeEventListener("pageshow", follow);
      window.removeEventListener("pagehide", leave);
    };
  }, [client]);
  return connected;
}
