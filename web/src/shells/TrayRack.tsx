import type { Schemas } from "../api/client";
import { Digits } from "../shared/Figure";

type TrayRackProps = {
  shells: Schemas["TypedShell"][];
  used: { mark: string; station: string }[] | undefined;
  onRemove: (mark: string) => void;
};

/** The halves as they lie on the tray, uppers and lowers apart, each with where it goes. */
export function TrayRack({ shells, used, onRemove }: TrayRackProps) {
  return (
    <div className="mt-2 grid grid-cols-2 gap-4">
      {(["upper", "lower"] as const).map((side) => (
        <div key={side}>
          <h3 className="text-note text-ink-2">{side}s</h3>
          <ul>
            {shells
              .filter((s) => s.half === side)
              .map((s) => {
                const goes = used?.find((u) => u.mark === s.mark)?.station;
                return (
                  <li
                    key={s.mark}
                    data-shell={s.mark}
                    className={`flex h-8 items-center gap-2 border-b border-hair text-[15px] ${goes ? "bg-dye-wash" : ""}`}
                  >
                    <HalfArc up={side === "upper"} filled={Boolean(goes)} />
                    <b className="num w-9">{s.mark}</b>
                    <span className="num flex-1">
                      <Digits text={s.wall} />
                    </span>
                    <span className="w-8 text-small font-bold text-dye">{goes}</span>
                    <button
                      type="button"
                      aria-label={`Take ${s.mark} off the tray`}
                      onClick={() => onRemove(s.mark)}
                      className="h-7 w-7 text-ink-2"
                    >
                      ×
                    </button>
                  </li>
                );
              })}
          </ul>
        </div>
      ))}
    </div>
  );
}

function HalfArc({ up, filled }: { up: boolean; filled: boolean }) {
  return (
    <svg width="24" height="14" viewBox="0 0 24 14" aria-hidden="true" className="flex-none">
      <path
        d={up ? "M1 13A11 11 0 0 1 23 13H19A7 7 0 0 0 5 13z" : "M1 1A11 11 0 0 0 23 1H19A7 7 0 0 1 5 1z"}
        fill={filled ? "var(--color-dye)" : "var(--color-steel-3)"}
        stroke={filled ? "var(--color-dye)" : "var(--color-ink-3)"}
      />
    </svg>
  );
}
