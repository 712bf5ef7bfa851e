import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { type Cell, onDial } from "./cells";
import { gaugeUse, type Means } from "./useBench";

export type Echo = Schemas["EntryEcho"];

/** How long nothing more is typed before the server is asked, in milliseconds. */
const SETTLES = 90;

/** A value once it has stayed the same for a while. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}

type EchoOptions = {
  code: string;
  cell: Cell | undefined;
  text: string;
  means: Means;
  seq: number;
  /** The candidate that is measured. */
  part?: string | undefined;
};

/** What the server understands of the text in a cell, while it is typed. */
export function useEcho({ code, cell, text, means, seq, part }: EchoOptions) {
  const now = text.trim();
  const typed = useSettled(now, SETTLES);
  const { unit } = means;
  const gauge = cell ? means.gauges[gaugeUse(cell)] : "";
  const reference = cell && onDial(cell) ? means.referenceFor(cell) : undefined;
  const query = useQuery({
    queryKey: ["echo", code, seq, part, cell, typed, gauge, reference, unit],
    queryFn: async () => {
      // Nothing is asked without a cell.
      if (!cell) return undefined;
      return unwrap(
        api.GET("/api/v1/builds/{build}/understand", {
          params: {
            path: { build: code },
            query: {
              station: cell.station,
              characteristic: cell.characteristic,
              read: cell.read,
              axial: cell.position.axial,
              angle: cell.position.angle,
              ...(cell.position.track == null ? {} : { track: cell.position.track }),
              ...(part === undefined ? {} : { part }),
              ...(reference === undefined ? {} : { reference }),
              gauge,
              text: typed,
              unit,
            },
          },
        }),
      );
    },
    // While the hand types on, or is in another cell, an old text is nobody's question.
    enabled: cell !== undefined && typed !== "" && typed === now,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 20_000,
    placeholderData: keepPreviousData,
  });
  const fresh = typed === now && typed !== "" && !query.isPlaceholderData;
  return { echo: fresh ? query.data : undefined, error: fresh ? query.error : null };
}
