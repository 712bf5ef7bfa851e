import { NavLink } from "react-router";
import type { Build, Schemas } from "../api/client";
import { Segments } from "../shared/Choice";

export type Row = Schemas["BearingRow"];

type Layout = Build["layout"];

/** On rollers nothing is stamped or paired: what is left are orders. */
const onShells = (layout: Layout) => !layout.rollers;

const PLACES = [
  { to: "", text: "Choose", there: () => true },
  { to: "/crank", text: "Crank and stamps", there: onShells },
  { to: "/tray", text: "Tray", there: onShells },
  { to: "/pins", text: "Rods to pins", there: (of: Layout) => onShells(of) && Boolean(of.rods) },
  { to: "/machining", text: "Machining", there: () => true },
];

type ShellsHeadProps = {
  build: Build;
  row?: Row;
  onRow?: (row: Row) => void;
  children?: React.ReactNode;
};

/** Where one is among the ways to make parts fit, and for which row. */
export function ShellsHead({ build, row, onRow, children }: ShellsHeadProps) {
  const twoRows = onShells(build.layout) && Boolean(build.layout.rods);
  return (
    <div className="flex items-center gap-4">
      <h2 className="sr-only">Shells</h2>
      <nav aria-label="Ways to make parts fit" className="flex gap-1">
        {PLACES.filter((p) => p.there(build.layout)).map((p) => (
          <NavLink
            key={p.to}
            to={`/builds/${build.code}/shells${p.to}`}
            end={p.to === ""}
            className={({ isActive }) =>
              `relative px-2.5 pb-2.5 text-[15px] whitespace-nowrap ${isActive ? "tab-on font-bold text-dye" : "text-ink-2"}`
            }
          >
            {p.text}
          </NavLink>
        ))}
      </nav>
      {row && onRow && twoRows && (
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
