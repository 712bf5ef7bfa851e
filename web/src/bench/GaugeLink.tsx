import { useEffect, useRef, useState } from "react";
import type { Build, Schemas } from "../api/client";

type GaugeLinkProps = {
  build: Build;
  /** The gauge in hand. */
  gauge: string;
  onReading: (raw: string) => void;
};

type Link = { state: "off" | "trying" | "on" | "lost"; note: string };

const WORD: Record<Link["state"], string> = {
  off: "Pair the gauge",
  trying: "Pairing \u2026",
  on: "Paired",
  lost: "Gauge lost",
};

/** Pairs the bench with the gauge in hand: what its button sends drops into the active cell. */
export function GaugeLink({ build, gauge, onReading }: GaugeLinkProps) {
  const [wanted, setWanted] = useState(false);
  const [link, setLink] = useState<Link>({ state: "off", note: "" });
  const take = useRef(onReading);
  useEffect(() => {
    take.current = onReading;
  });
  useEffect(() => {
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
          take.current(said.raw);
      }
    };
    source.onerror = () => setLink({ state: "lost", note: "the server does not answer" });
    return () => source.close();
  }, [wanted, gauge, build.code]);
  const name = build.gauges.find((g) => g.gauge.id === gauge)?.gauge.name ?? gauge;
  return (
    <span className="flex items-center gap-2 text-small" data-link={link.state}>
      {link.note && (
        <span role="status" className="max-w-[210px] bg-ink px-2 text-note leading-tight text-white">
          {link.note}
        </span>
      )}
      <button
        type="button"
        aria-pressed={wanted}
        title={name}
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
