import { NavLink } from "react-router";
import type { Build, Schemas } from "../api/client";
import { Segments } from "../shared/Choice";

export type Row = Schemas["BearingRow"];

const PLACES = [
  { to: "", text: "Choose", end: true },
  { to: "/crank", text: "Crank and stamps", end: false },
  { to: "/tray", text: "Tray", end: false },
  { to: "/pins", text: "Rods to pins", end: false },
  { to: "/machining", text: "Machining", end: false },
];

type ShellsHeadProps = {
  build: Build;
  row?: Row;
  onRow?: (row: Row) => void;
  children?: React.ReactNode;
};

/** Where one is among the ways to make parts fit, and for which row. */
export function ShellsHead({ build, row, onRow, children }: ShellsHeadProps) {
  const rods = Boolean(build.layout.rods);
  // On rollers nothing is chosen, stamped or paired: what is left are orders.
  const here = PLACES.filter(
    (p) => (rods || p.to !== "/pins") && (!build.layout.rollers || ["", "/machining"].includes(p.to)),
  );
  return (
    <div className="flex items-center gap-4">
      <h2 className="sr-only">Shells</h2>
      <nav aria-label="Ways to make parts fit" className="flex gap-1 border-b border-hair-strong">
        {here.map((p) => (
          <NavLink
            key={p.to}
            to={`/builds/${build.code}/shells${p.to}`}
            end={p.end}
            className={({ isActive }) =>
              `-mb-px px-2.5 pb-1 text-[15px] whitespace-nowrap ${isActive ? "border-b-[3px] border-dye font-bold text-dye" : "text-ink-2"}`
            }
          >
            {p.text}
          </NavLink>
        ))}
      </nav>
      {row && onRow && rods && !build.layout.rollers && (
        <Segments
          label="Row"
          value={row}
          onChange={onRow}
          options={[
            { value: "mains", text: "Mains" },
            { value: "rods", text: "Rods" },
          ]}
        />
      )}
      {children}
    </div>
  );
}
