import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { type Cell, onDial } from "./cells";
import { gaugeUse, type Means } from "./useBench";

export type Echo = Schemas["EntryEcho"];

type EchoOptions = { code: string; cell: Cell | undefined; text: string; means: Means; seq: number };

/** What the server understands of the text in a cell, while it is typed. */
export function useEcho({ code, cell, text, means, seq }: EchoOptions) {
  const typed = text.trim();
  const { unit } = means;
  const gauge = cell ? means.gauges[gaugeUse(cell)] : "";
  const reference = cell && onDial(cell) ? means.referenceFor(cell) : undefined;
  const query = useQuery({
    queryKey: ["echo", code, seq, cell, typed, gauge, reference, unit],
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
              ...(reference === undefined ? {} : { reference }),
              gauge,
              text: typed,
              unit,
            },
          },
        }),
      );
    },
    enabled: cell !== undefined && typed !== "",
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 20_000,
    placeholderData: keepPreviousData,
  });
  const fresh = typed !== "" && !query.isPlaceholderData;
  return { echo: fresh ? query.data : undefined, error: fresh ? query.error : null };
}
