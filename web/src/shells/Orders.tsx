import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { Figure } from "../shared/Figure";
import { newId } from "../shared/id";
import { Sheetlet } from "../shared/Sheetlet";
import { dayText, JOB_WORD } from "../shared/words";

type Standing = Schemas["OrderStatus"];

/** The work orders of a build, each with how far it is and what came back. */
export function Orders({ build, unit }: { build: Build; unit: Unit }) {
  const orders = [...build.assessment.orders].reverse();
  return (
    <>
      <h2 className="text-lead font-bold">Work orders</h2>
      {orders.length === 0 && (
        <p className="mt-2 text-small text-ink-2">
          None yet. An order tells the other shop feature by feature from which size to which, how close, and
          why; what comes back is measured against it.
        </p>
      )}
      {orders.map((o) => (
        <OrderCard key={o.id} build={build} order={o} unit={unit} />
      ))}
    </>
  );
}

const STEP_WORD: Record<Schemas["OrderStep"], string> = {
  sent: "Sent",
  returned: "Back",
  withdrawn: "Withdrawn",
};

function OrderCard({ build, order, unit }: { build: Build; order: Standing; unit: Unit }) {
  const [moving, setMoving] = useState<Schemas["OrderStep"]>();
  const { step } = order;
  return (
    <article
      className="mt-3 border-t-[3px] border-ink pt-2"
      data-order={order.order.number}
      data-step={step ?? "written"}
    >
      <div className="flex items-baseline gap-3">
        <b className="num text-[17px]">{order.order.number}</b>
        <span className="flex-1 text-small text-ink-2">{order.order.shop}</span>
        <b className="text-small">
          {step ? STEP_WORD[step] : "Written"} {dayText(order.step_at ?? order.at)}
          {step === "returned" && order.accepted && ", accepted"}
        </b>
      </div>
      <table className="mt-1 w-full text-small">
        <caption className="sr-only">Order {order.order.number}, feature by feature</caption>
        <tbody>
          {order.items.map((i) => (
            <tr
              key={`${i.item.station} ${i.item.job}`}
              className="border-t border-hair"
              data-item={i.item.station}
            >
              <th scope="row" className="py-0.5 pr-2 text-left">
                {i.item.station}
              </th>
              <td className="text-ink-2">{JOB_WORD[i.item.job]}</td>
              <td>
                <Figure nm={i.item.to} unit={unit} className="font-bold" />
              </td>
              <td className="text-right font-semibold" data-came={i.state ?? "not_yet"}>
                {cameBack(i, step ?? undefined)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2 flex flex-wrap gap-2">
        <Link className="order-act" to={`/builds/${build.code}/shells/orders/${order.id}`}>
          Print
        </Link>
        <a className="order-act" href={`/api/v1/builds/${build.code}/orders/${order.id}`} download>
          JSON
        </a>
        {!step && (
          <>
            <button type="button" className="order-act" onClick={() => setMoving("sent")}>
              It was sent
            </button>
            <button type="button" className="order-act" onClick={() => setMoving("withdrawn")}>
              Withdraw
            </button>
          </>
        )}
        {step === "sent" && (
          <button type="button" className="order-act" onClick={() => setMoving("returned")}>
            It came back
          </button>
        )}
      </div>
      {moving && (
        <StepDialog build={build} order={order} step={moving} onClose={() => setMoving(undefined)} />
      )}
    </article>
  );
}

function cameBack(item: Schemas["OrderItemStatus"], step: Schemas["OrderStep"] | undefined): string {
  if (step !== "returned") return "";
  switch (item.state ?? undefined) {
    case undefined:
      return "measure it";
    case "in":
      return "accepted";
    case "edge":
      return "not proven";
    case "tight":
      return "refused: small";
    case "loose":
      return "refused: large";
  }
}

type StepDialogProps = { build: Build; order: Standing; step: Schemas["OrderStep"]; onClose: () => void };

const STEP_TITLE: Record<Schemas["OrderStep"], string> = {
  sent: "was sent",
  returned: "came back",
  withdrawn: "is withdrawn",
};

function StepDialog({ build, order, step, onClose }: StepDialogProps) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [note, setNote] = useState("");
  const move = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/orders/{order}/steps", {
          params: { path: { build: build.code, order: order.id } },
          body: { id, step, note },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  return (
    <Sheetlet open title={`${order.order.number} ${STEP_TITLE[step]}`} onClose={onClose}>
      <DialogForm
        problem={move.error}
        disabled={move.isPending}
        onSubmit={() => move.mutate()}
        onClose={onClose}
      >
        {step === "returned" && (
          <p className="text-small leading-snug">
            <b>{order.order.items.map((i) => i.station).join(", ")} become stale.</b> Everything the other
            shop touched is measured again, against the order.
          </p>
        )}
        <Field
          label="What was said, or seen"
          name="reason"
          value={note}
          problem={move.error}
          autoFocus
          autoComplete="off"
          onChange={(e) => setNote(e.target.value)}
        />
      </DialogForm>
    </Sheetlet>
  );
}
