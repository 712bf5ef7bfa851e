import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { useNavigate, useParams } from "react-router";
import type { Build, Row } from "../api/client";
import { buildQuery } from "../api/queries";
import { CompactLine } from "../line/CompactLine";
import { Line } from "../line/Line";
import { Keys } from "../shared/Keys";
import { LineAside, LineIdent } from "./LineWords";
import { NoBuild } from "./NoBuild";

type Key = { press: string[]; does: string };

/** Loads the build of the address, and says so when it is not there. */
export function WithBuild({ children }: { children: (build: Build) => ReactNode }) {
  const { code = "" } = useParams();
  const query = useQuery(buildQuery(code));
  if (query.data) return children(query.data);
  return query.isError ? <NoBuild code={code} error={query.error} /> : null;
}

type BuildFrameProps = {
  build: Build;
  children: ReactNode;
  keys?: Key[];
  /** Buttons at the foot, before the way back to the bench. */
  actions?: ReactNode;
  row?: Row;
  /** The whole line, where the page is about what is drawn there; else the slit, which leaves the page its height. */
  full?: boolean;
};

/** A page of one build under its line, with what can be done at the foot. */
export function BuildFrame({
  build,
  children,
  keys = [],
  actions,
  row = "mains",
  full = false,
}: BuildFrameProps) {
  const navigate = useNavigate();
  const toBench = (station: string) => void navigate(`/builds/${build.code}/bench/${station}`);
  return (
    <>
      {full ? (
        <Line
          build={build}
          onChoose={toBench}
          ident={<LineIdent build={build} row={row} />}
          aside={<LineAside build={build} />}
        />
      ) : (
        <CompactLine build={build} onChoose={toBench} aside={<LineAside build={build} brief />} />
      )}
      {children}
      <footer className="no-print flex min-h-[52px] flex-none items-center gap-3 border-t border-hair bg-steel-1 px-6">
        <Keys keys={keys} />
        <span className="flex-1" />
        {actions}
        <button type="button" className="btn" onClick={() => void navigate(`/builds/${build.code}/bench`)}>
          To the bench
        </button>
      </footer>
    </>
  );
}

/** Both together, for pages that need no buttons of their own. */
export function BuildPage({ children, keys = [] }: { children: (build: Build) => ReactNode; keys?: Key[] }) {
  return (
    <WithBuild>
      {(build) => (
        <BuildFrame build={build} keys={keys}>
          {children(build)}
        </BuildFrame>
      )}
    </WithBuild>
  );
}
