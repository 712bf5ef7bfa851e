import { Radio, RadioGroup } from "@headlessui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, NavLink, useMatch, useNavigate } from "react-router";
import { api, type Session, type Unit } from "../api/client";
import { Digits } from "./Figure";
import { useUnits } from "./units";
import { momentText } from "./words";

/** Logo: a crank scribed in one stroke, its last throw jagged. */
export function Logo({ size = 34 }: { size?: number }) {
  return (
    <svg width={size} height={(size * 22) / 34} viewBox="0 0 34 22" aria-hidden="true">
      <path
        d="M0 15.5h7V3.5h4v4h8v-4h4v12h3.5l2-3 2 5 2-2H34"
        fill="none"
        stroke="currentColor"
        strokeWidth="2.4"
      />
    </svg>
  );
}

function Tab({ to, text, on }: { to: string | undefined; text: string; on: boolean }) {
  const look = `relative px-3 max-[1150px]:px-2 leading-10 ${on ? "tab-on font-bold text-dye" : ""}`;
  if (!to) {
    return (
      <span className={`${look} text-ink-2`} aria-disabled="true" title="Choose a build on the floor first">
        {text}
      </span>
    );
  }
  return (
    <NavLink to={to} className={`${look} ${on ? "" : "text-ink"}`}>
      {text}
    </NavLink>
  );
}

function Clock() {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 10_000);
    return () => clearInterval(timer);
  }, []);
  return (
    <span className="num text-small text-ink-2 max-[1150px]:hidden">
      <Digits text={momentText(now)} />
    </span>
  );
}

function UnitSwitch() {
  const { chosen, choose, own } = useUnits();
  const shown = chosen ?? own;
  const units: { unit: Unit; text: string }[] = [
    { unit: "in", text: "inch" },
    { unit: "mm", text: "mm" },
  ];
  // Without a build on the screen there is no figure to flip.
  if (own === undefined) return null;
  return (
    <RadioGroup
      aria-label="Show figures in"
      value={shown}
      onChange={choose}
      className="-mr-6 flex text-small"
    >
      {units.map(({ unit, text }) => (
        <Radio
          key={unit}
          as="button"
          type="button"
          value={unit}
          className="h-10 px-4 text-ink-2 data-checked:bg-dye data-checked:font-semibold data-checked:text-white"
        >
          {text}
        </Radio>
      ))}
    </RadioGroup>
  );
}

/** Where one is, who one is, what time it is, and which unit everything is shown in. */
export function TopBar({ session, connected }: { session: Session; connected: boolean }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const here = useMatch("/builds/:code/:place/*");
  const room = useMatch("/gauges");
  const shelves = useMatch("/shells");
  const atShop = useMatch("/shop");
  const atPeople = useMatch("/people");
  const account = useMatch("/account");
  const shop = atShop ?? atPeople;
  const code = here?.params.code;
  const place = here?.params.place;
  const to = (name: string) => code && `/builds/${code}/${name}`;
  const signOut = async () => {
    await api.DELETE("/api/v1/session");
    void navigate("/");
    client.setQueryData(["session"], null);
    // Nothing of what one person saw is left for the next.
    client.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
  };
  return (
    <header className="flex h-10 flex-none items-center gap-4 border-b border-hair bg-steel-1 px-6 text-[14px] whitespace-nowrap">
      <Link to="/" className="flex items-center gap-2.5 text-dye" aria-label="Jagged Pin, to the floor">
        <Logo />
        <b className="text-[17px] font-[750] [font-stretch:108%]">Jagged Pin</b>
      </Link>
      <span className={`text-ink-2 ${code ? "max-[1480px]:hidden" : "max-[1360px]:hidden"}`}>
        {session.shop}
      </span>
      <nav aria-label="Places" className="ml-2 flex">
        <Tab to="/" text="Floor" on={!code && !room && !shelves && !shop && !account} />
        <Tab to={to("look")} text="Look" on={place === "look"} />
        <Tab to={to("parts")} text="Parts" on={place === "parts"} />
        <Tab to={to("bench")} text="Bench" on={place === "bench"} />
        <Tab
          to={to("shells") ?? "/shells"}
          text={code ? "Shells" : "Shell room"}
          on={place === "shells" || shelves !== null}
        />
        <Tab to={to("set-up")} text="Set-up" on={place === "set-up"} />
        <Tab
          to={to("gauges") ?? "/gauges"}
          text={code ? "Gauges" : "Gauge room"}
          on={place === "gauges" || room !== null}
        />
        <Tab to={to("sheet")} text="Sheet" on={place === "sheet"} />
        {session.capabilities.run_shop && <Tab to="/shop" text="Shop" on={shop !== null} />}
      </nav>
      <span className="flex-1" />
      {!connected && (
        <span
          role="status"
          data-connection="lost"
          className="bg-ink px-2 text-small leading-6 font-bold text-white"
        >
          The server does not answer
        </span>
      )}
      <Link to="/account" title="Your account" className="font-semibold underline-offset-4 hover:underline">
        {session.person.name}, {session.role}
      </Link>
      <button
        type="button"
        onClick={() => void signOut()}
        className="h-10 px-2 text-small text-ink-2 underline underline-offset-4"
      >
        Sign out
      </button>
      <Clock />
      <UnitSwitch />
    </header>
  );
}
