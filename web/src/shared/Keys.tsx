/** A key and what it does; with `run` it is a button as well, for a hand that has no keys. */
export type KeyHint = { press: string[]; does: string; run?: () => void };

/** What the keyboard does here. */
export function Keys({ keys }: { keys: KeyHint[] }) {
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-small text-ink-2">
      {keys.map(({ press, does, run }) => {
        const hint = (
          <>
            {press.map((key) => (
              <kbd key={key}>{key}</kbd>
            ))}
            {does}
          </>
        );
        const look = "flex min-h-9 items-center gap-1.5 whitespace-nowrap";
        return run ? (
          <button
            key={does}
            type="button"
            tabIndex={-1}
            data-does={does}
            className={`${look} hover:text-ink`}
            onClick={run}
          >
            {hint}
          </button>
        ) : (
          <span key={does} className={look}>
            {hint}
          </span>
        );
      })}
    </div>
  );
}
