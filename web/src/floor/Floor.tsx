import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { FloorRow, Session } from "../api/client";
import { floorQuery } from "../api/queries";
import { miniatureScale } from "../line/Miniature";
import { Mark } from "../marks/Mark";
import { Keys } from "../shared/Keys";
import { ProblemNote } from "../shared/ProblemNote";
import type { Shown } from "../shared/words";
import { FloorBuild } from "./FloorBuild";
import { ImportBuild } from "./ImportBuild";
import { NewBuild } from "./NewBuild";

const LEGEND: Shown[] = ["in", "edge", "tight", "loose", "open", "stale", "predicted"];

/** Every build on the floor: how far it is, and what it needs next. */
export function Floor({ session }: { session: Session }) {
  const floor = useQuery(floorQuery);
  const navigate = useNavigate();
  const [chosen, setChosen] = useState(0);
  const [adding, setAdding] = useState(false);
  const list = useRef<HTMLDivElement>(null);
  const rows = floor.data ?? [];
  const current = rows[Math.min(chosen, rows.length - 1)];
  const mayOpen = session.capabilities.open_builds;
  const count = rows.length;
  const scale = miniatureScale(rows);

  useEffect(() => {
    if (count > 0) list.current?.focus({ preventScroll: true });
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
    }
  };
  return (
    <>
      <main className="flex min-h-0 flex-1 flex-col bg-paper">
        <div className="flex h-14 flex-none items-center gap-4 px-6">
          <h1 className="text-title font-bold text-dye">Floor</h1>
          <p className="text-ink-2">
            {rows.length === 1 ? "1 build" : `${rows.length} builds`}. Cranks drawn to one scale, front at the
            left.
          </p>
          <div className="ml-auto flex gap-6" aria-hidden="true">
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
            <span>Line, front at the left</span>
            <span>Next</span>
            <span>Last recorded</span>
          </div>
        )}
        <ProblemNote problem={floor.error} />
        {floor.isSuccess && rows.length === 0 && <EmptyFloor mayOpen={mayOpen} />}
        <div
          ref={list}
          role="listbox"
          aria-label="Builds"
          aria-activedescendant={current && `build-${current.code}`}
          tabIndex={0}
          onKeyDown={onKey}
          className="min-h-0 flex-1 overflow-auto focus-visible:outline-none"
        >
          {rows.map((row, i) => (
            <FloorBuild
              scale={scale}
              key={row.id}
              row={row}
              chosen={row === current}
              onChoose={() => setChosen(i)}
              onOpen={() => open(row)}
            />
          ))}
        </div>
      </main>
      <footer className="flex h-[52px] flex-none items-center gap-4 border-t border-hair bg-steel-1 px-6">
        <Keys
          keys={[
            { press: ["↑", "↓"], does: "build" },
            { press: ["Enter"], does: "open on the bench" },
            ...(mayOpen ? [{ press: ["N"], does: "new build" }] : []),
          ]}
        />
        <div className="ml-auto flex gap-3">
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
      {adding && (
        <NewBuild
          onClose={() => setAdding(false)}
          onOpened={(code) => void navigate(`/builds/${code}/bench`)}
        />
      )}
    </>
  );
}

function EmptyFloor({ mayOpen }: { mayOpen: boolean }) {
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
