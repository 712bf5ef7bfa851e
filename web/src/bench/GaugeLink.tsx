import { useEffect, useRef, useState } from "react";
import type { Build, Schemas } from "../api/client";

type GaugeLinkProps = {
  build: Build;
  /** The gauge in hand. */
  gauge: string;
  /** Whether a figure can be taken now: not behind a dialog. */
  ready: boolean;
  /** Whether something half typed is in the cell that the figure would wipe. */
  typing: boolean;
  onReading: (raw: string) => void;
};

type Link = { state: "off" | "trying" | "on" | "lost"; note: string };

const WORD: Record<Link["state"], string> = {
  off: "Pair",
  trying: "Pairing \u2026",
  on: "Paired",
  lost: "Gauge lost",
};

/** What the hand has to do before a figure of the gauge is taken. */
function waitsFor(ready: boolean): string {
  return ready ? "keep what is typed, or clear it with Esc" : "close the dialog";
}

/** Pairs the bench with the gauge in hand: what its button sends drops into the active cell. */
export function GaugeLink({ build, gauge, ready, typing, onReading }: GaugeLinkProps) {
  const [wanted, setWanted] = useState(false);
  const [link, setLink] = useState<Link>({ state: "off", note: "" });
  // What the button sent, until it can be taken.
  const [sent, setSent] = useState<string[]>([]);
  const take = useRef(onReading);
  useEffect(() => {
    take.current = onReading;
  });
  useEffect(() => {
    const [first, ...rest] = sent;
    if (!ready || typing || first === undefined) return;
    setSent(rest);
    take.current(first);
  }, [sent, ready, typing]);
  useEffect(() => {
    setSent([]);
    if (!wanted) {
      setLink({ state: "off", note: "" });
      return;
    }
    setLink({ state: "trying", note: "" });
    const query = new URLSearchParams({ build: build.code, gauge });
    const source = new EventSource(`/api/v1/gauge-link?${query}`);
    source.onmessage = (event) => {
      const said = JSON.parse(event.data) as Schemas["GaugeSaid"];
      switch (said.kind) {
        case "connected":
          return setLink({ state: "on", note: "" });
        case "lost":
          return setLink({ state: "lost", note: said.detail });
        case "noise":
          return setLink({ state: "on", note: said.detail });
        case "reading":
          setLink({ state: "on", note: "" });
          setSent((all) => [...all, said.raw]);
      }
    };
    source.onerror = () => setLink({ state: "lost", note: "the server does not answer" });
    return () => source.close();
  }, [wanted, gauge, build.code]);
  const waits = sent.length > 0 && `${sent.join(", ")} waits: ${waitsFor(ready)}`;
  const name = build.gauges.find((g) => g.gauge.id === gauge)?.gauge.name ?? gauge;
  return (
    <span className="flex items-center gap-2 text-small" data-link={link.state}>
      {(waits || link.note) && (
        <span role="status" className="max-w-[210px] bg-ink px-2 text-note leading-tight text-white">
          {waits || link.note}
        </span>
      )}
      <button
        type="button"
        aria-pressed={wanted}
        title={`Pair the ${name}: what it sends is typed`}
        onClick={() => setWanted((w) => !w)}
        className={`flex h-7 items-center gap-1.5 border px-2 font-semibold whitespace-nowrap ${
          link.state === "on" ? "border-dye bg-dye text-white" : "border-hair-strong bg-paper text-ink"
        }`}
      >
        <svg width="15" height="10" viewBox="0 0 15 10" aria-hidden="true">
          <path d="M1 8V5h4V1h4v4h5" fill="none" stroke="currentColor" strokeWidth="1.6" />
          {link.state === "lost" && <path d="M9 0l6 9" stroke="currentColor" strokeWidth="1.6" />}
        </svg>
        {WORD[link.state]}
      </button>
    </span>
  );
}
