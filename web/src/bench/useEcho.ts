import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Schemas, type Unit, unwrap } from "../api/client";
import type { Cell } from "./cells";
import type { Gauges } from "./useBench";

export type Echo = Schemas["EntryEcho"];

type EchoOptions = {
  code: string;
  cell: Cell | undefined;
  text: string;
  gauges: Gauges;
  reference: string;
  unit: Unit;
  seq: number;
};

/** What the server understands of the text in a cell, while it is typed. */
export function useEcho({ code, cell, text, gauges, reference, unit, seq }: EchoOptions) {
  const typed = text.trim();
  const query = useQuery({
    queryKey: ["echo", code, seq, cell, typed, gauges, reference, unit],
    queryFn: () =>
      unwrap(
        api.GET("/api/v1/builds/{build}/understand", {
          params: {
            path: { build: code },
            query: {
              station: cell?.station ?? "",
              feature: cell?.feature ?? "main_journal",
              axial: cell?.position.axial ?? "front",
              angle: cell?.position.angle ?? 0,
              method: cell?.method ?? "direct",
              reference,
              gauge: gauges[cell?.feature ?? "main_journal"],
              text: typed,
              unit,
            },
          },
        }),
      ),
    enabled: cell !== undefined && typed !== "",
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 20_000,
    placeholderData: keepPreviousData,
  });
  const fresh = typed !== "" && !query.isPlaceholderData;
  return { echo: fresh ? query.data : undefined, error: fresh ? query.error : null };
}
