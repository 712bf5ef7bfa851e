import type { Build } from "../api/client";
import { Figure } from "../shared/Figure";
import { useShownUnit } from "../shared/units";

/** What the band says about the build, left of the crank. */
export function LineIdent({ build }: { build: Build }) {
  const unit = useShownUnit(build.unit);
  const window = build.assessment.target?.window;
  return (
    <>
      Mains <Figure nm={build.layout.main_journal} unit={unit} />
      {window && (
        <>
          <br />
          Window <Figure nm={window.low} unit={unit} as="clearance" short /> to{" "}
          <Figure nm={window.high} unit={unit} as="clearance" short />
          <br />
          Aim <Figure nm={window.aim} unit={unit} as="clearance" short />
        </>
      )}
      {build.layout.crank.proportional && (
        <>
          <br />
          Crank drawn in proportion
        </>
      )}
    </>
  );
}

const NEEDS = {
  measure: "to measure",
  acknowledgement: "on the edge",
  concession: "loose",
  lead_concession: "tight",
} as const;

/** What is still to do, right of the crank. */
export function LineAside({ build }: { build: Build }) {
  const { blocks, status } = build.assessment.sign_off;
  const groups = (Object.keys(NEEDS) as (keyof typeof NEEDS)[])
    .map((needs) => ({ needs, stations: blocks.filter((b) => b.needs === needs).map((b) => b.station) }))
    .filter((g) => g.stations.length > 0);
  return (
    <>
      <div className="mb-1 font-bold text-white">{status === "sealed" ? "Sealed" : "Still to do"}</div>
      {groups.map((g) => (
        <div key={g.needs} className="mb-1">
          <b className="text-white">{g.stations.join(", ")}</b> {NEEDS[g.needs]}
        </div>
      ))}
      {groups.length === 0 && status !== "sealed" && "Two signatures"}
    </>
  );
}
