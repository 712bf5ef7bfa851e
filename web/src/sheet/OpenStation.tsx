type OpenStationProps = { station: string; onOpen: (station: string) => void };

/** The head of a row of the sheet: the place, which opens on the bench. */
export function OpenStation({ station, onOpen }: OpenStationProps) {
  return (
    <th scope="row" className="text-left">
      <button
        type="button"
        className="font-semibold underline-offset-2 hover:underline"
        onClick={() => onOpen(station)}
        aria-label={`${station}, open on the bench`}
      >
        {station}
      </button>
    </th>
  );
}
