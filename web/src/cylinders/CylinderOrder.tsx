import { useState } from "react";
import { Link } from "react-router";
import { kindOf } from "../api/catalog";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { PaperDialog } from "../shared/PaperDialog";
import { JOB_WORD } from "../shared/words";

type CylinderOrderProps = {
  build: Build;
  /** What the other shop holds to either side, as typed. */
  tolerance: string;
  /** For the next oversize, what was asked of it; honed to the pistons when absent. */
  oversize?: Schemas["AskBoring"];
  /** What the button says. */
  label: string;
};

const FINISH = "45 degrees included; 280 to 320, then plateau";

/** How a cylinder is held while it is bored: as it is held when it runs. */
const heldAs = (build: Build) =>
  build.layout.rollers
    ? "held down by its own studs, with the gasket of the build"
    : "main caps torqued, torque plate on with the gasket and fasteners of the build";

/** Writes the order for whoever hones or bores, and says how those before it stand. */
export function CylinderOrder({ build, tolerance, oversize, label }: CylinderOrderProps) {
  const [writing, setWriting] = useState(false);
  const ofCylinders = build.assessment.orders.filter((o) =>
    o.items.some((i) => kindOf(i.item.station) === "cylinder"),
  );
  return (
    <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <button type="button" className="btn min-h-8 px-3 text-small" onClick={() => setWriting(true)}>
        {label}
      </button>
      {ofCylinders.map((o) => (
        <Link
          key={o.id}
          to={`/builds/${build.code}/shells/orders/${o.id}`}
          className="text-small underline"
          data-cylinder-order={o.step ?? "written"}
        >
          {o.order.number}: {JOB_WORD[o.items[0]?.item.job ?? "hone_cylinder"]}, {standing(o)}
        </Link>
      ))}
      {writing && (
        <PaperDialog
          title={label}
          usual={{ finish: FINISH, note: heldAs(build) }}
          write={({ fillet: _, ...paper }) =>
            unwrap(
              api.POST("/api/v1/builds/{build}/cylinder-orders", {
                params: { path: { build: build.code } },
                body: { ...paper, tolerance, oversize: oversize ?? null },
              }),
            )
          }
          onClose={() => setWriting(false)}
        >
          <p className="text-note text-ink-2">
            The lines are the cylinders as this plan has them. What comes back is measured again, every place,
            cool, and held against it.
          </p>
        </PaperDialog>
      )}
    </div>
  );
}

function standing(o: Schemas["OrderStatus"]): string {
  switch (o.step ?? "written") {
    case "returned":
      return o.accepted ? "back, accepted" : "back, not accepted yet";
    case "sent":
      return "sent";
    case "withdrawn":
      return "withdrawn";
    default:
      return "written";
  }
}
