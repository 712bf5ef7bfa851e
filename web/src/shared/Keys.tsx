/** What the keyboard does here. */
export function Keys({ keys }: { keys: { press: string[]; does: string }[] }) {
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-small text-ink-2">
      {keys.map(({ press, does }) => (
        <span key={does} className="flex items-center gap-1.5 whitespace-nowrap">
          {press.map((key) => (
            <kbd key={key}>{key}</kbd>
          ))}
          {does}
        </span>
      ))}
    </div>
  );
}
