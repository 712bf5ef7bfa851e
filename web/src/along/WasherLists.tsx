import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { Digits, Figure } from "../shared/Figure";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { moneyText } from "../shells/money";
import { type WasherChoice, washersQuery } from "./useWashers";

type Box = Schemas["WasherBoxView"];
type WasherListsProps = { build: Build; box: Box; choice: WasherChoice; onClose: () => void };

/** What to fetch for a choice of washers, side by side, and what has to be ordered first; to print. */
export function WasherLists({ build, box, choice, onClose }: WasherListsProps) {
  const sides = [
    { name: "front", side: choice.front },
    { name: "rear", side: choice.rear },
  ].filter(({ side }) => side.class != null || side.lap > 0);
  const place = (id: string) => box.shelf.find((s) => s.class === id)?.place;
  return (
    <Sheetlet open title={`Washers for ${build.code}`} onClose={onClose} width={600}>
      <div className="print-sheet mt-2">
        <p className="print-only text-lead font-bold">Washers for {build.code}</p>
        <p className="text-small text-ink-2">
          {build.engine}, {box.washers.name}
        </p>
        <h3 className="mt-3 text-small font-bold">Pick</h3>
        <table className="w-full text-[14px]">
          <thead>
            <tr className="text-left text-note text-ink-2">
              <th className="font-medium">Side</th>
              <th className="font-medium">Washer</th>
              <th className="font-medium">Halves</th>
              <th className="font-medium">Thickness</th>
              <th className="font-medium">From</th>
              <th className="font-medium">Done</th>
            </tr>
          </thead>
          <tbody>
            {sides.map(({ name, side }) => (
              <tr key={name} className="border-t border-hair" data-pick={name}>
                <td className="py-1 font-bold">{name}</td>
                <td className="num font-bold">{side.name}</td>
                <td className="num">{box.washers.halves}</td>
                <td>
                  <Figure nm={side.thickness} unit={build.unit} />
                  {side.lap > 0 && (
                    <span className="block text-note text-ink-2">
                      lap <Figure nm={side.lap} unit={build.unit} as="clearance" /> off the steel back, every
                      half alike
                    </span>
                  )}
                </td>
                <td>
                  {side.class == null
                    ? "out of the engine"
                    : choice.buy.some((b) => b.class === side.class)
                      ? "order first"
                      : place(side.class)
                        ? `shelf ${place(side.class)}`
                        : "shelf, no place noted"}
                </td>
                <td>
                  <span className="inline-block size-4 border border-ink" aria-hidden="true" />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <h3 className="mt-4 text-small font-bold">Order</h3>
        {choice.buy.length === 0 ? (
          <p className="text-small">Nothing has to be bought.</p>
        ) : (
          <ul className="text-[14px]">
            {choice.buy.map((b) => (
              <OrderLine key={b.class} buy={b} box={box.washers.id} build={build.code} />
            ))}
          </ul>
        )}
        <p className="mt-3 text-small leading-snug">
          Steel backs to the housing, linings to the crank; grooves open, tangs in their slots. Push it again
          with every cap torqued.
        </p>
      </div>
      <div className="no-print mt-4 flex justify-end">
        <button type="button" className="btn btn-main" onClick={() => window.print()}>
          Print
        </button>
      </div>
    </Sheetlet>
  );
}

/** Halves to buy, and their arrival. */
function OrderLine({ buy, box, build }: { buy: Schemas["WashersToBuy"]; box: string; build: string }) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const receive = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/washers/{box}/moves", {
          params: { path: { box } },
          body: {
            id,
            class: buy.class,
            kind: "received",
            by: buy.halves,
            reason: `ordered for ${build}`,
            place: null,
          },
        }),
      ),
    onSuccess: () => client.invalidateQueries(washersQuery),
  });
  return (
    <li className="flex items-center gap-3 border-t border-hair py-1" data-order={buy.part_number}>
      <span className="flex-1">
        {buy.halves} halves <b className="num">{buy.part_number || buy.class}</b>
      </span>
      <span className="num">
        <Digits text={moneyText(buy.price)} />
      </span>
      <button
        type="button"
        className="no-print h-8 border border-dye bg-paper px-2 text-small font-semibold text-dye"
        disabled={receive.isPending || receive.isSuccess}
        onClick={() => receive.mutate()}
      >
        {receive.isSuccess ? "On the shelf" : "It came in"}
      </button>
      <ProblemNote problem={receive.error} />
    </li>
  );
}
