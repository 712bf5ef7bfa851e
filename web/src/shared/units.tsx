import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from "react";
import type { Unit } from "../api/client";

type Units = {
  /** The unit everything is shown in; absent while each build is shown in its own. */
  chosen: Unit | undefined;
  choose: (unit: Unit) => void;
  /** The unit of the build on the screen; absent where there is none. */
  own: Unit | undefined;
  setOwn: (unit: Unit | undefined) => void;
};

const nothing = () => undefined;
const UnitsContext = createContext<Units>({
  chosen: undefined,
  choose: nothing,
  own: undefined,
  setOwn: nothing,
});

/** Lets any view be flipped between inch and metric. */
export function UnitsProvider({ children }: { children: ReactNode }) {
  const [chosen, choose] = useState<Unit>();
  const [own, setOwn] = useState<Unit>();
  const value = useMemo(() => ({ chosen, choose, own, setOwn }), [chosen, own]);
  return <UnitsContext value={value}>{children}</UnitsContext>;
}

export function useUnits(): Units {
  return useContext(UnitsContext);
}

/** Says which unit the build on the screen has, for the switch in the top bar. */
export function useOwnUnit(unit: Unit): void {
  const { setOwn } = useUnits();
  useEffect(() => {
    setOwn(unit);
    return () => setOwn(undefined);
  }, [unit, setOwn]);
}

/** The unit a build is shown in: the chosen one, or its own. */
export function useShownUnit(own: Unit): Unit {
  return useUnits().chosen ?? own;
}
