import { Input } from "@headlessui/react";
import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { FloorRow, Session } from "../api/client";
import { floorQuery } from "../api/queries";
import { useSettled } from "../bench/useEcho";
import { miniatureScale } from "../line/Miniature";
import { Mark } from "../marks/Mark";
import { Boundary } from "../shared/Boundary";
import { Segments } from "../shared/Choice";
import { Keys } from "../shared/Keys";
import { ProblemNote } from "../shared/ProblemNote";
import type { Shown } from "../shared/words";
import { FloorBuild } from "./FloorBuild";
import { ImportBuild } from "./ImportBuild";
import { NewBuild } from "./NewBuild";
import { PutAway } from "./PutAway";
import { RemoveBuild } from "./RemoveBuild";
import { Unreadable } from "./Unreadable";

const LEGEND: Shown[] = ["in", "edge", "tight", "loose", "open", "stale", "predicted"];

/** Every build on the floor: how far it is, and what it needs next. */
export function Floor({ session }: { session: Session }) {
  const [search, setSearch] = useState("");
  const [archived, setArchived] = useState(false);
  const q = useSettled(search.trim(), 150);
  const floor = useInfiniteQuery({ ...floorQuery({ q, archived }), placeholderData: keepPreviousData });
  const navigate = useNavigate();
  const [chosen, setChosen] = useState(0);
  const [adding, setAdding] = useState(false);
  const [putting, setPutting] = useState<FloorRow>();
  const [removing, setRemoving] = useState<FloorRow>();
  const find = useRef<HTMLInputElement>(null);
  const list = useRef<HTMLDivElement>(null);
  const rows = floor.data?.pages.flatMap((page) => page.rows) ?? [];
  const unreadable = floor.data?.pages.flatMap((page) => page.unreadable) ?? [];
  const current = rows[Math.min(chosen, rows.length - 1)];
  const mayOpen = session.capabilities.open_builds;
  const count = rows.length;
  const scale = miniatureScale(rows);

  useEffect(() => {
    if (count > 0 && document.activeElement !== find.current) list.current?.focus({ preventScroll: true });
  }, [count]);

  const open = (row: FloorRow) => void navigate(`/builds/${row.code}/bench`);
  const onKey = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) {
      event.preventDefault();
      setChosen((i) => Math.min(rows.length - 1, Math.max(0, i + step)));
    } else if (event.key === "Enter" && current) open(current);
    else if (event.key.toLowerCase() === "n" && mayOpen) {
      event.preventDefault();
      setAdding(true);
    } else if (event.key === "/") {
      event.preventDefault();
      find.current?.focus();
    }
  };
  return (
    <>
      <main className="flex min-h-0 flex-1 flex-col bg-paper">
        <div className="flex min-h-14 flex-none flex-wrap items-center gap-x-4 gap-y-2 px-6 py-2">
          <h1 className="text-title font-bold text-dye">Floor</h1>
          <p className="min-w-[72px] whitespace-nowrap text-ink-2">
            {floor.isSuccess && counted(rows.length, floor.hasNextPage, archived)}
          </p>
          <Input
            ref={find}
            type="search"
            aria-label="Find a build"
            placeholder="Find a build"
            value={search}
            onChange={(e) => setSearch(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === "ArrowDown" || e.key === "Enter") list.current?.focus();
              if (e.key === "Escape") setSearch("");
            }}
            className="field-input h-9 w-[180px]"
          />
          <div className="flex-none">
            <Segments
              label="Which builds"
              value={archived ? "away" : "floor"}
              onChange={(value) => setArchived(value === "away")}
              options={[
                { value: "floor", text: "On the floor" },
                { value: "away", text: "Put away" },
              ]}
            />
          </div>
          <div className="ml-auto flex gap-4 max-[1150px]:ml-0 max-[1150px]:w-full" aria-hidden="true">
            {LEGEND.map((state) => (
              <Mark key={state} state={state} size={16} />
            ))}
          </div>
        </div>
        <div className="grad flex-none" />
        {rows.length > 0 && (
          <div
            aria-hidden="true"
            className="grid h-8 flex-none grid-cols-[160px_minmax(330px,400px)_1fr_190px] items-center gap-2 border-b border-hair-strong px-6 text-small text-ink-2"
          >
            <span>Build</span>
            <span>Crank, front at the left, all to one scale</span>
            <span>Next</span>
            <span>Last recorded</span>
          </div>
        )}
        <ProblemNote problem={floor.error} />
        <Unreadable rows={unreadable} session={session} />
        {floor.isSuccess && rows.length === 0 && unreadable.length === 0 && (
          <EmptyFloor mayOpen={mayOpen} search={q} archived={archived} />
        )}
        <div
          ref={list}
          role="listbox"
          aria-label="Builds"
          aria-activedescendant={current && `build-${current.code}`}
          tabIndex={0}
          onKeyDown={onKey}
          className="min-h-0 flex-1 relative overflow-auto focus-visible:outline-none"
        >
          {rows.map((row, i) => (
            <Boundary key={row.id} of={row.code} at={String(row.touched_at)}>
              <FloorBuild
                scale={scale}
                row={row}
                chosen={row === current}
                onChoose={() => setChosen(i)}
                onOpen={() => open(row)}
              />
            </Boundary>
          ))}
          {floor.hasNextPage && (
            <div className="flex justify-center py-3">
              <button
                type="button"
                className="btn"
                disabled={floor.isFetchingNextPage}
                onClick={() => void floor.fetchNextPage()}
              >
                Show more
              </button>
            </div>
          )}
        </div>
      </main>
      <footer className="flex h-[52px] flex-none items-center gap-4 border-t border-hair bg-steel-1 px-6">
        <Keys
          keys={[
            { press: ["↑", "↓"], does: "build" },
            { press: ["Enter"], does: "open on the bench" },
            { press: ["/"], does: "find" },
            ...(mayOpen ? [{ press: ["N"], does: "new build" }] : []),
          ]}
        />
        <div className="ml-auto flex gap-3">
          {current && session.capabilities.run_shop && current.status !== "sealed" && (
            <button type="button" className="btn" onClick={() => setRemoving(current)}>
              Remove {current.code}
            </button>
          )}
          {current && mayOpen && (
            <button type="button" className="btn mr-4" onClick={() => setPutting(current)}>
              {current.archived ? `Back to the floor` : `Put ${current.code} away`}
            </button>
          )}
          {mayOpen && <ImportBuild onImported={(code) => void navigate(`/builds/${code}/sheet`)} />}
          {mayOpen && (
            <button type="button" className="btn" onClick={() => setAdding(true)}>
              New build
            </button>
          )}
          {current && (
            <button type="button" className="btn btn-main" onClick={() => open(current)}>
              Open {current.code}
            </button>
          )}
        </div>
      </footer>
      {putting && <PutAway key={putting.id} row={putting} onClose={() => setPutting(undefined)} />}
      {removing && <RemoveBuild code={removing.code} onClose={() => setRemoving(undefined)} />}
      {adding && (
        <NewBuild
          runsShop={session.capabilities.run_shop}
          onClose={() => setAdding(false)}
          onOpened={(code) => void navigate(`/builds/${code}/bench`)}
        />
      )}
    </>
  );
}

function counted(count: number, more: boolean, archived: boolean): string {
  const builds = count === 1 ? "1 build" : `${count}${more ? " and more" : ""} builds`;
  return archived ? `${builds} put away` : builds;
}

type EmptyFloorProps = { mayOpen: boolean; search: string; archived: boolean };

function EmptyFloor({ mayOpen, search, archived }: EmptyFloorProps) {
  if (search !== "" || archived) {
    return (
      <div className="mx-auto mt-20 w-[520px] text-center">
        <p className="text-lead font-bold">
          {search === "" ? "Nothing was put away yet" : `Nothing here is called \u201c${search}\u201d`}
        </p>
        <p className="mt-2 text-ink-2">
          {archived
            ? "Builds that left the shop are put away from the floor, with a reason; they can be found here."
            : "Look among those that were put away, or search for part of a name or of an engine."}
        </p>
      </div>
    );
  }
  return (
    <div className="mx-auto mt-20 w-[520px] text-center">
      <p className="text-lead font-bold">Nothing on the floor yet</p>
      <p className="mt-2 text-ink-2">
        {mayOpen
          ? "Open a new build from its engine layout, or import one that another shop exported."
          : "An assembler or the lead opens the first build."}
      </p>
    </div>
  );
}
