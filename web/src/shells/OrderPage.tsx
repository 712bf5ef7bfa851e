import { Link, useParams } from "react-router";
import type { Build, Schemas } from "../api/client";
import { WithBuild } from "../page/BuildPage";
import { Figure } from "../shared/Figure";
import { Notice } from "../shared/Notice";
import { useShownUnit } from "../shared/units";
import { dayText, JOB_WORD } from "../shared/words";

/** A work order as the sheet of paper that goes with the parts. */
export function OrderPage({ shop }: { shop: string }) {
  const { order = "" } = useParams();
  return (
    <WithBuild>
      {(build) => {
        const found = build.assessment.orders.find((o) => o.id === order);
        return found ? (
          <OrderPaper build={build} order={found} shop={shop} />
        ) : (
          <Notice title="There is no such order" text={`Go back to the machining of ${build.code}.`} />
        );
      }}
    </WithBuild>
  );
}

type OrderPaperProps = { build: Build; order: Schemas["OrderStatus"]; shop: string };

function OrderPaper({ build, order, shop }: OrderPaperProps) {
  const unit = useShownUnit(build.unit);
  const o = order.order;
  return (
    <main className="min-h-0 flex-1 relative overflow-auto bg-steel-2 py-6" tabIndex={-1}>
      <div className="no-print mx-auto mb-3 flex w-[820px] gap-3">
        <Link className="btn" to={`/builds/${build.code}/shells/machining`}>
          Back to machining
        </Link>
        <span className="flex-1" />
        <a className="btn" href={`/api/v1/builds/${build.code}/orders/${order.id}`} download>
          JSON
        </a>
        <button type="button" className="btn btn-main" onClick={() => window.print()}>
          Print
        </button>
      </div>
      <article className="print-sheet mx-auto w-[820px] border border-hair-strong bg-white px-12 py-10">
        <div className="flex items-baseline gap-4 border-b-[3px] border-ink pb-3">
          <h1 className="text-title font-bold">Work order</h1>
          <b className="num text-title">{o.number}</b>
          <span className="flex-1" />
          <span>{dayText(order.at)}</span>
        </div>
        <dl className="mt-4 grid grid-cols-[120px_1fr] gap-y-1">
          <dt className="text-ink-2">From</dt>
          <dd>
            {shop}, {order.by.name}
          </dd>
          <dt className="text-ink-2">To</dt>
          <dd>{o.shop}</dd>
          <dt className="text-ink-2">Engine</dt>
          <dd>
            {build.engine}, our {build.code}
          </dd>
          {o.fillet != null && (
            <>
              <dt className="text-ink-2">Fillets</dt>
              <dd>
                keep radius <Figure nm={o.fillet} unit={unit} className="font-bold" />
              </dd>
            </>
          )}
          <dt className="text-ink-2">Finish</dt>
          <dd>{o.finish}</dd>
        </dl>
        <table className="mt-6 w-full text-[15px]">
          <caption className="sr-only">Feature by feature</caption>
          <thead>
            <tr className="border-b-2 border-ink text-left text-small">
              <th className="py-1">Feature</th>
              <th>Do</th>
              <th>From</th>
              <th>To</th>
              <th>Held to</th>
              <th>Why</th>
              <th>As made</th>
            </tr>
          </thead>
          <tbody>
            {o.items.map((i) => (
              <tr key={`${i.station} ${i.job}`} className="h-10 border-b border-hair-strong align-middle">
                <th scope="row" className="text-left">
                  {i.station}
                </th>
                <td>{JOB_WORD[i.job]}</td>
                <td>{i.from != null ? <Figure nm={i.from} unit={unit} /> : "new"}</td>
                <td>
                  <Figure nm={i.to} unit={unit} className="text-[17px] font-bold" />
                </td>
                <td className="whitespace-nowrap">
                  {i.plus === i.minus ? (
                    <>
                      ± <Figure nm={i.plus} unit={unit} />
                    </>
                  ) : (
                    <>
                      +<Figure nm={i.plus} unit={unit} /> −<Figure nm={i.minus} unit={unit} />
                    </>
                  )}
                </td>
                <td className="max-w-[190px] text-small">{i.why}</td>
                <td className="w-[90px]" aria-label="to be filled in" />
              </tr>
            ))}
          </tbody>
        </table>
        <p className="mt-5">{o.note}</p>
        <p className="mt-8 text-note text-ink-2">
          Sizes in {unit === "in" ? "inches" : "millimetres"}, at 20 °C. What comes back is measured against
          this order.
        </p>
      </article>
    </main>
  );
}
