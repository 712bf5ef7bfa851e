import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { type Cell, onDial, partOf } from "./cells";
import { gaugeUse, type Means } from "./useBench";

export type Echo = Schemas["EntryEcho"];

type EchoOptions = { code: string; cell: Cell | undefined; text: string; means: Means; seq: number };

/** What the server understands of the text in a cell, while it is typed. */
export function useEcho({ code, cell, text, means, seq }: EchoOptions) {
  const typed = text.trim();
  const { unit } = means;
  const gauge = cell ? means.gauges[gaugeUse(cell)] : "";
  const reference = cell && onDial(partOf(cell.feature), cell.method) ? means.referenceFor(cell) : undefined;
  const query = useQuery({
    queryKey: ["echo", code, seq, cell, typed, gauge, reference, unit],
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
              ...(reference === undefined ? {} : { reference }),
              gauge,
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
