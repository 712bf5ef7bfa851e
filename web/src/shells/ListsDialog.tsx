import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { shellsQuery } from "../api/queries";
import { Digits } from "../shared/Figure";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { moneyText } from "./money";
import { HALF } from "./Shelf";

type ListsDialogProps = {
  build: Build;
  family: Schemas["ShellFamily"];
  proposal: Schemas["Proposal"];
  ask: Schemas["AskShells"];
  onClose: () => void;
};

/** The pick list in bench order and what has to be ordered, to print or to take along as CSV. */
export function ListsDialog({ build, family, proposal, ask, onClose }: ListsDialogProps) {
  const link = (list: "pick" | "order") =>
    `/api/v1/builds/${build.code}/shells/${list}.csv?ask=${encodeURIComponent(JSON.stringify(ask))}`;
  return (
    <Sheetlet open title={`Pick and order for ${build.code}`} onClose={onClose} width={680}>
      <div className="print-sheet mt-2">
        <p className="print-only text-lead font-bold">Pick and order for {build.code}</p>
        <p className="text-small text-ink-2">
          {build.engine}, {family.name}
        </p>
        <h3 className="mt-3 text-small font-bold">Pick, in bench order</h3>
        <table className="w-full text-[14px]">
          <thead>
            <tr className="text-left text-note text-ink-2">
              <th className="font-medium">Bearing</th>
              <th className="font-medium">Half</th>
              <th className="font-medium">Class</th>
              <th className="font-medium">From</th>
              <th className="font-medium">Done</th>
            </tr>
          </thead>
          <tbody>
            {proposal.picks.map((p) => (
              <tr
                key={`${p.station} ${p.half}`}
                className="border-t border-hair"
                data-pick={`${p.station} ${p.half}`}
              >
                <td className="py-1 font-bold">{p.station}</td>
                <td>{HALF[p.half]}</td>
                <td className="num font-bold">{p.class}</td>
                <td>{fromText(p.from)}</td>
                <td>
                  <span className="inline-block size-4 border border-ink" aria-hidden="true" />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {proposal.freed.length > 0 && (
          <p className="mt-1 text-small text-ink-2">
            Comes out: {proposal.freed.map((f) => `${f.station} ${HALF[f.half]} ${f.class}`).join(", ")}.
          </p>
        )}
        <h3 className="mt-4 text-small font-bold">Order</h3>
        {proposal.buy.length === 0 ? (
          <p className="text-small">Nothing has to be bought.</p>
        ) : (
          <ul className="text-[14px]">
            {proposal.buy.map((b) => (
              <OrderLine key={b.part_number} buy={b} family={family} build={build.code} />
            ))}
          </ul>
        )}
      </div>
      <div className="no-print mt-4 flex justify-end gap-3">
        <a className="btn" href={link("pick")} download>
          Pick list, CSV
        </a>
        {proposal.buy.length > 0 && (
          <a className="btn" href={link("order")} download>
            Order, CSV
          </a>
        )}
        <button type="button" className="btn btn-main" onClick={() => window.print()}>
          Print
        </button>
      </div>
    </Sheetlet>
  );
}

function fromText(from: Schemas["PickFrom"]): string {
  switch (from.kind) {
    case "shelf":
      return from.place ? `shelf ${from.place}` : "shelf, no place noted";
    case "engine":
      return `out of ${from.station}`;
    case "set":
      return `order ${from.part_number}`;
  }
}

type OrderLineProps = { buy: Schemas["ToBuy"]; family: Schemas["ShellFamily"]; build: string };

/** A set to buy, and its arrival. */
function OrderLine({ buy, family, build }: OrderLineProps) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const receive = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/shells/{family}/sets", {
          params: { path: { family: family.id } },
          body: { id, part_number: buy.part_number, sets: buy.sets, reason: `ordered for ${build}` },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries(shellsQuery);
      await client.invalidateQueries({ queryKey: ["shells"] });
    },
  });
  return (
    <li className="flex items-center gap-3 border-t border-hair py-1" data-order={buy.part_number}>
      <span className="flex-1">
        {buy.sets} × <b className="num">{buy.part_number}</b>
      </span>
      <span className="num">
        <Digits text={moneyText(buy.price)} />
      </span>
      <button
        type="button"
        className="no-print h-8 border border-dye bg-paper px-2 text-small font-semibold text-dye"
        disabled={receive.isPending}
        onClick={() => receive.mutate()}
      >
        It came in
      </button>
      <ProblemNote problem={receive.error} />
    </li>
  );
}
