import { NavLink } from "react-router";

const PLACES = [
  { to: "/shop", text: "Roles and targets" },
  { to: "/people", text: "People" },
];

/** The pages of the shop itself. */
export function ShopPlaces() {
  return (
    <nav aria-label="The shop" className="flex border border-dye">
      {PLACES.map(({ to, text }) => (
        <NavLink
          key={to}
          to={to}
          className={({ isActive }) =>
            `flex h-8 items-center px-3 text-small font-semibold ${isActive ? "bg-dye text-white" : "bg-paper text-dye"}`
          }
        >
          {text}
        </NavLink>
      ))}
    </nav>
  );
}
