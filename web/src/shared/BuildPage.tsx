import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { useNavigate, useParams } from "react-router";
import type { Build } from "../api/client";
import { buildQuery } from "../api/queries";
import { LineAside, LineIdent } from "../bench/LineWords";
import { Line } from "../line/Line";
import { Keys } from "./Keys";
import { Notice } from "./Notice";

type BuildPageProps = {
  children: (build: Build) => ReactNode;
  keys?: { press: string[]; does: string }[];
};

/** A page of one build under its line. */
export function BuildPage({ children, keys = [] }: BuildPageProps) {
  const { code = "" } = useParams();
  const navigate = useNavigate();
  const query = useQuery(buildQuery(code));
  const build = query.data;
  if (!build) {
    return query.isError ? <Notice title={`${code} is not here`} text={query.error.message} /> : null;
  }
  return (
    <>
      <Line
        build={build}
        onChoose={(station) => void navigate(`/builds/${build.code}/bench/${station}`)}
        ident={<LineIdent build={build} row="M" />}
        aside={<LineAside build={build} />}
      />
      {children(build)}
      <footer className="flex min-h-[52px] flex-none items-center gap-4 border-t border-hair bg-steel-1 px-6">
        <Keys keys={keys} />
        <button
          type="button"
          className="btn ml-auto"
          onClick={() => void navigate(`/builds/${build.code}/bench`)}
        >
          To the bench
        </button>
      </footer>
    </>
  );
}
