import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Build } from "./client";
import { catchUp, refreshOnFloor } from "./queries";

/** How long moves are gathered before the floor is looked at, in milliseconds. */
const SETTLES = 120;
/** More moves than these are a look at the floor as a whole. */
const FEW = 3;

type Moved = { build: string; seq: number };

/**
 * Follows what others record: of whatever is shown and has moved on, what changed is fetched. Returns
 * whether the server is there.
 */
export function useLiveEvents(): boolean {
  const client = useQueryClient();
  const [connected, setConnected] = useState(true);
  useEffect(() => {
    // Many moves in a row are one look at the floor, and one build's move is a look at its row alone.
    const told = new Set<string>();
    let later: ReturnType<typeof setTimeout> | undefined;
    const refresh = () => {
      const moved = [...told];
      told.clear();
      later = undefined;
      if (moved.length > FEW) void client.invalidateQueries({ queryKey: ["floor"] });
      else for (const build of moved) void refreshOnFloor(client, build).catch(() => undefined);
    };
    const onMoved = (event: MessageEvent<string>) => {
      const moved = JSON.parse(event.data) as Moved;
      for (const query of client.getQueryCache().findAll({ queryKey: ["build"] })) {
        const shown = query.state.data as Build | undefined;
        if (shown?.id === moved.build && shown.assessment.seq < moved.seq) void catchUp(client, shown);
      }
      void client.invalidateQueries({ queryKey: ["as-if"] });
      told.add(moved.build);
      later ??= setTimeout(refresh, SETTLES);
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
    const leave = () => {
      events?.close();
      clearTimeout(later);
      later = undefined;
    };
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
